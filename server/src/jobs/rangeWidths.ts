/** Numbers that one range works through: short enough to stop and to take turns, long enough to be worth a message. */
const RANGE_NUMBERS = 3_000_000
/** Ranges of a job, at least: what it came to so far is shown between them. */
const FEWEST_RANGES = 10

interface Cut {
  /** Units of the job, and numbers that each works through. */
  readonly total: number
  readonly perUnit: number
  /** Units that are quickest run together. */
  readonly together: number
  /** Ranges that are run beside each other. */
  readonly lanes: number
}

/**
 * How wide the ranges of a job are, in units, each a multiple of those that are run together: the first ones short, so that something is
 * soon there to be seen, then twice as wide from turn to turn.
 * @returns the width of a range by how many were begun before it
 */
export const rangeWidths = ({ total, perUnit, together, lanes }: Cut): ((begun: number) => number) => {
  const units = Math.min(total / FEWEST_RANGES, RANGE_NUMBERS / Math.max(1, perUnit))
  const widest = Math.max(1, Math.round(units / together)) * together
  return (begun) => Math.min(widest, together * 2 ** Math.floor(begun / lanes))
}
