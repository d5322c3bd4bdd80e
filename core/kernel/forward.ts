import {
  addWork, beyondTable, clearBeyond, countBefore, endsAt, goneBeyond, losesDays, minutesAt, raiseCounts, raiseShifted, settle, subWork, Table, tableAt,
} from './calendar'
import {
  ABSENT, actualStart, beginRows, byteAt, calendar, count, dirty, fillRow, finishCut, finishFloor, finishLimitRow,
  finishPin, finishRows, follows, inStart, FINISHED, FINISH_MILESTONE, HAMMOCK, kind, latest, linkCalendar, linkCode, linkFrom, linkLag, linkTo, moved, NONE, order,
  otherBeginRows, otherFinishRows, otherStartRows, outLink, outStart, plain, projectFinishRow, projectStart, rank, remainingRows, rowOf,
  startAsked, startCut, startFloor, startLimitRow, startPin, startRows, STARTED, state, WIDTH, wordAt,
} from './layout'

/** Rows of activity i as they stand: where it was moved, its other ones. */
@inline function startRow(i: i32): usize {
  return rowOf(byteAt(moved, i) ? otherStartRows : startRows, i)
}
@inline function finishRow(i: i32): usize {
  return rowOf(byteAt(moved, i) ? otherFinishRows : finishRows, i)
}
@inline function beginRow(i: i32): usize {
  return rowOf(byteAt(moved, i) ? otherBeginRows : beginRows, i)
}

/** into = max(into, from + by), over a row. */
@inline function raise(into: usize, from: usize, by: i32): void {
  const add = i32x4.splat(by)
  for (let at: usize = 0; at < <usize>(WIDTH * 4); at += 16)
    v128.store(into + at, i32x4.max_s(v128.load(into + at), i32x4.add(v128.load(from + at), add)))
}

/** into = max(into, from + more + by), over a row. */
@inline function raiseBySum(into: usize, from: usize, more: usize, by: i32): void {
  const add = i32x4.splat(by)
  for (let at: usize = 0; at < <usize>(WIDTH * 4); at += 16) {
    const sum = i32x4.add(i32x4.add(v128.load(from + at), v128.load(more + at)), add)
    v128.store(into + at, i32x4.max_s(v128.load(into + at), sum))
  }
}

/**
 * The forward pass for the columns 0 … width − 1 of all activities (forwardPass.ts is what it must agree with, to the minute).
 * @returns whether every table reached far enough
 */
export function forward(width: i32): bool {
  clearBeyond()
  fillRow(projectFinishRow, NONE)
  for (let at = 0; at < count; at++) {
    const i = wordAt(order, at)
    if (byteAt(kind, i) == HAMMOCK) break // hammocks are last
    const finish = rowOf(finishRows, i)
    step(i, width, rowOf(startRows, i), finish, rowOf(beginRows, i))
    if (beyondTable) return false
    store<i32>(latest + ((<usize>i) << 2), raiseProject(finish))
  }
  closeProject(width)
  return true
}

/** Raises the finishes of the project to those of an activity. @returns the latest of these, in whatever column */
@inline function raiseProject(finish: usize): i32 {
  let last: v128 = i32x4.splat(NONE)
  for (let at: usize = 0; at < <usize>(WIDTH * 4); at += 16) {
    const four = v128.load(finish + at)
    v128.store(projectFinishRow + at, i32x4.max_s(v128.load(projectFinishRow + at), four))
    last = i32x4.max_s(last, four)
  }
  return max(
    max(i32x4.extract_lane(last, 0), i32x4.extract_lane(last, 1)),
    max(i32x4.extract_lane(last, 2), i32x4.extract_lane(last, 3)),
  )
}

/** Latest finishes as they stand after another pass, hammocks aside. */
function projectFinishes(width: i32): void {
  fillRow(projectFinishRow, NONE)
  for (let i = 0; i < count; i++)
    if (byteAt(kind, i) != HAMMOCK) raise(projectFinishRow, finishRow(i), 0)
  closeProject(width)
}

/** A network in which nothing finishes does so at the project's start. */
function closeProject(width: i32): void {
  for (let c = 0; c < width; c++) {
    const at = projectFinishRow + ((<usize>c) << 2)
    if (load<i32>(at) == NONE) store<i32>(at, projectStart)
  }
}

/**
 * Schedules again, from the activities marked dirty on, with what now stands in their rows of remaining work; the dates of the last pass
 * stay. Fills the row of project finishes.
 * @param first, last - places in the order of the first and the last that is dirty
 * @returns whether every table reached far enough
 */
