import { lengthsOf } from '../plan/durations.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { durationWords } from '../words/durations.ts'
import { scheduleSheet } from './csv.ts'
import { resourceRecord } from './resourceRecord.ts'
import type { RecordSheet } from './reviewRecord.ts'

/** The sheets of a workbook of the plan: activities with their dates, links one a row, people and plant where there are any. */
export const planSheets = (schedule: Schedule): RecordSheet[] => {
  const { network } = schedule
  const { plan } = network
  const byId = new Map(plan.activities.map((activity) => [activity.id, activity]))
  const drives = new Map(network.links.map((link, k) => [link.id, schedule.drives[k] === 1]))
  const links: RecordSheet = {
    name: 'Links',
    head: ['from', 'to', 'type', 'lag', 'lag in minutes', 'nature', 'reason', 'drives'],
    rows: plan.links.map((link) => {
      const [from, to] = [byId.get(link.from), byId.get(link.to)]
      const lengths = lengthsOf(plan, lagCalendarOf(plan.project, link, from, to))
      return [
        from?.code ?? link.from,
        to?.code ?? link.to,
        link.type,
        durationWords(link.lag, lengths),
        link.lag,
        link.nature,
        link.reason,
        drives.get(link.id) === true ? 'yes' : 'no',
      ]
    }),
  }
  return [scheduleSheet(schedule), links, ...(plan.resources.length > 0 ? resourceRecord(schedule) : [])]
}
