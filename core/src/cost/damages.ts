import { formatInstant, instantOf, MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import { CalendarError, type Calendar } from '../time/calendar.ts'
import type { Damages } from '../plan/schema.ts'
import { Kind, NONE, State, limitsFinish, type Network } from '../network/network.ts'
import { heldByStartLinks, isPinned, linkLimit, type LinkedDates } from '../schedule/forwardPass.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** What a clause charges for a finish. */
export interface Charge {
  /** Days that count. */
  readonly counted: number
  /** Begun units: days, or weeks of seven counted days. */
  readonly units: number
  readonly amount: number
  /** `YYYY-MM-DD`; null where nothing is charged. */
  readonly firstDay: string | null
  /** Whether the most that can be charged is reached. */
  readonly isCapped: boolean
}

/** From when on a finish is late: a date without a time means its end. */
export const dueInstant = ({ due }: Pick<Damages, 'due'>): Instant => instantOf(due, 'finish')

/**
 * Charges for a finish (semantics2.md section 11): calendar days with working time at or after the date agreed, from the one that
 * holds that minute to the one that holds the last minute before the finish; a begun day counts whole.
 */
export const chargeFor = (damages: Damages, calendar: Calendar, finish: Instant): Charge => {
  const due = dueInstant(damages)
  let counted = 0
  let firstDay: string | null = null
  if (finish > due)
    for (
      let day = Math.floor(due / MINUTES_PER_DAY);
      day <= Math.floor((finish - 1) / MINUTES_PER_DAY);
      day++
    ) {
      if (!worksOn(calendar, day, due)) continue
      counted++
      firstDay ??= formatInstant(day * MINUTES_PER_DAY).slice(0, 10)
    }
  const units = damages.per === 'week' ? Math.ceil(counted / 7) : counted
  const uncapped = sumOfSteps(damages.steps, units)
  const amount = damages.cap === null ? uncapped : Math.min(uncapped, damages.cap)
  return { counted, units, amount, firstDay, isCapped: damages.cap !== null && uncapped >= damages.cap }
}

const worksOn = (calendar: Calendar, day: number, from: Instant): boolean =>
  calendar.countBefore((day + 1) * MINUTES_PER_DAY) >
  calendar.countBefore(Math.max(day * MINUTES_PER_DAY, from))

/** The first day that would be charged, whatever the finish; null where the calendar has no work after the date agreed. */
export const firstChargeableDay = (damages: Damages, calendar: Calendar): string | null => {
  const due = dueInstant(damages)
  try {
    return formatInstant(calendar.minuteAt(calendar.countBefore(due))).slice(0, 10)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}

/** The k-th unit costs the amount of the latest step with `from` ≤ k, nothing before the first. */
export const sumOfSteps = (steps: Damages['steps'], units: number): number =>
  steps.reduce((sum, { from, amount }, s) => {
    const end = Math.min(units, (steps[s + 1]?.from ?? Infinity) - 1)
    return sum + Math.max(0, end - from + 1) * amount
  }, 0)

/** Dates that damages are measured on: of a schedule, or of an iteration. */
export type Measured = Pick<Schedule, 'network' | 'finish' | 'projectFinish'> & {
  readonly early: LinkedDates
}

/** The finish that a clause measures. A finish milestone is measured where its latest limit leaves it, before its own calendar moves it. */
export const measuredFinish = (schedule: Measured, { measures }: Pick<Damages, 'measures'>): Instant => {
  const { network } = schedule
  if (measures !== null) return finishAsItComes(schedule, network.indexOf.get(measures)!)
  let latest: Instant = NONE
  for (let i = 0; i < network.activities.length; i++)
    if (network.kind[i] !== Kind.Hammock) latest = Math.max(latest, finishAsItComes(schedule, i))
  return latest === NONE ? schedule.projectFinish : latest
}

const finishAsItComes = (schedule: Measured, i: number): Instant => {
  const { network, early } = schedule
  const stands = schedule.finish[i]!
  const isMoved =
    network.kind[i] === Kind.AtFinish &&
    network.state[i] === State.NotStarted &&
    network.plan.project.direction === 'forward' &&
    !isPinned(network, i) &&
    stands === early.finish[i]
  return isMoved ? Math.min(stands, latestLimit(network, schedule, i)) : stands
}

const latestLimit = (network: Network, { early }: Measured, i: number): Instant => {
  let latest = Math.max(network.startFloor[i]!, network.finishFloor[i]!)
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
    if (limitsFinish(network.linkCode[k]!) || heldByStartLinks(network, i))
      latest = Math.max(latest, linkLimit(network, early, k))
  return latest
}
