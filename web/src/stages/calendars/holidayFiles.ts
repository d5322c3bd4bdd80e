import { cellsOf, readListDate, readShifts, type PlanCalendar } from '@geodrome/core'

export type Exception = PlanCalendar['exceptions'][number]
export interface HolidaysRead {
  readonly exceptions: readonly Exception[]
  readonly problems: readonly string[]
}

/** Property of an event on which work is done: its shifts. RFC 5545 leaves names on X- to those who need them. */
const HOURS = 'X-GEODROME-HOURS'

const dayAfter = (iso: string): string =>
  new Date(Date.parse(`${iso}T00:00Z`) + 86_400_000).toISOString().slice(0, 10)

/** Days off from an iCalendar file (RFC 5545: whole-day events; yearly ones recur) or a CSV of first day, last day, name, “every year”, hours. */
export const readHolidays = async (text: string, fileName: string): Promise<HolidaysRead> =>
  /BEGIN:VCALENDAR/i.test(text) || /\.ics$/i.test(fileName) ? readIcs(text) : readCsv(text)

/** Longest day off, in days. */
const MOST_DAYS = 3660
const MOST_EVENTS = 20_000
const plusDays = (iso: string, days: number): string =>
  new Date(Date.parse(`${iso}T00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)
const isDay = (text: string): boolean => {
  const at = Date.parse(`${text}T00:00Z`)
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(at) && new Date(at).toISOString().startsWith(text)
}

const readIcs = async (text: string): Promise<HolidaysRead> => {
  const { default: ICAL } = await import('ical.js')
  let events
  try {
    events = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent')
  } catch (error) {
    return { exceptions: [], problems: [`not an iCalendar file: ${(error as Error).message}`] }
  }
  if (events.length > MOST_EVENTS)
    return { exceptions: [], problems: [`more than ${MOST_EVENTS} events; leave some out`] }
  const problems: string[] = []
  const exceptions: Exception[] = []
  for (const event of events) {
    /** The value of a property as it is written; the library's own reading of dates takes a thirteenth month. */
    const written = (name: string): string =>
      String((event.getFirstProperty(name)?.toJSON() as unknown[] | undefined)?.[3] ?? '')
    const name = written('summary') || 'day off'
    const leftOut = (why: string): void => void problems.push(`“${name}” ${why} and was left out`)
    const from = written('dtstart')
    if (!isDay(from)) {
      leftOut(
        from.includes('T') && isDay(from.slice(0, 10))
          ? 'is not a whole day'
          : 'has no date that can be read',
      )
      continue
    }
    const to = lastDayOf(from, written('dtend'), written('duration'))
    if (to === null) {
      leftOut(`lasts longer than ${MOST_DAYS / 366} years, or ends on no date that can be read`)
      continue
    }
    const freq = /FREQ=(\w+)/i.exec(String(event.getFirstPropertyValue('rrule') ?? ''))?.[1]
    if (freq !== undefined && freq.toUpperCase() !== 'YEARLY') {
      problems.push(`“${name}” recurs ${freq.toLowerCase()}; only yearly days are taken`)
      continue
    }
    const read = readShifts(written(HOURS.toLowerCase()))
    if (!read.ok) problems.push(`“${name}”: ${read.why}; taken as off`)
    exceptions.push({ name, from, to, yearly: freq !== undefined, shifts: read.ok ? [...read.shifts] : [] })
  }
  if (exceptions.length === 0 && problems.length === 0) problems.push('the file has no events')
  return { exceptions, problems }
}

/** The last day of a whole-day event; its end is the day after. Null where it cannot be read or is too far. */
const lastDayOf = (from: string, end: string, duration: string): string | null => {
  const [, count, unit] = /^P(\d{1,6})([DW])$/.exec(duration) ?? []
  const days = count === undefined ? 1 : Number(count) * (unit === 'W' ? 7 : 1)
  if (end === '' && duration !== '' && count === undefined) return null
  if (end !== '' && !isDay(end)) return null
  const last = end === '' ? (days > MOST_DAYS ? null : plusDays(from, days - 1)) : plusDays(end, -1)
  if (last === null || last > plusDays(from, MOST_DAYS)) return null
  return last < from ? from : last
}

const readCsv = (text: string): HolidaysRead => {
  const problems: string[] = []
  const exceptions = cellsOf(text).flatMap((row, r): Exception[] => {
    const first = readListDate(row[0] ?? '', true, 0)
    if (!first.ok) {
      if (r > 0) problems.push(`row ${r + 1}: ${first.why}`)
      return []
    }
    const second = readListDate(row[1] ?? '', true, 0)
    const name = (second.ok ? row[2] : row[1])?.trim() || 'day off'
    const to = second.ok && second.value >= first.value ? second.value : first.value
    const hours = readShifts(row[4] ?? '')
    if (!hours.ok) problems.push(`row ${r + 1}: ${hours.why}`)
    return hours.ok
      ? [
          {
            name,
            from: first.value.slice(0, 10),
            to: to.slice(0, 10),
            yearly: /year/i.test(row[3] ?? ''),
            shifts: [...hours.shifts],
          },
        ]
      : []
  })
  if (exceptions.length === 0 && problems.length === 0)
    problems.push('no dates were found in the first column')
  return { exceptions, problems }
}

const escape = (text: string): string => text.replace(/[\\;,]/g, (c) => `\\${c}`).replaceAll('\n', '\\n')

/** Exceptions as an iCalendar file: whole-day events, yearly ones with a rule. */
export const writeIcs = (name: string, exceptions: readonly Exception[]): string => {
  const compact = (iso: string): string =>
    (iso.length === 5 ? `2000-${iso}` : iso.slice(0, 10)).replaceAll('-', '')
  const events = exceptions.flatMap((e, k) => [
    'BEGIN:VEVENT',
    `UID:${k}-${compact(e.from)}@geodrome`,
    `DTSTAMP:${compact(e.from)}T000000Z`,
    `DTSTART;VALUE=DATE:${compact(e.from)}`,
    `DTEND;VALUE=DATE:${compact(dayAfter(e.to.length === 5 ? `2000-${e.to}` : e.to.slice(0, 10)))}`,
    `SUMMARY:${escape(e.name ?? (e.shifts.length === 0 ? 'day off' : e.shifts.join(' ')))}`,
    ...(e.yearly ? ['RRULE:FREQ=YEARLY'] : []),
    ...(e.shifts.length > 0 ? [`${HOURS}:${escape(e.shifts.join(' '))}`] : []),
    'END:VEVENT',
  ])
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Geodrome//EN',
    `X-WR-CALNAME:${escape(name)}`,
    ...events,
    'END:VCALENDAR',
    '',
  ].join('\r\n')
}
