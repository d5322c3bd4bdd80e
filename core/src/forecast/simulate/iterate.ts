import { createEngine, type Engine, type PlacedDates } from '../../schedule/engine.ts'
import { ROW, type KernelRows } from '../../schedule/kernelRows.ts'
import { DrawnBlock, type SimulationModel } from './model.ts'
import { rowsOf, type RowsAsked } from './modelRows.ts'
import { PlacedColumns } from './placedColumns.ts'

/** Who looks at iterations; what is given holds until the look returns. */
export interface Look {
  /**
   * Iterations first … first + width − 1, column by column of rows.
   * @returns false where more was asked of the rows than they could: the engine then schedules these iterations too
   */
  rows(placed: KernelRows, first: number, width: number): boolean | void
  /** One iteration that only the engine can schedule. */
  one(iteration: number, remaining: Int32Array, placed: PlacedDates, engine: Engine): void
}

/** Draws and schedules iterations from … to − 1, in rows where the kernel can. @param options - what is asked beside finishes */
export const iterate = (
  model: SimulationModel,
  from: number,
  to: number,
  look: Look,
  options: RowsAsked = {},
): void => {
  const rows = rowsOf(model, options)
  rows.isBusy = true
  try {
    let columns: { readonly engine: Engine; readonly block: DrawnBlock } | null = null
    for (let first = from; first < to; first += ROW) {
      const width = Math.min(ROW, to - first)
      const placed = rows.run(first, width, to)
      if (placed && look.rows(placed, first, width) !== false) continue
      columns ??= { engine: createEngine(model.network, model.mayBeAbsent), block: new DrawnBlock(model) }
      const { engine, block } = columns
      block.draw(first, width)
      model.weather?.drawBlock(first, width)
      for (let column = 0; column < width; column++) {
        model.weather?.hold(first + column)
        const remaining = block.columns[column]!
        look.one(first + column, remaining, engine.run(remaining), engine)
      }
    }
  } finally {
    rows.isBusy = false
  }
}

/** The same, one iteration after the other with all its dates. */
export const drawAgain = (
  model: SimulationModel,
  from: number,
  to: number,
  look: (iteration: number, remaining: Int32Array, placed: PlacedDates) => void,
): void =>
  iterate(
    model,
    from,
    to,
    {
      rows: (placed, first, width) => {
        const columns = new PlacedColumns(placed)
        for (let column = 0; column < width; column++) {
          const { remaining, dates } = columns.at(column)
          model.weather?.hold(first + column)
          look(first + column, remaining, dates)
        }
      },
      one: look,
    },
    { allStarts: true },
  )
