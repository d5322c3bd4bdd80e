import { leastOf } from './forward'
import { countBefore, nextWork, settle, shiftWork, Table, tableAt } from './calendar'
import {
  ABSENT, beginRows, byteAt, calendar, count, finishPin, finishRows, follows, inStart, FINISHED, FINISH_MILESTONE, HAMMOCK, kind, linkCalendar, linkCode, linkFrom,
  latest, linkLag, NONE, onBits, onPath, order, projectFinishRow, remainingRows, rowOf, startPin, startRows, NOT_STARTED, STARTED, state, wordAt,
} from './layout'

/**
 * Counts, for each activity, the columns 0 … width − 1 in which it is on the longest path of the last pass: back over the order, from those
 * with the latest finish, over the links that drive (drivingLinks.ts is what it must agree with). */
export function countLongestPath(width: i32): void {
  memory.fill(onBits, 0, <usize>count * BITS)
  const earliest = leastOf(projectFinishRow, width)
  for (let at = count - 1; at >= 0; at--) {
    const i = wordAt(order, at)
    if (byteAt(kind, i) == HAMMOCK) continue
    const on = bitsOf(i)
    if (wordAt(latest, i) >= earliest) markLast(i, on, width)
    const found = <i32>(popcnt<u64>(load<u64>(on)) + popcnt<u64>(load<u64>(on, 8)))
    if (found == 0) continue
    const tally = onPath + ((<usize>i) << 2)
    store<i32>(tally, load<i32>(tally) + found)
    for (let k = wordAt(inStart, i); k < wordAt(inStart, i + 1); k++) walkBack(i, k, on)
  }
}

/** Bytes of the bits of a row. */
const BITS: usize = 16
@inline function bitsOf(i: i32): usize {
  return onBits + <usize>i * BITS
}
@inline function setBit(bits: usize, column: i32): void {
  const at = bits + ((<usize>column >> 6) << 3)
  store<u64>(at, load<u64>(at) | ((<u64>1) << (column & 63)))
}

/** Puts an activity on the path in the columns 0 … width − 1 in which it finishes with the project. */
function markLast(i: i32, on: usize, width: i32): void {
  const finish = rowOf(finishRows, i)
  for (let c = 0; c < width; c++) {
    const at = (<usize>c) << 2
    if (load<i32>(finish + at) == load<i32>(projectFinishRow + at)) setBit(on, c)
  }
}

/** Puts the predecessor of link k on the path in those columns in which activity i is on it and the link drives. */
function walkBack(i: i32, k: i32, on: usize): void {
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
  const fromOn = bitsOf(from)
  const fromLeft = rowOf(remainingRows, from)
  const fromBegin = rowOf(beginRows, from)
  const left = rowOf(remainingRows, i)
  const begin = rowOf(beginRows, i)
  const finish = rowOf(finishRows, i)
  const start = rowOf(startRows, i)
  // On one calendar without a lag the predecessor's count is known.
  const isKnown = lag == 0 && wordAt(calendar, from) == wordAt(calendar, i) && byteAt(state, from) == NOT_STARTED
  for (let half: usize = 0; half < BITS; half += 8) {
    let open = load<u64>(on + half) & ~load<u64>(fromOn + half)
    for (; open != 0; open &= open - 1) {
      const column = <i32>ctz<u64>(open) + (<i32>half << 3)
      const at = (<usize>column) << 2
      if (load<i32>(fromLeft + at) == ABSENT) continue
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
      if (drives) setBit(fromOn, column)
    }
  }
}

@inline function shifted(k: i32, date: i32, lag: i32, at: usize): i32 {
  return lag == 0 ? date : shiftWork(tableAt(wordAt(linkCalendar, k)), date, lag, at)
}
