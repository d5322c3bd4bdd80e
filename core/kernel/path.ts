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
    let found = 0
    for (let c = 0; c < width; c++) found -= load<i32>(on + ((<usize>c) << 2))
    if (found == 0) continue
    const tally = onPath + ((<usize>i) << 2)
    store<i32>(tally, load<i32>(tally) + found)
    for (let k = wordAt(inStart, i); k < wordAt(inStart, i + 1); k++) walkBack(i, k, width, on)
  }
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
  const finish = rowOf(finishRows, i)
  const start = rowOf(startRows, i)
  // On one calendar without a lag the predecessor's count is known.
  const isKnown = lag == 0 && wordAt(calendar, from) == wordAt(calendar, i) && byteAt(state, from) == NOT_STARTED
  for (let at: usize = 0; at < (<usize>width) << 2; at += 4) {
    if (load<i32>(on + at) == 0 || load<i32>(fromOn + at) != 0 || load<i32>(fromLeft + at) == ABSENT) continue
    let drives: bool
    if (isFinished || isAtFinish) {
      const limit = shifted(k, load<i32>(dates + at), lag, at)
      if (isAtFinish || onFinish) drives = settle(table, limit, at) == load<i32>(finish + at)
      else drives = nextWork(table, limit, at) == load<i32>(start + at)
    } else {
      const needed = load<i32>(begin + at) + (onFinish ? load<i32>(left + at) : 0)
      const reached = isKnown
        ? load<i32>(fromBegin + at) + (fromStart ? 0 : load<i32>(fromLeft + at))
        : countBefore(table, shifted(k, load<i32>(dates + at), lag, at), at)
      drives = reached == needed
    }
    if (drives) store<i32>(fromOn + at, -1)
  }
}

@inline function shifted(k: i32, date: i32, lag: i32, at: usize): i32 {
  return lag == 0 ? date : shiftWork(tableAt(wordAt(linkCalendar, k)), date, lag, at)
}
