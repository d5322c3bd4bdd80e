/** Lengths of a day and a week in working minutes, for reading and showing durations. */
export interface DayLengths {
  readonly dayMinutes: number
  readonly weekMinutes: number
}
export const CLOCK_LENGTHS: DayLengths = { dayMinutes: 1440, weekMinutes: 10_080 }
/** Of a calendar that says nothing else. */
export const DEFAULT_LENGTHS: DayLengths = { dayMinutes: 480, weekMinutes: 2400 }

/**
 * Working minutes of a duration as a file may write it: minutes, or "30m", "4h", "10d", "2w".
 * @returns a whole number of minutes
 */
export const durationMinutes = (value: number | string, lengths: DayLengths): number => {
  if (typeof value === 'number') return value
  const match = /^\s*([+-]?\d+(?:\.\d+)?)\s*([mhdw])\s*$/.exec(value)
  if (!match) throw new RangeError(`durationMinutes: "${value}" is not a duration`)
  const perUnit = { m: 1, h: 60, d: lengths.dayMinutes, w: lengths.weekMinutes }[
    match[2] as 'm' | 'h' | 'd' | 'w'
  ]
  return Math.round(Number(match[1]) * perUnit)
}

type Named = DayLengths & { readonly id: string }
const byIdOfList = new WeakMap<readonly Named[], ReadonlyMap<string, DayLengths>>()

/** What a day and a week count as on a calendar of the plan; the clock's for the clock and for what the plan does not have. */
export const lengthsOf = (plan: { readonly calendars: readonly Named[] }, id: string): DayLengths => {
  let byId = byIdOfList.get(plan.calendars)
  if (!byId) byIdOfList.set(plan.calendars, (byId = new Map(plan.calendars.map((c) => [c.id, c]))))
  return byId.get(id) ?? CLOCK_LENGTHS
}