export function forwardAgain(width: i32, first: i32, last: i32): bool {
  clearBeyond()
  for (let at = first; at <= last; at++) {
    const i = wordAt(order, at)
    if (byteAt(dirty, i) == 0) continue
    store<u8>(dirty + <usize>i, 0)
    if (beyondTable || byteAt(state, i) == FINISHED) continue
    step(i, width, rowOf(otherStartRows, i), rowOf(otherFinishRows, i), rowOf(otherBeginRows, i))
    if (isAsBefore(i, width)) continue
    store<u8>(moved + <usize>i, 1)
    for (let o = wordAt(outStart, i); o < wordAt(outStart, i + 1); o++) {
      const to = wordAt(linkTo, wordAt(outLink, o))
      store<u8>(dirty + <usize>to, 1)
      const place = wordAt(rank, to)
      if (place > last) last = place
    }
  }
  const isGood = !beyondTable
  if (isGood) projectFinishes(width)
  memory.fill(moved, 0, count)
  return isGood
}

function isAsBefore(i: i32, width: i32): bool {
  const startIsAsked = byteAt(startAsked, i) == 1
  for (let c = 0; c < width; c++) {
    const at = (<usize>c) << 2
    if (load<i32>(rowOf(finishRows, i) + at) != load<i32>(rowOf(otherFinishRows, i) + at)) return false
    if (load<i32>(rowOf(beginRows, i) + at) != load<i32>(rowOf(otherBeginRows, i) + at)) return false
    if (startIsAsked && load<i32>(rowOf(startRows, i) + at) != load<i32>(rowOf(otherStartRows, i) + at)) return false
  }
  return true
}

/** One activity whose predecessors are done. Rows of finished work stand from the beginning. */
function step(i: i32, width: i32, start: usize, finish: usize, begin: usize): void {
  const isPlain = byteAt(plain, i) == 1
  const ownState = byteAt(state, i)
  if (!isPlain) {
    if (ownState == FINISHED) return
    if (wordAt(startPin, i) != NONE || wordAt(finishPin, i) != NONE) {
      standPinned(i, width, start, finish, begin)
      return
    }
  }
  const table = tableAt(wordAt(calendar, i))
  const hasFinishLimits = gatherLimits(i, width, table, begin)
  const remaining = rowOf(remainingRows, i)
  if (hasFinishLimits) placeUnderLimits(i, width, table, remaining, start, finish, begin)
  else placeAtCount(i, width, table, remaining, start, finish, begin)
  if (byteAt(kind, i) == FINISH_MILESTONE) settlePoints(width, table, remaining, start, finish)
  if (isPlain) return
  for (let c = 0; c < width; c++) {
    const at = (<usize>c) << 2
    if (load<i32>(remaining + at) != ABSENT) continue
    store<i32>(start + at, NONE)
    store<i32>(finish + at, NONE)
    store<i32>(begin + at, NONE)
  }
  if (wordAt(startCut, i) != NONE || wordAt(finishCut, i) != NONE) cut(i, width, table, remaining, start, finish, begin)
  if (ownState == STARTED) fillRow(start, wordAt(actualStart, i))
}

/**
 * Limits of an activity, over the row: those of its start as working counts of its own calendar; of a finish milestone also as instants,
 * since where it settles is told by the instant; those of its finish as instants. Rows of instants hold nothing of it where it has none.
 * @param counts - the row of counts
 * @returns whether anything limits its finish
 */
function gatherLimits(i: i32, width: i32, table: Table, counts: usize): bool {
  const own = wordAt(calendar, i)
  const keepsInstants = byteAt(kind, i) == FINISH_MILESTONE
  const startLinksHold = !(follows && byteAt(state, i) == STARTED)
  const floor = wordAt(finishFloor, i)
  let hasInstants = keepsInstants
  let hasFinishLimits = floor != NONE
  const startsFrom = wordAt(startFloor, i)
  if (losesDays(table))
    for (let at: usize = 0; at < (<usize>width) << 2; at += 4)
      store<i32>(counts + at, countBefore(table, startsFrom, at))
  else fillRow(counts, countBefore(table, startsFrom, 0))
  if (keepsInstants) fillRow(startLimitRow, startsFrom)
  if (hasFinishLimits || keepsInstants) fillRow(finishLimitRow, floor)
  const end = wordAt(inStart, i + 1)
  for (let k = wordAt(inStart, i); k < end; k++) {
    const code = byteAt(linkCode, k)
    const limitsFinish = (code & 1) == 1
    if (!startLinksHold && !limitsFinish) continue
    const fromStart = (code & 2) == 2
    const from = wordAt(linkFrom, k)
    const lag = wordAt(linkLag, k)
    const onOwn = lag == 0 || wordAt(linkCalendar, k) == own
    const dates = fromStart ? startRow(from) : finishRow(from)
    if (limitsFinish) {
      if (!hasFinishLimits && !keepsInstants) fillRow(finishLimitRow, NONE)
      hasFinishLimits = true
      if (lag == 0) raise(finishLimitRow, dates, 0)
      else raiseShifted(tableAt(wordAt(linkCalendar, k)), dates, lag, finishLimitRow, width)
    } else if (onOwn && !keepsInstants && byteAt(plain, from) == 1 && wordAt(calendar, from) == own) {
      // On one calendar the count of the predecessor is known.
      if (fromStart) raise(counts, beginRow(from), lag)
      else raiseBySum(counts, beginRow(from), rowOf(remainingRows, from), lag)
    } else if (lag != 0 && onOwn && !keepsInstants) raiseCounts(table, dates, lag, counts, width)
    else {
      if (!hasInstants) fillRow(startLimitRow, NONE)
      hasInstants = true
      if (lag == 0) raise(startLimitRow, dates, 0)
      else raiseShifted(tableAt(wordAt(linkCalendar, k)), dates, lag, startLimitRow, width)
    }
  }
  if (hasInstants) raiseCounts(table, startLimitRow, 0, counts, width)
  // A lead may ask for more than the table knows.
  const low = table.isClock ? i32.MIN_VALUE : table.lowCount
  if (leastOf(counts, width) < low) goneBeyond()
  return hasFinishLimits
}

