import { formatInstant, instantOf, MINUTES_PER_DAY } from '../time/instant.ts'
import { roundMoney } from '../plan/money.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import { lengthsOf } from '../plan/durations.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activityCosts } from '../cost/activityCosts.ts'
import { baselineOf } from '../progress/baselines.ts'
import { lookAhead, type Block } from '../progress/lookAhead.ts'
import { inOrder, realisedBy } from '../progress/periods.ts'
import { promisesOf } from '../progress/promises.ts'
import { varianceOf } from '../progress/variance.ts'
import { instantWords } from '../words/dates.ts'
import type { RecordSheet } from './reviewRecord.ts'

const WEEKS_AHEAD = 3
const days = (minutes: number, dayMinutes: number): number | '' =>
  minutes === NONE ? '' : Math.round((minutes / dayMinutes) * 100) / 100

/** Variance, the weeks ahead, periods and promises, as tables. @param weeks - how far ahead is looked */
export const progressRecord = (schedule: Schedule, weeks = WEEKS_AHEAD): RecordSheet[] => {
  const { network } = schedule
  const { plan, activities } = network
  const from = network.statusDate ?? schedule.projectStart
  const realised = new Map(realisedBy(schedule).map((one) => [one.period.id, one]))
  return [
    varianceSheet(schedule),
    {
      name: 'Look-ahead',
      head: ['owner', 'code', 'activity', 'start', 'finish', 'waits for'],
      rows: lookAhead(schedule, from + weeks * 7 * MINUTES_PER_DAY).map(({ activity: i, blocks }) => [
        activities[i]!.owner ?? '',
        activities[i]!.code,
        activities[i]!.name,
        formatInstant(schedule.start[i]!),
        formatInstant(schedule.finish[i]!),
        blocks.map((block) => blockWords(schedule, block)).join('; '),
      ]),
    },
    {
      name: 'Periods',
      head: ['status date', 'kept by', 'finish', 'planned to finish', 'of these done', 'note'],
      rows: inOrder(plan).map(({ id, statusDate, by, finish, note }) => [
        statusDate,
        by,
        finish ?? '',
        realised.get(id)?.planned ?? '',
        realised.get(id)?.done ?? '',
        note,
      ]),
    },
    {
      name: 'Promises',
      head: ['by', 'code', 'activity', 'promised', 'planned or done', 'state'],
      rows: promisesOf(plan, { state: network.state, finish: schedule.finish }).map((one) => [
        one.by,
        activities[one.activity]!.code,
        activities[one.activity]!.name,
        formatInstant(instantOf(one.finish, 'finish')),
        formatInstant(schedule.finish[one.activity]!),
        one.state,
      ]),
    },
  ]
}

/** "S10 Examine hull in dock until Thu 20 May 15:45", "a date, Mon 24 May". */
export const blockWords = ({ network }: Schedule, block: Block): string => {
  const until = instantWords(block.until, block.kind === 'date' ? 'start' : 'finish')
  if (block.kind === 'date') return `a date, ${until}`
  const { code, name } = network.activities[block.activity]!
  const what = { work: '', decision: 'the decision ', payment: 'the payment ' }[block.kind]
  return `${what}${code} ${name} until ${until}`
}

const varianceSheet = (schedule: Schedule): RecordSheet => {
  const { plan, activities } = schedule.network
  const baseline = baselineOf(plan)
  const head = [
    'code',
    'activity',
    'agreed finish',
    'finish',
    'start by',
    'finish by',
    'duration by',
    'float by',
    'cost by',
  ]
  if (!baseline) return { name: 'Variance', head, rows: [] }
  const found = varianceOf(schedule, baseline, activityCosts(schedule))
  const day = lengthsOf(plan, plan.project.calendar).dayMinutes
  return {
    name: 'Variance',
    head,
    rows: activities.map((activity, i) => {
      const own = lengthsOf(plan, calendarOf(plan.project, activity)).dayMinutes
      return [
        activity.code,
        activity.name,
        found.agreedFinish[i] === NONE ? '' : formatInstant(found.agreedFinish[i]!),
        formatInstant(schedule.finish[i]!),
        days(found.start[i]!, day),
        days(found.finish[i]!, day),
        days(found.duration[i]!, own),
        days(found.float[i]!, own),
        Number.isNaN(found.cost[i]!) ? '' : roundMoney(found.cost[i]!),
      ]
    }),
  }
}
