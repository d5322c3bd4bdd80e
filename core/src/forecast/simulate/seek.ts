import type { Plan } from '../../plan/schema.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { fillFinishes } from './finishes.ts'
import { mostIterations } from './iterationTable.ts'
import { simulationModel, type SimulationModel, type SimulationOptions } from './model.ts'
import { BATCH, FEWEST_BATCHES, settledOf, type Settled } from './settled.ts'

/** How sure a run is to be: a percentile to within so many days of the project calendar. */
export interface Until {
  readonly days: number
  readonly percent: number
}

/** Batches of a run that stops by itself, at most. */
const MOST_BATCHES = 100

/**
 * A run of as many whole batches as it may have. How many it takes is found by its finishes alone, which take little room; then so many
 * iterations are run with all that is told of them, on the same draws.
 */
export const seekModel = (plan: Plan, options: SimulationOptions): SimulationModel => {
  const most = Math.floor(mostIterations(plan.activities.length) / BATCH)
  const batches = Math.max(FEWEST_BATCHES, Math.min(MOST_BATCHES, most))
  return simulationModel(plan, { ...options, iterations: batches * BATCH, batch: BATCH })
}

/** Fills in the finishes of iterations from … to − 1. */
export const seekRange = (model: SimulationModel, finishes: Int32Array, from: number, to: number): void =>
  fillFinishes(model, null, finishes, from, to)

/** How many iterations are run before it is looked at again whether they do. */
export const nextSeek = (done: number): number => (done === 0 ? FEWEST_BATCHES * BATCH : done + BATCH)

/** How sure the first iterations are, and whether that does; of the most that there may be it must. */
export const isSettled = (
  { planned, iterations: most }: SimulationModel,
  finishes: Int32Array,
  done: number,
  { days, percent }: Until,
): Settled & { readonly isEnough: boolean } => {
  const { plan, calendars } = planned.network
  const { calendar } = plan.project
  const settled = settledOf(
    finishes.slice(0, done),
    percent,
    calendars.get(calendar),
    lengthsOf(plan, calendar).dayMinutes,
  )
  return { ...settled, isEnough: settled.halfWidth <= days || done >= most }
}

/** Finds how many iterations it takes. */
export const seekSettled = (plan: Plan, options: SimulationOptions, until: Until): Settled => {
  const model = seekModel(plan, options)
  const finishes = new Int32Array(model.iterations)
  for (let done = 0; ;) {
    const next = nextSeek(done)
    seekRange(model, finishes, done, next)
    done = next
    const { isEnough, ...settled } = isSettled(model, finishes, done, until)
    if (isEnough) return settled
  }
}
