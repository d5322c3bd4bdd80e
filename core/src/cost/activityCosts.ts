import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Calendar } from '../time/calendar.ts'
import type { Resource } from '../plan/schema.ts'
import { Kind, NONE, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { ACCRUALS, type Accrual } from './accruals.ts'
import { activityFigures } from './activityFigures.ts'
import { assignmentTable } from './assignmentTable.ts'
import { workPeriods } from './workPeriods.ts'

/** What activities cost, by their position; money unrounded. */
export interface ActivityCosts {
  readonly schedule: Schedule
  /** With the planned duration. */
  readonly planned: Float64Array
  /** With the length that it comes to, and the actual cost where one is given. */
  readonly atCompletion: Float64Array
  /** By the status date: the actual cost, or what had accrued. */
  readonly spent: Float64Array
  /** Parts of what an activity costs at completion beyond what is spent, by accrual. */
  readonly toCome: Readonly<Record<Accrual, Float64Array>>
  /** The same of what is spent; an actual cost is even. */
  readonly done: Readonly<Record<Accrual, Float64Array>>
  /** Working minutes on its own calendar: spent and remaining; of a hammock its span. */
  readonly length: Float64Array
}

/** A cost as lump sums and money per working minute, by accrual; by the position of activities. */
export interface Rates {
  readonly lump: Readonly<Record<Accrual, Float64Array>>
  readonly perMinute: Readonly<Record<Accrual, Float64Array>>
}
const byAccrual = (n: number): Record<Accrual, Float64Array> => ({
  even: new Float64Array(n),
  start: new Float64Array(n),
  finish: new Float64Array(n),
})

/**
 * Fixed cost, cost per day, and assignments with their prices (semantics2.md section 11).
 * @param counts - whose cost counts: of a resource, or (null) what activities cost by themselves
 */
export const ratesOf = (
  schedule: Schedule,
  counts: (resource: Resource | null) => boolean = () => true,
): Rates => {
  const { plan, indexOf } = schedule.network
  const n = plan.activities.length
  const rates: Rates = { lump: byAccrual(n), perMinute: byAccrual(n) }
  const dayLength = new Map<string, number>()
  const dayMinutes = new Float64Array(n)
  const dayMinutesOf = (i: number): number => {
    if (dayMinutes[i]! > 0) return dayMinutes[i]!
    const id = calendarOf(plan.project, plan.activities[i]!)
    let length = dayLength.get(id)
    if (length === undefined) dayLength.set(id, (length = lengthsOf(plan, id).dayMinutes))
    return (dayMinutes[i] = length)
  }
  const { fixed, perDay, accrual } = activityFigures(plan.activities)
  if (counts(null))
    for (let i = 0; i < n; i++) {
      if (fixed[i] !== 0) rates.lump[ACCRUALS[accrual[i]!]!][i]! += fixed[i]!
      if (perDay[i] !== 0) rates.perMinute.even[i]! += perDay[i]! / dayMinutesOf(i)
    }
  /** Of each resource where its cost is added, and by what a price is divided: 0 for the length of a day. */
  const added = plan.resources.map((resource) => {
    if (!counts(resource)) return null
    const { price, per } = resource
    const accrue = resource.accrue ?? (per === 'call' ? 'start' : 'even')
    const isTimed = per === 'hour' || per === 'day'
    const into = (isTimed ? rates.perMinute : rates.lump)[accrue]
    return { price, into, by: per === 'hour' ? 60 : per === 'day' ? 0 : 1 }
  })
  const { activity, resource, amount } = assignmentTable(plan, indexOf)
  for (let a = 0; a < activity.length; a++) {
    const of = added[resource[a]!]!
    if (of === null) continue
    const i = activity[a]!
    of.into[i]! += (of.price * amount[a]!) / (of.by === 0 ? dayMinutesOf(i) : of.by)
  }
  return rates
}

interface KnownRates {
  readonly of: readonly unknown[]
  readonly rates: Rates
}
let known: KnownRates | null = null

/** {@link ratesOf} everything. Of the plan that was asked about last they are kept until something is priced otherwise. */
const allRates = (schedule: Schedule): Rates => {
  const { plan, indexOf } = schedule.network
  const { activities, assignments, resources, calendars, project } = plan
  const { priced } = activityFigures(activities)
  const of = [priced, indexOf, assignments, resources, calendars, project]
  if (!known?.of.every((one, k) => one === of[k])) known = { of, rates: ratesOf(schedule) }
  return known.rates
}

const workIn = (calendar: Calendar, from: number, to: number): number =>
  from === NONE || to <= from ? 0 : calendar.countBefore(to) - calendar.countBefore(from)

/** Costs of all activities, hammocks among them. O(n + assignments) */
export const activityCosts = (schedule: Schedule): ActivityCosts => {
  const { activities } = schedule.network.plan
  const n = activities.length
  const lengths = lengthsWorked(schedule)
  const { lump, perMinute } = allRates(schedule)
  const { actualCost } = activityFigures(activities)
  const costs = {
    schedule,
    planned: new Float64Array(n),
    atCompletion: new Float64Array(n),
    spent: new Float64Array(n),
    toCome: byAccrual(n),
    done: byAccrual(n),
    length: lengths.length,
  }
  const coming = costs.atCompletion
  for (const when of ACCRUALS)
    addCosts(lump[when], perMinute[when], lengths, lengths.accrued[when], {
      planned: costs.planned,
      spent: costs.spent,
      coming,
      done: costs.done[when],
      toCome: costs.toCome[when],
    })
  for (let i = 0; i < n; i++) {
    const actual = actualCost[i]!
    if (!Number.isNaN(actual)) {
      costs.done.even[i] = costs.spent[i] = actual
      costs.done.start[i] = costs.done.finish[i] = 0
    }
    costs.atCompletion[i] = costs.spent[i]! + coming[i]!
  }
  return costs
}

/** By the position of activities, in working minutes. */
interface LengthsWorked {
  readonly planned: Float64Array
  /** Worked and left. */
  readonly length: Float64Array
  /** The share of a cost that is spent, 0 to 1, by when it accrues. */
  readonly accrued: Readonly<Record<Accrual, Float64Array>>
}

const lengthsWorked = (schedule: Schedule): LengthsWorked => {
  const { network } = schedule
  const { plan, kind, state, remaining } = network
  const n = plan.activities.length
  const lengths = { planned: new Float64Array(n), length: new Float64Array(n), accrued: byAccrual(n) }
  const { planned, length, accrued } = lengths
  const { duration } = activityFigures(plan.activities)
  const { doneFrom, doneTo, from, to } = workPeriods(schedule, 'placed')
  for (let i = 0; i < n; i++) {
    const own = kind[i] === Kind.Work ? duration[i]! : 0
    if (kind[i] !== Kind.Hammock && state[i] === State.NotStarted) {
      planned[i] = length[i] = own
      continue
    }
    const calendar = network.calendar[i]!
    const worked = workIn(calendar, doneFrom[i]!, doneTo[i]!)
    const isHammock = kind[i] === Kind.Hammock
    const isStarted = doneFrom[i] !== NONE
    const isFinished = isStarted && (isHammock ? from[i] === NONE : state[i] === State.Finished)
    const left = isHammock ? workIn(calendar, from[i]!, to[i]!) : isFinished ? 0 : remaining[i]!
    length[i] = worked + left
    planned[i] = isHammock ? length[i]! : own
    accrued.even[i] = isFinished ? 1 : length[i] === 0 ? 0 : worked / length[i]!
    accrued.start[i] = isStarted ? 1 : 0
    accrued.finish[i] = isFinished ? 1 : 0
  }
  return lengths
}

/** Adds what accrues at one time. @param costs - filled */
const addCosts = (
  lump: Float64Array,
  perMinute: Float64Array,
  { planned, length }: LengthsWorked,
  accrued: Float64Array,
  costs: Readonly<Record<'planned' | 'spent' | 'coming' | 'done' | 'toCome', Float64Array>>,
): void => {
  const { done, toCome, spent, coming } = costs
  for (let i = 0; i < lump.length; i++) {
    if (lump[i] === 0 && perMinute[i] === 0) continue
    costs.planned[i]! += lump[i]! + perMinute[i]! * planned[i]!
    const whole = lump[i]! + perMinute[i]! * length[i]!
    const part = whole * accrued[i]!
    done[i] = part
    toCome[i] = whole - part
    spent[i]! += part
    coming[i]! += whole - part
  }
}

export interface CostSum {
  readonly planned: number
  readonly atCompletion: number
  readonly spent: number
}
export const sumOf = (costs: Pick<ActivityCosts, keyof CostSum>, members: Iterable<number>): CostSum => {
  let [planned, atCompletion, spent] = [0, 0, 0]
  for (const i of members) {
    planned += costs.planned[i]!
    atCompletion += costs.atCompletion[i]!
    spent += costs.spent[i]!
  }
  return { planned, atCompletion, spent }
}
export const costAt = (costs: ActivityCosts, i: number): CostSum => sumOf(costs, [i])

/** Costs of all activities below each group, those of the groups in it included. O(n · depth) */
export const groupCosts = (costs: ActivityCosts): Map<string, CostSum> => {
  const { groups, activities } = costs.schedule.network.plan
  const parent = new Map(groups.map((group) => [group.id, group.parent]))
  const members = new Map<string, number[]>(groups.map((group) => [group.id, []]))
  activities.forEach(({ group }, i) => {
    for (let at = group; at !== null; at = parent.get(at) ?? null) members.get(at)?.push(i)
  })
  return new Map([...members].map(([id, of]) => [id, sumOf(costs, of)]))
}
