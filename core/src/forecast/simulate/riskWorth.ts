import { lengthsOf } from '../../plan/durations.ts'
import type { Plan, Risk } from '../../plan/schema.ts'
import { percentileSorted } from '../percentile.ts'
import { amountAt } from './amounts.ts'
import { iterationTable, runIterations, type IterationTable } from './iterationTable.ts'
import { simulationModel, type SimulationOptions } from './model.ts'

/** What something takes off a percentile of the finish and of the cost; negative where it adds. */
export interface Saving {
  /** Days of the project calendar. */
  readonly days: number
  readonly money: number
}

/** What a risk costs at a percentile, and what its mitigation does about it. */
export interface RiskWorth {
  readonly id: string
  /** Less with the risk away. */
  readonly owed: Saving
  /** Less with the mitigation than without, its own price counted; null where there is none. */
  readonly mitigation: Saving | null
}

const ran = (plan: Plan, options: SimulationOptions): IterationTable => {
  const model = simulationModel(plan, options)
  const table = iterationTable(model)
  runIterations(model, table)
  return table
}

const withMitigation = (plan: Plan, id: string, done: boolean): Plan => ({
  ...plan,
  risks: plan.risks.map((risk): Risk =>
    risk.id === id && risk.mitigation ? { ...risk, mitigation: { ...risk.mitigation, done } } : risk,
  ),
})

/**
 * What each risk of the register is worth: runs on the same draws, one without it, and one with its mitigation the other way round
 * (semantics2.md section 14, days owed). One risk after the other, so that a page can show them as they come.
 * @param percent - of the finish, and of the cost
 */
export function* riskWorths(plan: Plan, options: SimulationOptions, percent: number): Generator<RiskWorth> {
  const base = ran(plan, options)
  const model = simulationModel(plan, { ...options, iterations: 1 })
  const calendar = model.planned.network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const finishOf = ({ finish }: IterationTable): number =>
    calendar.countBefore(percentileSorted(finish.slice().sort(), percent))
  const costOf = ({ cost }: IterationTable): number => amountAt(cost.slice().sort(), percent)
  const saving = (more: IterationTable, less: IterationTable): Saving => ({
    days: (finishOf(more) - finishOf(less)) / dayMinutes,
    money: costOf(more) - costOf(less),
  })
  for (const { id, mitigation } of plan.risks) {
    const owed = saving(base, ran(plan, { ...options, without: { kind: 'risk', id } }))
    if (!mitigation) {
      yield { id, owed, mitigation: null }
      continue
    }
    const other = ran(withMitigation(plan, id, !mitigation.done), options)
    yield { id, owed, mitigation: mitigation.done ? saving(other, base) : saving(base, other) }
  }
}
