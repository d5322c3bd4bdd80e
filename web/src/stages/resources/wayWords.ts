import { counted, durationWords, hoursWords, moneyWords, type Plan, type WayOut } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { finishWords } from '../../composables/finishWords.ts'

/** A way out of an overload in words: what is done, and what comes of it. */
export interface WayWords {
  readonly title: string
  /** What it does to the finish. */
  readonly finish: string
  /** Float, cost, damages, what stays. */
  readonly rest: readonly string[]
}

export const wayWords = (
  plan: Plan,
  resource: string,
  { way, finish, cost, damages, left, moved, float }: WayOut,
  plannedFinish: number,
  calendars: CalendarLookup,
): WayWords => {
  const activity = (id: string) => plan.activities.find((a) => a.id === id)!
  const code = (id: string): string => activity(id).code
  const title = (): string => {
    switch (way.kind) {
      case 'wait':
        return `${code(way.activity)} waits for ${code(way.behind)}`
      case 'pause':
        return `${code(way.activity)} pauses while others have it`
      case 'calendar':
        return `${code(way.activity)} works ${calendars.name(way.calendar)}`
      case 'more':
        return `${resource}: ${way.amount} for the time`
      case 'level':
        return 'Level the whole plan'
    }
  }
  const { currency } = plan.project
  const rest: string[] = []
  if (float && 'activity' in way) {
    const lengths = calendars.lengthsOf(activity(way.activity))
    rest.push(
      `${code(way.activity)}’s float ${durationWords(float.before, lengths)} → ${durationWords(float.after, lengths)}`,
    )
  }
  rest.push(moved === 0 ? 'nothing on other dates' : `${counted(moved, 'activity')} on other dates`)
  const signed = (amount: number): string =>
    `${moneyWords(Math.abs(amount), currency)} ${amount > 0 ? 'more' : 'less'}`
  if (Math.abs(cost) >= 0.005) rest.push(`costs ${signed(cost)}`)
  if (Math.abs(damages) >= 0.005) rest.push(`damages ${signed(damages)}`)
  if (left > 0) rest.push(`${hoursWords(left)} of overload of ${resource} stay`)
  return { title: title(), finish: finishWords(plannedFinish, finish, calendars), rest }
}
