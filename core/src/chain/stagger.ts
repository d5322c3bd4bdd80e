import { CLOCK_ID, type SpannedCalendar } from '../time/calendar.ts'
import { PlanCalendars } from '../time/planCalendars.ts'
import { nextWork, workBetween } from '../time/arithmetic.ts'
import { formatInstant, instantOf, MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import { availabilityOf, isWorker, mostAvailable, type Availability } from '../cost/availability.ts'
import { overloadsOf } from '../cost/overloads.ts'
import { GRAIN, stepsOf, type Steps } from '../cost/loadSteps.ts'
import { inColumns, type AskedOnce } from '../cost/uses.ts'
import { WorkTimes } from '../cost/workTimes.ts'
import { activityCalendar } from '../network/activityCalendar.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Plan, Resource } from '../plan/schema.ts'
import { chainSettings, isChainWork } from './focused.ts'
import { criticalChain } from './criticalChain.ts'
import { currentChain } from './currentChain.ts'
import { insertBuffers } from './insertBuffers.ts'

/** A plan of several, in the order of their priority. */
export interface StaggeredPlan {
  readonly id: string
  readonly plan: Plan
}

/** A stretch of time in which a plan's chain work asks for the drum. */
export interface DrumWork {
  readonly activity: string
  readonly from: Instant
  readonly to: Instant
  readonly amount: number
}

/** Where one of several plans is put. */
export interface Staggered {
  readonly id: string
  /**
   * `under way`: it has begun, and is not moved; `placed`: it begins when the drum is free for it; `cannot`: no later beginning helps, it
   * stays where it is.
   */
  readonly state: 'under way' | 'placed' | 'cannot'
  /** Calendar days by which it begins later than its plan says. */
  readonly days: number
  readonly start: string
  /** End of the last work of its chain, and of its project buffer. */
  readonly finish: string
  readonly promised: string
  readonly drum: readonly DrumWork[]
  /** Whose drum work is in its way a day earlier, and until when. */
  readonly waitsFor: readonly { readonly id: string; readonly until: Instant }[]
  /** Ids of drum work in conflict that its own dates hold where it is, however late the plan begins. */
  readonly held: readonly string[]
}

/** Later than that nothing is put. */
const MOST_DAYS = 3 * 366
const MOST_TRIES = 400
/** Days after which whatever follows the beginning of its plan has moved. */
const SURELY_MOVED = 21

/** The drum of a plan: what it names as such, else the people or plant with that code. */
export const drumOf = (plan: Plan, code: string): Resource | null => {
  const workers = plan.resources.filter(isWorker)
  const named = workers.find(({ id }) => id === plan.project.chain?.drum)
  return named ?? workers.find((one) => code !== '' && (one.code || one.name) === code) ?? null
}

/** What one activity asks of the drum; a day of it in minutes. */
interface AskedOfDrum extends AskedOnce {
  readonly activity: string
  readonly dayMinutes: number
}
interface Placed {
  readonly asked: readonly AskedOfDrum[]
  readonly start: Instant
  readonly finish: Instant
  readonly promised: Instant
}

/**
 * Several plans staggered at one resource (semantics2.md section 16, step 10): in the order given each begins on the first day on which what
 * its chain work asks of the drum, on top of what those before it ask, is within what is there. Plans that are under way stay as they are
 * and come first. Each is scheduled anew for every day that is tried, on its own calendars.
 * @param drum - code of the resource, or its name where it has no code; how many there are, and when, is what the first plan says
 * @param say - is given each plan as it is placed
 * @throws LevelError, CalendarError of a plan whose chain cannot be found
 */
export const stagger = (
  plans: readonly StaggeredPlan[],
  drum: string,
  say: (one: Staggered) => void = () => {},
): Staggered[] => {
  const first = plans
    .map(({ plan }) => ({ plan, resource: drumOf(plan, drum) }))
    .find(({ resource }) => resource)
  if (!first) return []
  const room: Room = {
    availability: availabilityOf(first.resource!),
    hours: first.resource!.calendar === null ? null : hoursOf(first.plan, first.resource!.calendar),
  }
  const taken: { readonly id: string; readonly asked: Placed['asked'] }[] = []
  const found = new Map<string, Staggered>()
  const keep = (id: string, placed: Placed, more: Found): void => {
    taken.push({ id, asked: placed.asked })
    const one: Staggered = {
      id,
      ...more,
      start: formatInstant(placed.start),
      finish: formatInstant(placed.finish),
      promised: formatInstant(placed.promised),
      drum: placed.asked.map(({ activity, from, to, amount }) => ({ activity, from, to, amount })),
    }
    found.set(id, one)
    say(one)
  }
  const underWay = plans.filter(({ plan }) => isUnderWay(plan))
  for (const { id, plan } of underWay)
    keep(id, placedNow(plan, drum), { state: 'under way', days: 0, waitsFor: [], held: [] })
  for (const { id, plan } of plans) {
    if (found.has(id)) continue
    const { placed, ...more } = firstRoom(plan, drum, room, taken)
    keep(id, placed, more)
  }
  return plans.map(({ id }) => found.get(id)!)
}

type Found = Pick<Staggered, 'state' | 'days' | 'waitsFor' | 'held'>

interface Room {
  readonly availability: Availability
  readonly hours: SpannedCalendar | null
}

const isUnderWay = (plan: Plan): boolean =>
  plan.activities.some(({ progress }) => progress.actualStart !== null)

const hoursOf = (plan: Plan, calendar: string): SpannedCalendar | null =>
  calendar === CLOCK_ID
    ? null
    : new PlanCalendars(plan.calendars, instantOf(plan.project.start, 'start')).get(calendar)

/** The plan where it begins so many days later. */
const begunLater = (plan: Plan, days: number): Plan => ({
  ...plan,
  project: {
    ...plan.project,
    start: formatInstant(instantOf(plan.project.start, 'start') + days * MINUTES_PER_DAY),
  },
})

/** The first day on which there is room for a plan beside what others ask for. */
const firstRoom = (
  plan: Plan,
  drum: string,
  room: Room,
  taken: readonly { readonly id: string; readonly asked: Placed['asked'] }[],
): Found & { readonly placed: Placed } => {
  const others = taken.flatMap(({ asked }) => asked)
  let placed = placedFrom(plan, drum)
  const asPlanned = placed
  // What asks for more than there ever is by itself finds no room.
  if (
    conflictsIn(room, [], placed.asked).length > 0 &&
    mostAskedFor(placed) > mostAvailable(room.availability) + GRAIN
  )
    return { state: 'cannot', days: 0, waitsFor: [], held: [], placed }
  let waitsFor: Staggered['waitsFor'] = []
  for (let days = 0, tries = 0; days <= MOST_DAYS && tries < MOST_TRIES; tries++) {
    const conflicts = conflictsIn(room, others, placed.asked)
    if (conflicts.length === 0)
      return { state: 'placed', ...onWorkday(plan, days, placed), waitsFor, held: [] }
    waitsFor = taken.flatMap(({ id, asked }) => {
      const inTheWay = asked.filter((one) => conflicts.some(({ from, to }) => one.from < to && from < one.to))
      return inTheWay.length === 0 ? [] : [{ id, until: Math.max(...inTheWay.map(({ to }) => to)) }]
    })
    const held = days < SURELY_MOVED ? [] : heldIn(conflicts, asPlanned, placed)
    if (held.length > 0) return { state: 'cannot', days: 0, waitsFor, held, placed: asPlanned }
    days += Math.max(1, leastMove(conflicts, placed.asked))
    placed = placedFrom(begunLater(plan, days), drum)
  }
  return { state: 'cannot', days: 0, waitsFor, held: [], placed: asPlanned }
}

/** The first working day of the project's calendar from a day on that was found: nobody begins on a Sunday. */
const onWorkday = (
  plan: Plan,
  days: number,
  placed: Placed,
): { readonly days: number; readonly placed: Placed } => {
  if (days === 0) return { days, placed }
  const calendar = hoursOf(plan, plan.project.calendar)
  const day = (t: Instant): number => Math.floor(t / MINUTES_PER_DAY)
  const later = calendar === null ? 0 : day(nextWork(calendar, placed.start)) - day(placed.start)
  return { days: days + later, placed: { ...placed, start: placed.start + later * MINUTES_PER_DAY } }
}

/** Ids of the work of conflicts in which nothing has moved though the plan begins later. */
const heldIn = (
  conflicts: readonly { readonly from: Instant; readonly to: Instant }[],
  before: Placed,
  after: Placed,
): string[] => {
  const was = new Map(before.asked.map(({ activity, from }) => [activity, from]))
  for (const { from, to } of conflicts) {
    const there = after.asked.filter((one) => one.from < to && from < one.to)
    if (there.every((one) => was.get(one.activity) === one.from)) return there.map(({ activity }) => activity)
  }
  return []
}

/**
 * Days by which the plan must begin later at least: at the last minute of each conflict one of those that ask for the drum must have moved
 * past it, in days of its own calendar, of which there are no more than days; one less, as calendars differ.
 */
const leastMove = (
  conflicts: readonly { readonly from: Instant; readonly to: Instant }[],
  asked: Placed['asked'],
): number =>
  Math.max(
    ...conflicts.map(({ from, to }) => {
      const there = asked.filter((one) => one.from < to && from < one.to)
      const last = Math.min(to, Math.max(...there.map((one) => one.to)))
      const days = there
        .filter((one) => one.from < last && one.to >= last)
        .map((one) => workBetween(one.calendar, one.from, last) / one.dayMinutes)
      return Math.floor(Math.min(...days)) - 1
    }),
  )

/** Times in which too much is asked for while this plan asks for some of it. */
const conflictsIn = (
  { availability, hours }: Room,
  others: readonly AskedOnce[],
  own: readonly AskedOnce[],
): { readonly from: Instant; readonly to: Instant }[] => {
  const all = [...others, ...own]
  if (own.length === 0) return []
  const times = WorkTimes.over(Math.min(...all.map(({ from }) => from)), Math.max(...all.map(({ to }) => to)))
  const inAll = inColumns(all)
  const steps = stepsOf(inAll, times, hours)
  const mine = stepsOf(inColumns(own), times, hours)
  return overloadsOf(steps, availability, hours === null ? null : () => stepsOf(inAll, times, null)).filter(
    ({ from, to }) => isAskedBetween(mine, from, to),
  )
}

const isAskedBetween = ({ from, load }: Steps, begin: Instant, end: Instant): boolean =>
  from.some((at, k) => load[k]! > GRAIN && at < end && (from[k + 1] ?? at) > begin)

const mostAskedFor = ({ asked }: Placed): number => {
  if (asked.length === 0) return 0
  const times = WorkTimes.over(
    Math.min(...asked.map(({ from }) => from)),
    Math.max(...asked.map(({ to }) => to)),
  )
  return stepsOf(inColumns(asked), times, null).peak
}

/** A plan that has not begun: its chain with its buffers, found for its start. */
const placedFrom = (plan: Plan, drum: string): Placed => {
  const settings = chainSettings(plan)
  const { made, start, finish, end, promised } = insertBuffers(plan, settings, criticalChain(plan, settings))
  return {
    asked: askedFor(plan, drum, made, (i) => ({ from: start[i]!, to: finish[i]! })),
    start: instantOf(plan.project.start, 'start'),
    finish: end,
    promised,
  }
}

/** A plan that has begun: the rest of it, by what was agreed where something was. */
const placedNow = (plan: Plan, drum: string): Placed => {
  const settings = chainSettings(plan)
  const { agreed } = settings
  if (!agreed) return placedFrom(plan, drum)
  const { made } = currentChain(plan, settings, agreed)
  const project = agreed.buffers.find(({ kind }) => kind === 'project')
  return {
    asked: askedFor(plan, drum, made, (i) => ({ from: made.early.begin[i]!, to: made.early.finish[i]! })),
    start: instantOf(plan.project.start, 'start'),
    finish: made.projectFinish,
    promised: project ? instantOf(project.finish, 'finish') : made.projectFinish,
  }
}

/** @param made - the plan on focused durations; its activities first */
const askedFor = (
  plan: Plan,
  drum: string,
  made: Schedule,
  when: (i: number) => Pick<AskedOnce, 'from' | 'to'>,
): AskedOfDrum[] => {
  const resource = drumOf(plan, drum)
  if (!resource) return []
  const amounts = new Map<string, number>()
  for (const { activity, resource: id, amount } of plan.assignments)
    if (id === resource.id) amounts.set(activity, (amounts.get(activity) ?? 0) + amount)
  const { calendars, statusDate } = made.network
  return plan.activities.flatMap((activity, i): AskedOfDrum[] => {
    const amount = amounts.get(activity.id) ?? 0
    if (amount === 0 || !isChainWork(activity)) return []
    const calendar = activityCalendar(
      calendars,
      made.network.plan.project,
      made.network.activities[i]!,
      statusDate,
    )
    const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, activity))
    return [{ activity: activity.id, amount, calendar, dayMinutes, ...when(i) }]
  })
}
