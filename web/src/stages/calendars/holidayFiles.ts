import { cellsOf, readListDate, readShifts, type PlanCalendar } from '@geodrome/core'

export type Exception = PlanCalendar['exceptions'][number]
export interface HolidaysRead {
  readonly exceptions: readonly Exception[]
  readonly problems: readonly string[]
}

/** Property of an event on which work is done: its shifts. RFC 5545 leaves names on X- to those who need them. */
const HOURS = 'X-GEODROME-HOURS'

const dayBefore = (iso: string): string =>
  new Date(Date.parse(`${iso}T00:00Z`) - 86_400_000).toISOString().slice(0, 10)
const dayAfter = (iso: string): string =>
  new Date(Date.parse(`${iso}T00:00Z`) + 86_400_000).toISOString().slice(0, 10)

/** Days off from an iCalendar file (RFC 5545: whole-day events; yearly ones recur) or a CSV of first day, last day, name, “every year”, hours. */
export const readHolidays = async (text: string, fileName: string): Promise<HolidaysRead> =>
  /BEGIN:VCALENDAR/i.test(text) || /\.ics$/i.test(fileName) ? readIcs(text) : readCsv(text)

const readIcs = async (text: string): Promise<HolidaysRead> => {
  const { default: ICAL } = await import('ical.js')
  let events
  try {
    events = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent')
  } catch (error) {
    return { exceptions: [], problems: [`not an iCalendar file: ${(error as Error).message}`] }
  }
  const problems: string[] = []
  const exceptions = events.flatMap((component): Exception[] => {
    const event = new ICAL.Event(component)
    const name = event.summary || 'day off'
    const start = event.startDate
    if (!start?.isDate) {
      problems.push(`“${name}” is not a whole day and was left out`)
      return []
    }
    const from = start.toString().slice(0, 10)
    // The end of a whole-day event is the day after its last.
    const end = event.endDate ? dayBefore(event.endDate.toString().slice(0, 10)) : from
    const rule = component.getFirstPropertyValue('rrule') as { freq?: string } | null
    if (rule && rule.freq !== 'YEARLY') {
      problems.push(`“${name}” recurs ${String(rule.freq).toLowerCase()}; only yearly days are taken`)
      return []
    }
    const hours = component.getFirstPropertyValue(HOURS.toLowerCase())
    const read = readShifts(typeof hours === 'string' ? hours : '')
    if (!read.ok) problems.push(`“${name}”: ${read.why}; taken as off`)
    return [
      {
        name,
        from,
        to: end < from ? from : end,
        yearly: rule !== null,
        shifts: read.ok ? [...read.shifts] : [],
      },
    ]
  })
  if (exceptions.length === 0 && problems.length === 0) problems.push('the file has no events')
  return { exceptions, problems }
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
