import type { Contingency } from '../../wire/index.ts'
import { formatInstant } from '../../time/instant.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { roundMoney } from '../../plan/money.ts'
import { percentileSorted } from '../percentile.ts'
import { amountAt } from './amounts.ts'
import { iterationCosts } from './iterationCosts.ts'
import { iterationTable, runIterations, type IterationTable } from './iterationTable.ts'
import { simulationModel, type SimulationModel } from './model.ts'

/** Share of the iterations, around the percentile by cost, whose means say what the cost there is made of. */
const NEARBY = 0.05

/**
 * Days and money to set aside so that a share of the iterations stays within them, each by itself. Of the days, what the paired run
 * without the risk register needs, and what the risks add. Of the money, what hammocks, damages and the risks themselves cost more than
 * planned, as means of the iterations around the percentile by cost (the conditional expectation that makes up a quantile's Euler
 * allocation); the rest is the work's.
 * @param percent - above 0, below 100
 * @see Tasche 1999, "Risk contributions and performance measurement"
 */
export const contingencyOf = (
  model: SimulationModel,
  table: IterationTable,
  percent: number,
): Contingency => {
  const { plan, planned, options } = model
  const calendar = planned.network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const at = (finish: Int32Array): number => percentileSorted(finish.slice().sort(), percent)
  const daysTo = (finish: number): number =>
    (calendar.countBefore(finish) - calendar.countBefore(planned.projectFinish)) / dayMinutes
  const finish = at(table.finish)
  const all = daysTo(finish)
  const spread = options.risks && plan.risks.length > 0 ? daysTo(at(withoutRisks(model).finish)) : all
  const money = moneyOf(model, table, percent)
  return {
    percent,
    finish: formatInstant(finish),
    days: { all, spread, risks: all - spread },
    money,
    both: money && sharedBy(table, finish, money.cost),
  }
}

const withoutRisks = ({ plan, options }: SimulationModel): IterationTable => {
  const beside = simulationModel(plan, { ...options, risks: false })
  const table = iterationTable(beside)
  runIterations(beside, table)
  return table
}

const sharedBy = ({ finish, cost, iterations }: IterationTable, date: number, amount: number): number => {
  let kept = 0
  // The amount is told to the cent.
  for (let k = 0; k < iterations; k++) if (finish[k]! <= date && cost[k]! <= amount + 0.005) kept++
  return kept / iterations
}

const moneyOf = (model: SimulationModel, table: IterationTable, percent: number): Contingency['money'] => {
  const costs = iterationCosts(model)
  if (costs.isFree) return null
  const { iterations } = table
  const cost = amountAt(table.cost.slice().sort(), percent)
  const byCost = Uint32Array.from({ length: iterations }, (_, k) => k).sort(
    (a, b) => table.cost[a]! - table.cost[b]! || a - b,
  )
  const rank = Math.ceil((percent / 100) * iterations - 1e-9) - 1
  const reach = Math.floor((NEARBY * iterations) / 2)
  const near = byCost.subarray(Math.max(0, rank - reach), Math.min(iterations, rank + reach + 1))
  const mean = (of: (iteration: number) => number): number =>
    near.reduce((sum, k) => sum + of(k), 0) / near.length
  const overhead = mean((k) => table.overhead[k]!) - costs.plannedOverhead
  const plannedDamages = costs.plannedDamages.reduce((sum, amount) => sum + amount, 0)
  const damages =
    mean((k) => {
      let sum = 0
      for (let d = 0; d < model.plan.damages.length; d++) sum += table.damages[d * iterations + k]!
      return sum
    }) - plannedDamages
  const risks = mean((k) => table.riskCost[k]!)
  const parts = {
    planned: roundMoney(costs.planned),
    cost: roundMoney(cost),
    overhead: roundMoney(overhead),
    damages: roundMoney(damages),
    risks: roundMoney(risks),
  }
  const all = roundMoney(parts.cost - parts.planned)
  return { ...parts, all, work: roundMoney(all - parts.overhead - parts.damages - parts.risks) }
}
