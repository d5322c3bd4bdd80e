import { lengthsOf } from '../plan/durations.ts'
import { workBetween } from '../time/arithmetic.ts'
import { CalendarError } from '../time/calendar.ts'
import { countsFromStart, Kind, limitsFinish, State } from '../network/network.ts'
import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { reschedule } from '../schedule/reschedule.ts'
import { linkLimit } from '../schedule/forwardPass.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** Days of delay that are put in: longer than any float worth the name. */
export const INTEGRITY_DELAY_DAYS = 100

/** Where on its way to the finish a delay grew less or more, and what took or added it. */
export interface Swallow {
  /** The activity on which less or more of the delay arrives than on the one before. */
  readonly activity: string
  readonly from: string
  readonly link: string
  /** `date`: an overriding date stands; `actual`: actual dates stand; `float`: the link had room; `calendar`: it waited for hours anyway. */
  readonly by: 'date' | 'actual' | 'float' | 'calendar'
  /** Working minutes of the project calendar; negative where it grew. */
  readonly minutes: number
}

export interface IntegrityTest {
  readonly activity: string
  /** Days of its calendar that were put in: as asked, or fewer where a calendar on the way has no more hours. */
  readonly days: number
  /** The calendar that had no more hours for all of the delay; null where it was put in whole. */
  readonly shortOf: string | null
  /** How far the activity's own finish moved, and how far the network's did; working minutes of the project calendar. */
  readonly delay: number
  readonly arrives: number
  /** `exact`: all of it arrives; `rounded`: but for what waits for calendars take up; `grows`: waits for calendars add to it; `lost`: something else takes it. */
  readonly carries: 'exact' | 'rounded' | 'grows' | 'lost'
  readonly swallows: readonly Swallow[]
}

/**
 * The path integrity test: a long delay on an activity must move the network's finish by exactly that.
 * Measured in working time of the project calendar; where other calendars come in on the way, a wait for a window or a season takes
 * some of it up or adds to it, and that is told apart from a delay that is lost.
 * @param days - delay, in days of the activity's calendar
 * @throws RangeError for an activity that the plan does not have
 */
export const integrityTest = (
  plan: Plan,
  schedule: Schedule,
  id: string,
  days = INTEGRITY_DELAY_DAYS,
): IntegrityTest => {
  const { network } = schedule
  const i = network.indexOf.get(id)
  if (i === undefined) throw new RangeError(`integrityTest: no activity "${id}"`)
  const calendar = network.calendars.get(plan.project.calendar)
  const day = lengthsOf(plan, network.calendar[i]!.id).dayMinutes
  const { made, used, shortOf } = longestThatFits(plan, schedule, i, days, day)
  const shift = (j: number): number => workBetween(calendar, schedule.early.finish[j]!, made.early.finish[j]!)
  const delay = shift(i)
  const arrives = workBetween(calendar, schedule.projectFinish, made.projectFinish)
  const swallows = arrives === delay ? [] : trace(schedule, made, i, shift)
  const isByCalendars = swallows.every((s) => s.by === 'calendar')
  return {
    activity: id,
    days: used,
    shortOf,
    delay,
    arrives,
    carries: arrives === delay ? 'exact' : arrives > delay ? 'grows' : isByCalendars ? 'rounded' : 'lost',
    swallows,
  }
}

/** Activities that the test is meant for: critical or on the longest path, and not finished. None where the plan is scheduled backward: its finish is given. */
export const integrityCandidates = (schedule: Schedule): string[] => {
  const { network } = schedule
  if (network.plan.project.direction === 'backward') return []
  return network.activities
    .filter(
      (_, i) =>
        network.kind[i] !== Kind.Hammock &&
        network.state[i] !== State.Finished &&
        (schedule.critical[i] === 1 || schedule.onLongestPath[i] === 1),
    )
    .map((a) => a.id)
}

/** A calendar of windows may have too few of them for a long delay: half of it is tried then, and half of that. */
const longestThatFits = (
  plan: Plan,
  schedule: Schedule,
  i: number,
  days: number,
  day: number,
): { made: Schedule; used: number; shortOf: string | null } => {
  let shortOf: string | null = null
  for (let used = days; ; used = Math.floor(used / 2)) {
    try {
      const made = used === 0 ? schedule : reschedule(...delayed(plan, schedule, i, used * day))
      return { made, used, shortOf }
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error
      shortOf = error.calendar
    }
  }
}

/** The plan with more work on one activity. A milestone is made work, so that it can be late. */
const delayed = (plan: Plan, schedule: Schedule, i: number, minutes: number): [Schedule, Plan, Change] => {
  const { id, kind, progress } = plan.activities[i]!
  const remaining = schedule.network.remaining[i]! + minutes
  const change: Change = {
    kind: 'set',
    list: 'activities',
    key: id,
    set:
      kind === 'milestone'
        ? { kind: 'work', duration: minutes }
        : schedule.network.state[i] === State.Started
          ? { progress: { ...progress, remaining }, promise: null }
          : { duration: remaining, progress: { ...progress, remaining: null, percent: 0 } },
  }
  return [schedule, applyUnchecked(plan, change).plan, change]
}

/** Follows the delay along what drives the finish then, else along the successor that receives most of it, and notes where it grows less or more. */
const trace = (before: Schedule, after: Schedule, from: number, shift: (i: number) => number): Swallow[] => {
  const { network } = after
  const swallows: Swallow[] = []
  const leads = (k: number): number =>
    after.drives[k] === 1 && after.onLongestPath[network.linkTo[k]!] === 1 ? 1 : 0
  const isBetter = (k: number, than: number): boolean =>
    leads(k) > leads(than) ||
    (leads(k) === leads(than) && shift(network.linkTo[k]!) > shift(network.linkTo[than]!))
  for (let at = from; ;) {
    let best = -1
    for (let o = network.outStart[at]!; o < network.outStart[at + 1]!; o++) {
      const k = network.outLink[o]!
      if (best < 0 || isBetter(k, best)) best = k
    }
    if (best < 0) return swallows
    const to = network.linkTo[best]!
    const lost = shift(at) - shift(to)
    if (lost !== 0)
      swallows.push({
        activity: network.activities[to]!.id,
        from: network.activities[at]!.id,
        link: network.links[best]!.id,
        by: reasonAt(before, after, best, lost),
        minutes: lost,
      })
    at = to
  }
}

const reasonAt = (before: Schedule, after: Schedule, k: number, lost: number): Swallow['by'] => {
  const { network } = after
  const to = network.linkTo[k]!
  if (lost < 0) return 'calendar'
  if (network.state[to] === State.Finished) return 'actual'
  if (network.activities[to]!.constraints.some((c) => c.overrides)) return 'date'
  if (
    network.state[to] === State.Started &&
    (countsFromStart(network.linkCode[k]!) || !limitsFinish(network.linkCode[k]!))
  )
    return 'actual'
  // What the link asked for before, against where the activity stood: room that the delay first had to use up.
  const asked = linkLimit(before.network, before.early, k)
  const stood = limitsFinish(network.linkCode[k]!) ? before.early.finish[to]! : before.early.begin[to]!
  const room = workBetween(network.calendar[to]!, asked, stood)
  return room > 0 ? 'float' : 'calendar'
}
