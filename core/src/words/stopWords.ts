import { calendarOf } from '../plan/lagCalendar.ts'
import type { Plan } from '../plan/schema.ts'
import type { Stop } from '../schedule/experiments.ts'
import { instantWords } from './dates.ts'
import type { Part, Sentence } from './parts.ts'

/** Why a delay goes no further: "U10 Undock waits for Spring tides until Sun 20 Jun 09:40 anyway". No full stop. */
export const stopWords = (plan: Plan, stops: readonly Stop[]): Sentence =>
  stops.flatMap((stop, k): Part[] => [...(k === 0 ? [] : ['; ']), ...oneStop(plan, stop)])

const oneStop = (plan: Plan, { activity: id, by, at }: Stop): Part[] => {
  const activity = plan.activities.find((one) => one.id === id)
  if (!activity) return []
  const noun = { activity: id, text: `${activity.code} ${activity.name}`.trim() }
  const edge = activity.kind === 'milestone' && activity.edge === 'finish' ? 'finish' : 'start'
  if (by === 'itself') return [noun, ' begins earlier instead: what is held is its finish']
  if (by === 'start') return [noun, ' follows its start, not its length']
  if (by === 'date') return [noun, ` is held by its date to ${instantWords(at, edge)}, whatever comes before`]
  const calendar = calendarOf(plan.project, activity)
  const name = plan.calendars.find((one) => one.id === calendar)?.name
  return [
    noun,
    ' waits for ',
    { calendar, text: name || 'the clock' },
    ` until ${instantWords(at, edge)} anyway`,
  ]
}
