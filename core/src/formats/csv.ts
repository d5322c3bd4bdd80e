import { lengthsOf } from '../plan/durations.ts'
import { formatInstant } from '../time/instant.ts'
import { calendarOf, lagCalendarOf } from '../plan/lagCalendar.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { linkPhrase } from '../words/links.ts'
import type { RecordSheet } from './reviewRecord.ts'
import { writeCsv } from './writeCsv.ts'

const COLUMNS = [
  'id',
  'code',
  'name',
  'group',
  'kind',
  'calendar',
  'duration',
  'remaining',
  'start',
  'finish',
  'lateStart',
  'lateFinish',
  'totalFloat',
  'freeFloat',
  'critical',
  'onLongestPath',
  'waitsFor',
] as const

/**
 * The activities with their schedule as CSV (RFC 4180, CRLF), one row each in plan order: durations and floats in working minutes
 * of the activity's calendar, dates as YYYY-MM-DDTHH:MM, what each waits for in words. Cells that would begin a spreadsheet
 * formula are written as text.
 */
export const scheduleCsv = (schedule: Schedule): string => {
  const { head, rows } = scheduleSheet(schedule)
  return writeCsv([head, ...rows])
}

/** The same as a sheet of a workbook. */
export const scheduleSheet = (schedule: Schedule): RecordSheet => {
  const { network } = schedule
  const { plan } = network
  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  const groups = new Map(plan.groups.map((g) => [g.id, g]))
  const calendars = new Map(plan.calendars.map((c) => [c.id, c]))
  const waitsFor = new Map<string, string[]>()
  for (const link of plan.links) {
    const lengths = lengthsOf(plan, lagCalendarOf(plan.project, link, byId.get(link.from), byId.get(link.to)))
    const words = linkPhrase(link, byId.get(link.from)!.code, lengths)
    waitsFor.set(link.to, [...(waitsFor.get(link.to) ?? []), words])
  }
  const number = (value: number): number | string => (value === NONE ? '' : value)
  const date = (at: number): string => (at === NONE ? '' : formatInstant(at))
  const rows = plan.activities.map((a, i) => ({
    id: a.id,
    code: a.code,
    name: a.name,
    group: a.group === null ? '' : (groups.get(a.group)?.name ?? ''),
    kind: a.kind,
    calendar: calendars.get(calendarOf(plan.project, a))?.name ?? calendarOf(plan.project, a),
    duration: a.duration,
    remaining: schedule.network.remaining[i]!,
    start: formatInstant(schedule.start[i]!),
    finish: formatInstant(schedule.finish[i]!),
    lateStart: date(schedule.late.start[i]!),
    lateFinish: date(schedule.lateFinishShown[i]!),
    totalFloat: number(schedule.float.total[i]!),
    freeFloat: number(schedule.float.free[i]!),
    critical: schedule.critical[i] === 1 ? 'yes' : 'no',
    onLongestPath: schedule.onLongestPath[i] === 1 ? 'yes' : 'no',
    waitsFor: (waitsFor.get(a.id) ?? []).join('; '),
  }))
  return { name: 'Activities', head: COLUMNS, rows: rows.map((row) => COLUMNS.map((column) => row[column])) }
}
