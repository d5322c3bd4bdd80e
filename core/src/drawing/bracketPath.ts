import { ROW_HEIGHT } from './tokens.ts'

/** Pixels of a bracket's arms, and of its distance from the edges of the row. */
const ARM = 4
const EDGE = 3

/** An opening bracket at x1 and a closing one at x2, in the row that begins at y; of a point one that opens upward. */
export const bracketPath = (x1: number, x2: number, y: number): string => {
  const [top, bottom] = [y + EDGE, y + ROW_HEIGHT - EDGE]
  if (x2 - x1 < 1) return `M${x1 - ARM},${bottom - ARM}V${bottom}H${x1 + ARM}V${bottom - ARM}`
  return `M${x1 + ARM},${top}H${x1}V${bottom}H${x1 + ARM}M${x2 - ARM},${top}H${x2}V${bottom}H${x2 - ARM}`
}