/** Least of the columns 0 … width − 1 of a row. */
export function leastOf(row: usize, width: i32): i32 {
  const end = row + ((<usize>width) << 2)
  const whole = end & ~15
  let four: v128 = i32x4.splat(i32.MAX_VALUE)
  for (; row < whole; row += 16) four = i32x4.min_s(four, v128.load(row))
  let least = min(
    min(i32x4.extract_lane(four, 0), i32x4.extract_lane(four, 1)),
    min(i32x4.extract_lane(four, 2), i32x4.extract_lane(four, 3)),
  )
  for (; row < end; row += 4) least = min(least, load<i32>(row))
  return least
}

/** Puts the work where its start limits leave it, which is where its counts begin: nothing else limits it. */
function placeAtCount(i: i32, width: i32, table: Table, remaining: usize, start: usize, finish: usize, begin: usize): void {
  endsAt(table, begin, remaining, finish, width)
  if (byteAt(startAsked, i) == 1) minutesAt(table, begin, start, width)
}

/** The same under limits of its finish: held open where a limit lies beyond the end of the work. */
function placeUnderLimits(i: i32, width: i32, table: Table, remaining: usize, start: usize, finish: usize, begin: usize): void {
  for (let at: usize = 0; at < (<usize>width) << 2; at += 4) {
    const limit = load<i32>(finishLimitRow + at)
    if (limit == NONE) continue
    const counted = countBefore(table, limit, at) - max(load<i32>(remaining + at), 0)
    if (counted > load<i32>(begin + at)) store<i32>(begin + at, counted)
  }
  placeAtCount(i, width, table, remaining, start, finish, begin)
  for (let at: usize = 0; at < (<usize>width) << 2; at += 4) {
    const limit = load<i32>(finishLimitRow + at)
    const end = load<i32>(finish + at)
    if (limit > end && load<i32>(remaining + at) > 0) store<i32>(finish + at, max(end, settle(table, limit, at)))
  }
}

/** A finish milestone without work stands where the latest of its limits settles. */
function settlePoints(width: i32, table: Table, remaining: usize, start: usize, finish: usize): void {
  for (let at: usize = 0; at < (<usize>width) << 2; at += 4) {
    if (load<i32>(remaining + at) > 0) continue
    const point = settle(table, max(load<i32>(startLimitRow + at), load<i32>(finishLimitRow + at)), at)
    store<i32>(start + at, point)
    store<i32>(finish + at, point)
  }
}

/** An overriding `exactly`: the edge stands there, links and project start ignored. */
function standPinned(i: i32, width: i32, start: usize, finish: usize, begin: usize): void {
  const table = tableAt(wordAt(calendar, i))
  const startAt = wordAt(startPin, i)
  const finishAt = wordAt(finishPin, i)
  const remaining = rowOf(remainingRows, i)
  for (let at: usize = 0; at < (<usize>width) << 2; at += 4) {
    const left = load<i32>(remaining + at)
    const from = startAt != NONE ? startAt : subWork(table, finishAt, left, at)
    const to = finishAt != NONE ? finishAt : addWork(table, startAt, left, at)
    store<i32>(start + at, byteAt(state, i) == STARTED ? wordAt(actualStart, i) : from)
    store<i32>(finish + at, to)
    store<i32>(begin + at, countBefore(table, to, at) - left)
  }
}

/** An overriding `not-after`: the earlier of logic and date. */
function cut(i: i32, width: i32, table: Table, remaining: usize, start: usize, finish: usize, begin: usize): void {
  const startAt = wordAt(startCut, i)
  const finishAt = wordAt(finishCut, i)
  for (let at: usize = 0; at < (<usize>width) << 2; at += 4) {
    const left = load<i32>(remaining + at)
    if (startAt != NONE && load<i32>(start + at) > startAt) {
      store<i32>(start + at, startAt)
      store<i32>(finish + at, addWork(table, startAt, left, at))
    }
    if (finishAt != NONE && load<i32>(finish + at) > finishAt) {
      store<i32>(finish + at, finishAt)
      store<i32>(start + at, subWork(table, finishAt, left, at))
    }
    store<i32>(begin + at, countBefore(table, load<i32>(finish + at), at) - left)
  }
}
