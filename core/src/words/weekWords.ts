import { formatClock, parseShift } from '../time/shifts.ts'
import { WEEKDAYS, type Week, type Weekday } from '../time/workingDays.ts'

/** Working hours of a week in words, written and read: "mon–fri 6:30–11:30 12–16:30; sat sun off". */

const short = (minute: number): string => {
  const clock = formatClock(minute % 1440 === 0 && minute > 0 ? 1440 : minute % 1440).replace(/^0(?=\d)/, '')
  return clock.endsWith(':00') ? clock.slice(0, -3) : clock
}

/** "6:30–11:30 12–16:30", "22–6", "round the clock", "off". */
export const shiftWords = (shifts: readonly string[]): string => {
  if (shifts.length === 0) return 'off'
  if (shifts.length === 1 && /^0?0:00-24:00$/.test(shifts[0]!)) return 'round the clock'
  return shifts
    .map((text) => parseShift(text)!)
    .map(([from, to]) => `${short(from)}–${short(to)}`)
    .join(' ')
}

/** Days with the same hours stand together; runs of three or more are written from–to. */
const dayNames = (days: readonly number[]): string => {
  const runs: number[][] = []
  for (const day of days) {
    const last = runs.at(-1)
    if (last && last.at(-1) === day - 1) last.push(day)
    else runs.push([day])
  }
  return runs
    .map((run) =>
      run.length > 2
        ? `${WEEKDAYS[run[0]!]}–${WEEKDAYS[run.at(-1)!]}`
        : run.map((d) => WEEKDAYS[d]).join(' '),
    )
    .join(' ')
}

export const weekWords = (week: Week): string => {
  const byHours = new Map<string, number[]>()
  WEEKDAYS.forEach((day, d) => {
    const words = shiftWords(week[day] ?? [])
    byHours.set(words, [...(byHours.get(words) ?? []), d])
  })
  return [...byHours]
    .sort((a, b) => Number(a[0] === 'off') - Number(b[0] === 'off') || a[1][0]! - b[1][0]!)
    .map(([words, days]) => `${dayNames(days)} ${words}`)
    .join('; ')
}

export type TypedShifts =
  { readonly ok: true; readonly shifts: readonly string[] } | { readonly ok: false; readonly why: string }
export type TypedWeek =
  | { readonly ok: true; readonly week: Record<Weekday, readonly string[]> }
  | { readonly ok: false; readonly why: string }

const HOUR = '(\\d{1,2})(?:[:.](\\d{2}))?'
const SPAN = new RegExp(`^${HOUR}\\s*[-–]\\s*${HOUR}$`)

/** Reads "7-12 13-16", "6:30–11:30, 12–16:30", "22-6", "round the clock", "off". @returns shifts as the plan file writes them, in order */
export const readShifts = (text: string): TypedShifts => {
  const typed = text.trim().toLowerCase()
  if (typed === '' || typed === 'off' || typed === 'none') return { ok: true, shifts: [] }
  if (/^(round the clock|24 ?h|all day|0?0(:00)?\s*[-–]\s*24(:00)?)$/.test(typed))
    return { ok: true, shifts: ['00:00-24:00'] }
  const shifts: { text: string; from: number; to: number }[] = []
  for (const part of typed
    .replace(/\s*[-–]\s*/g, '-')
    .split(/[\s,+]+|\band\b/)
    .filter(Boolean)) {
    const match = SPAN.exec(part)
    const written = match
      ? `${match[1]!.padStart(2, '0')}:${match[2] ?? '00'}-${match[3]!.padStart(2, '0')}:${match[4] ?? '00'}`
      : ''
    const shift = match ? parseShift(written) : null
    if (!shift)
      return {
        ok: false,
        why: `“${part}” is not a span of hours; write for example 7-12 13-16, 22-6, round the clock or off`,
      }
    shifts.push({ text: written, from: shift[0], to: shift[1] })
  }
  shifts.sort((a, b) => a.from - b.from)
  for (let k = 1; k < shifts.length; k++)
    if (shifts[k]!.from < shifts[k - 1]!.to)
      return {
        ok: false,
        why: `the hours overlap at ${formatClock(shifts[k]!.from)}; join them or leave a break`,
      }
  return { ok: true, shifts: shifts.map((s) => s.text) }
}

const dayOf = (text: string): number => WEEKDAYS.findIndex((day) => text.startsWith(day))

/** Reads "mon-fri 6:30-11:30 12-16:30; sat 8-12; sun off", with a line or semicolon between; days not named are off. */
export const readWeek = (text: string): TypedWeek => {
  const week: Record<Weekday, readonly string[]> = {
    mon: [],
    tue: [],
    wed: [],
    thu: [],
    fri: [],
    sat: [],
    sun: [],
  }
  const lines = text
    .toLowerCase()
    .split(/[;\n]/)
    .map((line) => line.trim())
    .filter(Boolean)
  for (const line of lines) {
    const match =
      /^((?:(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*(?:\s*[-–]\s*|[\s,]+(?:and\s+)?)?)+|daily|every day|weekdays|weekends?|all days)\s*:?\s*(.*)$/.exec(
        line,
      )
    if (!match) return { ok: false, why: `“${line}” names no days; write for example mon-fri 7-12 13-16` }
    const days = daysOf(match[1]!)
    const read = readShifts(match[2]!)
    if (!read.ok) return read
    for (const d of days) week[WEEKDAYS[d]!] = read.shifts
  }
  return { ok: true, week }
}

const daysOf = (text: string): number[] => {
  if (/^(daily|every day|all days)/.test(text)) return [0, 1, 2, 3, 4, 5, 6]
  if (/^weekdays/.test(text)) return [0, 1, 2, 3, 4]
  if (/^weekend/.test(text)) return [5, 6]
  const days: number[] = []
  for (const part of text
    .replace(/\s*[-–]\s*/g, '-')
    .split(/[\s,]+/)
    .filter((p) => p !== '' && p !== 'and')) {
    const [from, to] = part.split('-').filter(Boolean).map(dayOf)
    if (from === undefined || from < 0) continue
    for (let d = from; ; d = (d + 1) % 7) {
      days.push(d)
      if (d === (to === undefined || to < 0 ? from : to)) break
    }
  }
  return days
}
