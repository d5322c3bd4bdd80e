import { countBefore, nextWork, settle, shiftWork, Table, tableAt } from './calendar'
import {
  ABSENT, beginRows, byteAt, calendar, count, finishPin, finishRows, follows, inStart, FINISHED, FINISH_MILESTONE, HAMMOCK, kind, linkCalendar, linkCode, linkFrom,
  linkLag, NONE, onPath, onRows, order, projectFinishRow, remainingRows, rowOf, startPin, startRows, NOT_STARTED, STARTED, state, WIDTH, wordAt,
} from './layout'

/**
 * Counts, for each activity, the columns 0 … width − 1 in which it is on the longest path of the last pass: back over the order, from those
 * with the latest finish, over the links that drive (drivingLinks.ts is what it must agree with). */
export function countLongestPath(width: i32): void {
  memory.fill(onRows, 0, <usize>count * <usize>(WIDTH * 4))
  for (let at = count - 1; at >= 0; at--) {
    const i = wordAt(order, at)
    if (byteAt(kind, i) == HAMMOCK) continue
    const on = rowOf(onRows, i)
    const finish = rowOf(finishRows, i)
    let any: v128 = i32x4.splat(0)
    for (let c: usize = 0; c < <usize>(WIDTH * 4); c += 16) {
      const here = v128.or(v128.load(on + c), i32x4.eq(v128.load(finish + c), v128.load(projectFinishRow + c)))
      v128.store(on + c, here)
      any = v128.or(any, here)
    }
    if (!v128.any_true(any)) continue
    const found = -sumOf(on, width)
    if (found == 0) continue
    const tally = onPath + ((<usize>i) << 2)
    store<i32>(tally, load<i32>(tally) + found)
    for (let k = wordAt(inStart, i); k < wordAt(inStart, i + 1); k++) walkBack(i, k, width, on)
  }
}

/** Sum of the columns 0 … width − 1 of a row. */
function sumOf(row: usize, width: i32): i32 {
  const end = row + ((<usize>width) << 2)
  const whole = end & ~15
  let four: v128 = i32x4.splat(0)
  for (; row < whole; row += 16) four = i32x4.add(four, v128.load(row))
  let sum = i32x4.extract_lane(four, 0) + i32x4.extract_lane(four, 1) + i32x4.extract_lane(four, 2) + i32x4.extract_lane(four, 3)
  for (; row < end; row += 4) sum += load<i32>(row)
  return sum
}

/** Puts the predecessor of link k on the path in those columns in which activity i is on it and the link drives. */
function walkBack(i: i32, k: i32, width: i32, on: usize): void {
  const ownState = byteAt(state, i)
  const isFinished = ownState == FINISHED
  if (!isFinished && (wordAt(startPin, i) != NONE || wordAt(finishPin, i) != NONE)) return
  const code = byteAt(linkCode, k)
  const onFinish = (code & 1) == 1
  const fromStart = (code & 2) == 2
  const from = wordAt(linkFrom, k)
  const isAtFinish = byteAt(kind, i) == FINISH_MILESTONE
  if (!isFinished && !isAtFinish && !onFinish && follows && ownState == STARTED) return
  const table = tableAt(wordAt(calendar, i))
  const lag = wordAt(linkLag, k)
  const dates = rowOf(fromStart ? startRows : finishRows, from)
  const fromOn = rowOf(onRows, from)
  const fromLeft = rowOf(remainingRows, from)
  const fromBegin = rowOf(beginRows, from)
  const left = rowOf(remainingRows, i)
  const begin = rowOf(beginRows, i)
  // On one calendar without a lag the predecessor's count is known.
  const isKnown = lag == 0 && wordAt(calendar, from) == wordAt(calendar, i) && byteAt(state, from) == NOT_STARTED
  if (isKnown && !isFinished && !isAtFinish) {
    walkBackByCounts(begin, onFinish ? left : 0, fromBegin, fromStart ? 0 : fromLeft, fromLeft, on, fromOn)
    return
  }
  const finish = rowOf(finishRows, i)
  const start = rowOf(startRows, i)
  const end = (<usize>width) << 2
  for (let at: usize = 0; at < end; at += 4) {
    if ((at & 15) == 0 && !v128.any_true(v128.andnot(v128.load(on + at), v128.load(fromOn + at)))) {
      at += 12
      continue
    }
    if (load<i32>(on + at) == 0 || load<i32>(fromOn + at) != 0 || load<i32>(fromLeft + at) == ABSENT) continue
    let drives: bool
    if (isFinished || isAtFinish) {
      const limit = shifted(k, load<i32>(dates + at), lag, at)
      if (isAtFinish || onFinish) drives = settle(table, limit, at) == load<i32>(finish + at)
      else drives = nextWork(table, limit, at) == load<i32>(start + at)
    } else {
      const needed = load<i32>(begin + at) + (onFinish ? load<i32>(left + at) : 0)
      drives = countBefore(table, shifted(k, load<i32>(dates + at), lag, at), at) == needed
    }
    if (drives) store<i32>(fromOn + at, -1)
  }
}

/**
 * Over whole rows at once, where the counts of both are known. Columns that nobody asks for come to something that nobody looks at.
 * @param more - minutes beyond the begin that the link needs, or 0 for none; fromMore - those beyond the predecessor's
 */
function walkBackByCounts(begin: usize, more: usize, fromBegin: usize, fromMore: usize, fromLeft: usize, on: usize, fromOn: usize): void {
  const absent = i32x4.splat(ABSENT)
  for (let c: usize = 0; c < <usize>(WIDTH * 4); c += 16) {
    let needed = v128.load(begin + c)
    if (more) needed = i32x4.add(needed, v128.load(more + c))
    let reached = v128.load(fromBegin + c)
    if (fromMore) reached = i32x4.add(reached, v128.load(fromMore + c))
    const drives = v128.andnot(i32x4.eq(reached, needed), i32x4.eq(v128.load(fromLeft + c), absent))
    v128.store(fromOn + c, v128.or(v128.load(fromOn + c), v128.and(v128.load(on + c), drives)))
  }
}

@inline function shifted(k: i32, date: i32, lag: i32, at: usize): i32 {
  return lag == 0 ? date : shiftWork(tableAt(wordAt(linkCalendar, k)), date, lag, at)
}
