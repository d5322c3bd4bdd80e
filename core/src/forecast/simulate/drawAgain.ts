import { createEngine, type PlacedDates } from '../../schedule/engine.ts'
import { drawDurations, type SimulationModel } from './model.ts'

/** Draws and schedules iterations from … to − 1 of a run once more. @param look - what it is given holds until it returns */
export const drawAgain = (
  model: SimulationModel,
  from: number,
  to: number,
  look: (iteration: number, remaining: Int32Array, placed: PlacedDates) => void,
): void => {
  const engine = createEngine(model.network, model.mayBeAbsent)
  const remaining = new Int32Array(model.network.order.length)
  for (let iteration = from; iteration < to; iteration++) {
    model.drawWeather?.(iteration)
    drawDurations(model, iteration, remaining)
    look(iteration, remaining, engine.run(remaining))
  }
}
