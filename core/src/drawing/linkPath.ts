/** One end of a link on the Ground. */
export interface LinkEnd {
  readonly x: number
  readonly y: number
  /** Whether it is the start of its bar (links leave and land to the left) or the finish (to the right). */
  readonly atStart: boolean
}

const REACH = 9

/**
 * The path of a link: it leaves clear of its bar, runs between the rows, and lands clear of the other bar. A curve where there is
 * room between the ends, else round by the gap between two rows.
 */
export const linkPath = (from: LinkEnd, to: LinkEnd, rowHeight: number): string => {
  const out = from.atStart ? -REACH : REACH
  const into = to.atStart ? -REACH : REACH
  const x1 = from.x + out
  const x2 = to.x + into
  const down = to.y >= from.y ? 1 : -1
  const hasRoom = from.atStart ? false : to.atStart && x2 >= x1
  if (hasRoom) {
    const bend = Math.max(6, Math.min(26, (x2 - x1) / 2 + 6))
    return `M${from.x},${from.y} C${from.x + bend},${from.y} ${to.x - bend},${to.y} ${to.x},${to.y}`
  }
  if (from.atStart === to.atStart) {
    // Both ends on one side: one bow beyond the outer of the two.
    const edge = from.atStart ? Math.min(x1, x2) : Math.max(x1, x2)
    const c = edge + (from.atStart ? -5 : 5)
    return `M${from.x},${from.y} C${c},${from.y} ${c},${to.y} ${to.x},${to.y}`
  }
  const gap = to.y - (down * rowHeight) / 2
  return `M${from.x},${from.y} C${x1 + out * 0.6},${from.y} ${x1 + out * 0.6},${gap} ${x1},${gap} L${x2},${gap} C${x2 + into * 0.6},${gap} ${x2 + into * 0.6},${to.y} ${to.x},${to.y}`
}
