import { formatInstant } from '../../time/instant.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { Kind, State } from '../../network/network.ts'
import { createEngine, type PlacedDates } from '../../schedule/engine.ts'
import { emptyMoney, iterationCosts } from './iterationCosts.ts'
import { drawDurations, type SimulationModel } from './model.ts'

/** One iteration, drawn again. Durations in days of the project calendar, dates as texts, money as numbers. */
export interface Replay {
  readonly finish: string
  readonly cost: number
  readonly activities: Readonly<
    Record<
      string,
      { readonly duration: number; readonly start: string; readonly finish: string; readonly cost: number }
    >
  >
  /** Risks that happened. */
  readonly risks: readonly string[]
  readonly damages: Readonly<Record<string, number>>
}

const cents = (amount: number): number => Math.round(amount * 100) / 100

/** Working minutes of an activity: done and remaining; of a hammock its span. */
const lengthOf = (
  { planned }: SimulationModel,
  i: number,
  left: number,
  { start, finish }: PlacedDates,
): number => {
  const { network } = planned
  const hours = network.calendar[i]!
  const between = (from: number, to: number): number =>
    Math.max(0, hours.countBefore(to) - hours.countBefore(from))
  if (network.kind[i] === Kind.Hammock) return between(start[i]!, finish[i]!)
  if (network.state[i] === State.NotStarted) return left
  const from = network.actualStart[i]!
  return network.state[i] === State.Finished
    ? between(from, network.actualFinish[i]!)
    : between(from, network.statusDate!) + left
}

/** @param iteration - counted from 0 */
export const replay = (model: SimulationModel, iteration: number): Replay => {
  const { plan, network } = model
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const engine = createEngine(network, model.mayBeAbsent)
  const remaining = new Int32Array(network.order.length)
  model.weather?.hold(iteration)
  drawDurations(model, iteration, remaining)
  const placed = engine.run(remaining)
  const money = emptyMoney(plan.damages.length)
  const byActivity = new Float64Array(plan.activities.length)
  iterationCosts(model).of(iteration, remaining, placed, money, byActivity)
  return {
    finish: formatInstant(placed.projectFinish),
    cost: cents(money.cost),
    activities: Object.fromEntries(
      plan.activities.map(({ id }, i) => [
        id,
        {
          duration: lengthOf(model, i, remaining[i]!, placed) / dayMinutes,
          start: formatInstant(placed.start[i]!),
          finish: formatInstant(placed.finish[i]!),
          cost: cents(byActivity[i]!),
        },
      ]),
    ),
    risks: model.risks.filter(({ happens }) => happens(iteration)).map(({ risk }) => risk.id),
    damages: Object.fromEntries(plan.damages.map(({ id }, d) => [id, cents(money.damages[d]!)])),
  }
}
