import { instantOf, MINUTES_PER_DAY } from '../../time/instant.ts'
import { ABSENT, linkLimit } from '../../schedule/forwardPass.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { calendarOf } from '../../plan/lagCalendar.ts'
import { groupsAround } from '../../plan/scope.ts'
import { activityCosts } from '../../cost/activityCosts.ts'
import { Kind, limitsFinish, NONE, State } from '../../network/network.ts'
import type { LookCondition, LookQuestion, LookTarget, TargetLook } from '../../wire/index.ts'
import { drawAgain } from './iterate.ts'
import { distributionOf, shareUpTo, toldAs, type Gap, type Unit } from './distribution.ts'
import { emptyMoney, iterationCosts } from './iterationCosts.ts'
import { hammocksOf, type IterationTable } from './iterationTable.ts'
import { finishesOfActivity } from './packedFinishes.ts'
import type { SimulationModel } from './model.ts'

/** What is asked about, by iteration and as planned. */
interface Values {
  readonly unit: Unit
  readonly at: Float64Array
  readonly planned: number
}

/**
 * Any date, length or amount of a run, from what its table keeps, or by drawing its iterations again; of all iterations or of those that
 * a condition holds for.
 * @throws RangeError for what the plan of the run does not have
 */
export const lookAtTarget = (
  model: SimulationModel,
  table: IterationTable,
  { target, given, asked }: LookQuestion<'target'>,
): TargetLook => {
  const { unit, at, planned } = valuesOf(model, table, target)
  const holds = given === null ? null : conditionOf(model, table, given)
  const chosen = holds === null ? at : at.filter((_, k) => holds(k))
  const limit = asked === null ? null : limitOf(unit, asked)
  const looked = chosen.length === 0 ? null : distributionOf(chosen, unit)
  const sorted = chosen.slice().sort()
  const { gap, ...distribution } = looked ?? { gap: null }
  return {
    unit,
    count: chosen.length,
    of: at.length,
    planned: toldAs(unit, planned),
    plannedShare: looked && shareUpTo(sorted, planned),
    askedShare: looked && limit !== null ? shareUpTo(sorted, limit) : null,
    distribution:
      looked === null
        ? null
        : {
            ...(distribution as Omit<typeof looked, 'gap'>),
            twoPeaks: gap && {
              at: [toldAs(unit, gap.peaks[0]), toldAs(unit, gap.peaks[1])],
              below: gap.below,
              because: holds === null ? partedBy(model, at, gap) : null,
              waits: holds === null && unit === 'date' ? waitingAt(model, table, at, gap) : [],
            },
          },
  }
}

const limitOf = (unit: Unit, asked: string | number): number => {
  if ((unit === 'date') !== (typeof asked === 'string'))
    throw new RangeError(unit === 'date' ? 'a date is asked about' : 'an amount is asked about')
  return typeof asked === 'number' ? asked : instantOf(asked, 'finish')
}

const activityAt = ({ plan }: SimulationModel, id: string): number => {
  const i = plan.activities.findIndex((activity) => activity.id === id)
  if (i < 0) throw new RangeError(`the plan of this run has no activity "${id}"`)
  return i
}

/** Positions of what belongs to a group, to the project or to one activity. */
const membersOf = (
  model: SimulationModel,
  of: 'project' | 'group' | 'activity',
  id: string | null,
): number[] => {
  const { plan } = model
  if (of === 'project') return [...plan.activities.keys()]
  if (id === null) throw new RangeError(`which ${of} is asked about?`)
  if (of === 'activity') return [activityAt(model, id)]
  if (!plan.groups.some((group) => group.id === id))
    throw new RangeError(`the plan of this run has no group "${id}"`)
  const around = groupsAround(plan)
  return plan.activities.flatMap(({ group }, i) => (around(group).includes(id) ? [i] : []))
}

const valuesOf = (model: SimulationModel, table: IterationTable, target: LookTarget): Values => {
  switch (target.what) {
    case 'finish':
      return finishesOf(model, table, target)
    case 'length':
      return lengthsOfHammock(model, table, target.id)
    case 'cost':
      return costsOf(model, table, target)
    case 'damages':
      return damagesOf(model, table, target.id)
  }
}

const finishesOf = (
  model: SimulationModel,
  table: IterationTable,
  { of, id }: Extract<LookTarget, { of: 'project' | 'group' | 'activity' }>,
): Values => {
  const { iterations, activityFinish } = table
  const { planned, plan } = model
  if (of === 'project')
    return { unit: 'date', at: Float64Array.from(table.finish), planned: planned.projectFinish }
  const members = membersOf(model, of, id).filter(
    (i) => of === 'activity' || plan.activities[i]!.kind !== 'hammock',
  )
  if (members.length === 0) throw new RangeError('nothing of this group has a finish')
  const at = new Float64Array(iterations).fill(-Infinity)
  for (const i of members)
    finishesOfActivity(activityFinish, i).forEach((finish, k) => (at[k] = Math.max(at[k]!, finish)))
  return { unit: 'date', at, planned: Math.max(...members.map((i) => planned.finish[i]!)) }
}

const lengthsOfHammock = (model: SimulationModel, table: IterationTable, id: string): Values => {
  const { plan, planned } = model
  const i = activityAt(model, id)
  const h = hammocksOf(model).indexOf(i)
  if (h < 0) throw new RangeError('only a hammock has a length that a run finds')
  const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, plan.activities[i]!))
  const hours = planned.network.calendar[i]!
  const { iterations } = table
  return {
    unit: 'days',
    at: Float64Array.from(
      table.hammockLength.subarray(h * iterations, (h + 1) * iterations),
      (minutes) => minutes / dayMinutes,
    ),
    planned: (hours.countBefore(planned.finish[i]!) - hours.countBefore(planned.start[i]!)) / dayMinutes,
  }
}

