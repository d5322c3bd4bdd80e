import ical from 'ical-generator'
import { MINUTES_PER_DAY, instantOf, type Instant } from '../time/instant.ts'
import type { Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'

const EPOCH = Date.UTC(1950, 0, 1)
const dateOf = (at: Instant): Date => new Date(EPOCH + at * 60_000)
/** Control letters that no line of a calendar may hold. */
const CONTROL = /[\u0000-\u0008\u000b-\u001f\u007f]/g

/** Letters of YYYY-MM-DD. */
const DATE_LENGTH = 10

/** Days that come back, in each year of the plan; where they reach over New Year, into the next. */
const everyYear = (
  from: string,
  to: string,
  [first, last]: readonly [number, number],
): [string, string][] => {
  const [begin, end] = [from.slice(-5), to.slice(-5)]
  return Array.from({ length: last - first + 1 }, (_, k) => [
    `${first + k}-${begin}`,
    `${first + k + (end < begin ? 1 : 0)}-${end}`,
  ])
}

/**
 * Activities and milestones with their dates, and the days off of the project calendar that were named day by day, as iCalendar (RFC 5545).
 * Times are local to the plan (floating). A milestone has a start alone; the stamp is the plan's status date, so that the same plan gives
 * the same file.
 * @param shows - which activities; of a part of them neither notes nor days off are told
 */
export const planCalendar = (
  { network, start, finish, projectStart, projectFinish }: Schedule,
  shows: ((activity: Plan['activities'][number]) => boolean) | null = null,
): string => {
  const { plan } = network
  const { project } = plan
  const stamp = dateOf(project.statusDate === null ? projectStart : instantOf(project.statusDate, 'start'))
  const plain = (text: string): string => text.replace(CONTROL, '')
  const calendar = ical({
    name: plain(project.name || project.code || 'Plan'),
    prodId: { company: 'Geodrome', product: 'Geodrome', language: 'EN' },
  })
  const uid = (kind: string, id: string): string => `${kind}-${id}@${project.code || 'plan'}.geodrome`
  plan.activities.forEach((activity, i) => {
    if (shows && !shows(activity)) return
    const { id, code, name, kind, notes } = activity
    calendar.createEvent({
      id: plain(uid('activity', id)),
      stamp,
      start: dateOf(start[i]!),
      ...(kind === 'milestone' ? {} : { end: dateOf(finish[i]!) }),
      floating: true,
      summary: plain(`${code} ${name}`.trim()),
      ...(notes && !shows ? { description: plain(notes) } : {}),
    })
  })
  const off = plan.calendars
    .find(({ id }) => id === project.calendar)
    ?.exceptions.filter(({ shifts }) => shifts.length === 0)
  const years = [dateOf(projectStart).getUTCFullYear(), dateOf(projectFinish).getUTCFullYear()] as const
  for (const { from, to, yearly, name } of shows ? [] : (off ?? []))
    for (const [first, last] of yearly || from.length < DATE_LENGTH
      ? everyYear(from, to, years)
      : [[from, to]])
      calendar.createEvent({
        id: plain(uid('off', `${first!}-${last!}`)),
        stamp,
        start: dateOf(instantOf(first!, 'start')),
        // The day behind the last: the end of an event of whole days is not part of it.
        end: dateOf(instantOf(last!.slice(0, DATE_LENGTH), 'start') + MINUTES_PER_DAY),
        allDay: true,
        floating: true,
        summary: plain(typeof name === 'string' && name !== '' ? name : 'Day off'),
      })
  return calendar.toString()
}
