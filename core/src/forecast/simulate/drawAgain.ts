import { createEngine, type PlacedDates } from '../../schedule/engine.ts'
import { BLOCK, drawBlock, takeColumn, type SimulationModel } from './model.ts'

/** Draws and schedules iterations from … to − 1 of a run once more. @param look - what it is given holds until it returns */
export const drawAgain = (
  model: SimulationModel,
  from: number,
  to: number,
  look: (iteration: number, remaining: Int32Array, placed: PlacedDates) => void,
): void => {
  const engine = createEngine(model.network, model.mayBeAbsent)
  const remaining = model.network.remaining.slice()
  const durations = new Int32Array(remaining.length * BLOCK)
  for (let first = from; first < to; first += BLOCK) {
    const width = Math.min(BLOCK, to - first)
    drawBlock(model, first, width, durations)
    for (let column = 0; column < width; column++) {
      model.drawWeather?.(first + column)
      takeColumn(model, durations, column, remaining)
      look(first + column, remaining, engine.run(remaining))
    }
  }
}
