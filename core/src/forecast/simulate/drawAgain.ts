import { createEngine, type PlacedDates } from '../../schedule/engine.ts'
import { BLOCK, DrawnBlock, type SimulationModel } from './model.ts'

/** Draws and schedules iterations from … to − 1 of a run once more. @param look - what it is given holds until it returns */
export const drawAgain = (
  model: SimulationModel,
  from: number,
  to: number,
  look: (iteration: number, remaining: Int32Array, placed: PlacedDates) => void,
): void => {
  const engine = createEngine(model.network, model.mayBeAbsent)
  const block = new DrawnBlock(model)
  for (let first = from; first < to; first += BLOCK) {
    const width = Math.min(BLOCK, to - first)
    block.draw(first, width)
    for (let column = 0; column < width; column++) {
      model.drawWeather?.(first + column)
      const remaining = block.columns[column]!
      look(first + column, remaining, engine.run(remaining))
    }
  }
}