const costsOf = (
  model: SimulationModel,
  table: IterationTable,
  { of, id }: Extract<LookTarget, { of: 'project' | 'group' | 'activity' }>,
): Values => {
  const costs = iterationCosts(model)
  if (of === 'project') return { unit: 'money', at: table.cost.slice(), planned: costs.planned }
  const members = membersOf(model, of, id)
  const { atCompletion } = activityCosts(model.planned)
  const at = new Float64Array(table.iterations)
  const byActivity = new Float64Array(model.plan.activities.length)
  const money = emptyMoney(model.plan.damages.length)
  // What single activities cost is not kept: the iterations are drawn again.
  drawAgain(model, 0, table.iterations, (iteration, remaining, placed) => {
    byActivity.fill(0)
    costs.of(iteration, remaining, placed, money, byActivity)
    for (const i of members) at[iteration]! += byActivity[i]!
  })
  return { unit: 'money', at, planned: members.reduce((sum, i) => sum + atCompletion[i]!, 0) }
}

const damagesOf = (model: SimulationModel, table: IterationTable, id: string | null): Values => {
  const clauses = [...model.plan.damages.entries()].filter(([, clause]) => id === null || clause.id === id)
  if (id !== null && clauses.length === 0)
    throw new RangeError(`the plan of this run has no damages clause "${id}"`)
  const { iterations } = table
  const { plannedDamages } = iterationCosts(model)
  const at = new Float64Array(iterations)
  let planned = 0
  for (const [d] of clauses) {
    planned += plannedDamages[d]!
    for (let k = 0; k < iterations; k++) at[k]! += table.damages[d * iterations + k]!
  }
  return { unit: 'money', at, planned }
}

const conditionOf = (
  model: SimulationModel,
  { finish }: IterationTable,
  given: LookCondition,
): ((iteration: number) => boolean) => {
  if (given.by === 'finish') {
    const limit = instantOf(given.date, 'finish')
    return (k) => finish[k]! > limit === given.after
  }
  const risk = model.risks.find((one) => one.risk.id === given.id)
  if (!risk)
    throw new RangeError(
      model.options.risks
        ? `the plan of this run has no risk "${given.id}"`
        : 'this run did not draw the risk register',
    )
  return (k) => risk.happens(k) === given.happened
}

/** A risk parts two peaks if it happens in more than half as many again of the iterations above the gap as of those below it. */
const PARTS = 0.5

/** The risk that happens above a gap and not below it, or the other way round. */
const partedBy = (
  model: SimulationModel,
  at: Float64Array,
  { at: gap }: Gap,
): { risk: string; below: number; above: number } | null => {
  let best: { risk: string; below: number; above: number } | null = null
  for (const { risk, happens } of model.risks) {
    const seen = { below: 0, above: 0 }
    const all = { below: 0, above: 0 }
    at.forEach((value, k) => {
      const side = value <= gap ? 'below' : 'above'
      all[side]++
      if (happens(k)) seen[side]++
    })
    const [below, above] = [seen.below / all.below, seen.above / all.above]
    const apart = Math.abs(above - below)
    if (apart >= PARTS && (best === null || apart > Math.abs(best.above - best.below)))
      best = { risk: risk.id, below, above }
  }
  return best
}

/** A wait parts the dates if it makes at least this share of what lies between the peaks. */
const WAIT_SHARE = 0.25

/**
 * Work that stands still longer on the later side of a gap: from the latest of what its links ask for to its finish, less the days that
 * it works, means of both sides. A turn of a calendar that is missed shows here, and a shutdown that work runs into.
 */
const waitingAt = (
  model: SimulationModel,
  { iterations }: IterationTable,
  at: Float64Array,
  { at: gap, peaks }: Gap,
): { activity: string; days: number }[] => {
  const { network, plan } = model
  // Of a plan scheduled backward the starts follow from what comes after.
  if (plan.project.direction === 'backward') return []
  const n = plan.activities.length
  const dayMinutes = plan.activities.map(
    (activity) => lengthsOf(plan, calendarOf(plan.project, activity)).dayMinutes,
  )
  const idle = { below: new Float64Array(n), above: new Float64Array(n) }
  const counts = { below: 0, above: 0 }
  drawAgain(model, 0, iterations, (k, remaining, { early }) => {
    const side = at[k]! <= gap ? 'below' : 'above'
    counts[side]++
    for (let i = 0; i < n; i++) {
      if (network.kind[i] === Kind.Hammock || network.state[i] !== State.NotStarted) continue
      let limit = NONE
      for (let l = network.inStart[i]!; l < network.inStart[i + 1]!; l++) {
        if (limitsFinish(network.linkCode[l]!) || remaining[network.linkFrom[l]!] === ABSENT) continue
        limit = Math.max(limit, linkLimit(network, early, l))
      }
      if (limit !== NONE)
        idle[side][i]! += (early.finish[i]! - limit) / MINUTES_PER_DAY - remaining[i]! / dayMinutes[i]!
    }
  })
  const least = (WAIT_SHARE * (peaks[1] - peaks[0])) / MINUTES_PER_DAY
  return plan.activities
    .map(({ id }, i) => ({
      activity: id,
      days: idle.above[i]! / counts.above - idle.below[i]! / counts.below,
    }))
    .filter(({ days }) => days >= least)
    .sort((a, b) => b.days - a.days)
    .slice(0, 2)
}
