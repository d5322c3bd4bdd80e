/**
 * What the kernel works on lies in one memory that its owner has laid out (src/schedule/rows/kernelRows.ts): the network's arrays, the
 * tables of its calendars, and one row of WIDTH numbers of 32 bits for each activity and each date. Pointers are globals that the owner
 * sets; the kernel allocates nothing.
 */

/** Iterations that are scheduled beside each other. */
export const WIDTH: i32 = 128
/** A row, in bytes as a power of two. */
const ROW_SHIFT: u32 = 9

/** Stands for "no date". */
export const NONE: i32 = i32.MIN_VALUE
/** In place of remaining minutes: the activity is not there in that iteration. */
export const ABSENT: i32 = -1

/** Kinds and states, as src/network/network.ts numbers them. */
export const FINISH_MILESTONE: u8 = 2
export const HAMMOCK: u8 = 3
export const NOT_STARTED: u8 = 0
export const STARTED: u8 = 1
export const FINISHED: u8 = 2

// Of each activity.
export let count: i32 = 0
export let order: usize = 0
export let kind: usize = 0
export let state: usize = 0
/** 1 for work without actual dates and overriding constraints, that is there in every iteration. */
export let plain: usize = 0
/** 1 where the start is asked for: by a link, a hammock, a cut. */
export let startAsked: usize = 0
export let calendar: usize = 0
export let actualStart: usize = 0
export let startFloor: usize = 0
export let finishFloor: usize = 0
export let startPin: usize = 0
export let finishPin: usize = 0
export let startCut: usize = 0
export let finishCut: usize = 0

// Of each link, in order of successor; those into activity i are inStart[i] … inStart[i + 1].
export let inStart: usize = 0
export let linkFrom: usize = 0
export let linkTo: usize = 0
export let linkCode: usize = 0
export let linkLag: usize = 0
export let linkCalendar: usize = 0
// Those out of activity i are outLink[outStart[i]] … outLink[outStart[i + 1]].
export let outStart: usize = 0
export let outLink: usize = 0

/** Whether started work drops the start limits that come after its actual start. */
export let follows: bool = false
export let projectStart: i32 = 0

// Rows by activity.
export let remainingRows: usize = 0
export let startRows: usize = 0
export let finishRows: usize = 0
/** Working count at which the remaining work begins. */
export let beginRows: usize = 0
/** Of each activity one bit by column: whether it is on the longest path. */
export let onBits: usize = 0
/** The latest finish of each activity in any column of the last pass. */
export let latest: usize = 0
// Rows of what is scheduled again with other durations; 0 where nothing is.
export let otherStartRows: usize = 0
export let otherFinishRows: usize = 0
export let otherBeginRows: usize = 0
/** Of each activity: whether it is to be scheduled again, and whether its other rows are the ones that count. */
export let dirty: usize = 0
export let moved: usize = 0

/** Place of each activity in the order. */
export let rank: usize = 0
/** Of each activity: in how many iterations it was on the longest path. */
export let onPath: usize = 0

// Rows of their own.
/** Where the project finishes. */
export let projectFinishRow: usize = 0
export let startLimitRow: usize = 0
export let finishLimitRow: usize = 0

@inline export function byteAt(base: usize, i: i32): u8 {
  return load<u8>(base + <usize>i)
}
@inline export function wordAt(base: usize, i: i32): i32 {
  return load<i32>(base + ((<usize>i) << 2))
}
/** Pointer to the row of activity i. */
@inline export function rowOf(rows: usize, i: i32): usize {
  return rows + ((<usize>i) << ROW_SHIFT)
}
@inline export function fillRow(row: usize, value: i32): void {
  const all = i32x4.splat(value)
  for (let at: usize = 0; at < <usize>(WIDTH * 4); at += 16) v128.store(row + at, all)
}
