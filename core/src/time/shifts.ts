import { MINUTES_PER_DAY } from './instant.ts'

/** Working hours of one day as [from, to) in minutes after its midnight; `to` may run into the next day. */
export type Shift = readonly [from: number, to: number]

const SHIFT = /^(\d{1,2}):(\d{2})-(\d{1,2}):(\d{2})$/

/**
 * Reads `"07:00-11:30"`; `"22:00-06:00"` runs into the next day, `"16:00-24:00"` to its end.
 * @returns null where the text is no shift or has no length
 */
export const parseShift = (text: string): Shift | null => {
  const match = SHIFT.exec(text.replaceAll(' ', ''))
  if (!match) return null
  const [h1, m1, h2, m2] = [Number(match[1]), Number(match[2]), Number(match[3]), Number(match[4])]
  if (h1 > 23 || m1 > 59 || h2 > 24 || m2 > 59 || (h2 === 24 && m2 > 0)) return null
  const from = h1 * 60 + m1
  const to = h2 * 60 + m2
  if (to === from) return null
  return [from, to > from ? to : to + MINUTES_PER_DAY]
}

export const formatClock = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
