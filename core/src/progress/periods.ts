import { formatInstant, instantOf, parseDate, type Instant } from '../time/instant.ts'
import type { Change, Item } from '../plan/change.ts'
import { freshId } from '../plan/edits.ts'
import type { Plan, UpdatePeriod } from '../plan/schema.ts'
import { Kind, NONE, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** What a period said of one activity. */
export interface PeriodDates {
  readonly start: Instant
  readonly finish: Instant
  readonly totalFloat: number | null
  /** Working minutes that were left. */
  readonly remaining: number | null
}

/** Keeps an update as a period: the dates of every activity as the schedule has them. @param at - when, as a date with its time */
export const newPeriod = (
  schedule: Schedule,
  {
    name,
    by,
    note,
    at,
  }: { readonly name: string; readonly by: string; readonly note: string; readonly at: string },
  random: () => number,
): Change => {
  const { network } = schedule
  const { plan } = network
  const dates: Item = {}
  network.activities.forEach(({ id }, i) => {
    const float = schedule.float.total[i]!
    dates[id] = [
      formatInstant(schedule.start[i]!),
      formatInstant(schedule.finish[i]!),
      float === NONE ? null : float,
      network.kind[i] === Kind.Work ? network.remaining[i]! : null,
    ]
  })
  const item: Item = {
    id: freshId(plan.periods, 'p', random),
    name,
    statusDate: plan.project.statusDate!,
    closed: at,
    by,
    note,
    finish: formatInstant(schedule.projectFinish),
    dates,
  }
  return { kind: 'add', list: 'periods', item, before: null }
}

/** What a period said, by activity; entries of other programs that mean nothing here say nothing. */
export const datesOf = (period: UpdatePeriod): ReadonlyMap<string, PeriodDates> => {
  const known = read.get(period.dates)
  if (known) return known
  const found = new Map<string, PeriodDates>()
  for (const [id, entry] of Object.entries(period.dates)) {
    if (!Array.isArray(entry)) continue
    const [start, finish, totalFloat, remaining] = entry as unknown[]
    if (!isDate(start) || !isDate(finish)) continue
    found.set(id, {
      start: instantOf(start, 'start'),
      finish: instantOf(finish, 'finish'),
      totalFloat: typeof totalFloat === 'number' ? totalFloat : null,
      remaining: typeof remaining === 'number' ? remaining : null,
    })
  }
  read.set(period.dates, found)
  return found
}
const read = new WeakMap<UpdatePeriod['dates'], ReadonlyMap<string, PeriodDates>>()
const isDate = (value: unknown): value is string => typeof value === 'string' && parseDate(value) !== null

/** Periods in the order of their status dates. */
export const inOrder = (plan: Plan): UpdatePeriod[] =>
  [...plan.periods].sort((a, b) => instantOf(a.statusDate, 'start') - instantOf(b.statusDate, 'start'))

/** Where one activity stood, period by period: a point is missing where a period does not know it. */
export const driftOf = (
  plan: Plan,
  activity: string,
): { readonly period: UpdatePeriod; readonly finish: Instant }[] =>
  inOrder(plan).flatMap((period) => {
    const dates = datesOf(period).get(activity)
    return dates ? [{ period, finish: dates.finish }] : []
  })

/** How many unfinished activities had how much float. */
export interface FloatCounts {
  /** 0 or less; at most a limit; more. */
  readonly none: number
  readonly little: number
  readonly more: number
}

/** Float of what was unfinished in a period. @param little - up to how many minutes it is little */
export const floatIn = (period: UpdatePeriod, little: number): FloatCounts => {
  const counts = { none: 0, little: 0, more: 0 }
  for (const { totalFloat } of datesOf(period).values()) {
    if (totalFloat === null) continue
    counts[totalFloat <= 0 ? 'none' : totalFloat <= little ? 'little' : 'more']++
  }
  return counts
}
/** The same of a schedule. */
export const floatNow = ({ float, network }: Schedule, little: number): FloatCounts => {
  const counts = { none: 0, little: 0, more: 0 }
  for (let i = 0; i < network.activities.length; i++) {
    const total = float.total[i]!
    if (total !== NONE) counts[total <= 0 ? 'none' : total <= little ? 'little' : 'more']++
  }
  return counts
}

/** Of the work that a period planned to finish before the next one, how much was. */
export interface Realised {
  readonly period: UpdatePeriod
  readonly planned: number
  readonly done: number
}

/** Period by period, from the second one on: what the one before had planned to finish by its status date, and what really was. */
export const realisedBy = (schedule: Schedule): Realised[] => {
  const { network } = schedule
  const periods = inOrder(network.plan)
  return periods.slice(1).map((period, k) => {
    const [from, to] = [periods[k]!, period].map(({ statusDate }) => instantOf(statusDate, 'start')) as [
      Instant,
      Instant,
    ]
    let [planned, done] = [0, 0]
    for (const [id, { finish, totalFloat }] of datesOf(periods[k]!)) {
      // What has no float was finished then, or is a hammock.
      if (totalFloat === null || finish <= from || finish > to) continue
      const i = network.indexOf.get(id)
      planned++
      if (i !== undefined && network.state[i] === State.Finished && network.actualFinish[i]! <= to) done++
    }
    return { period, planned, done }
  })
}
