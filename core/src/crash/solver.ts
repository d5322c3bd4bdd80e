import type { Highs, InitOptions } from 'highs'

/** A linear or whole-number programme: minimise cost · x with lower ≤ x ≤ upper and rows.low ≤ A x ≤ rows.high. */
export class Programme {
  readonly cost: number[] = []
  readonly lower: number[] = []
  readonly upper: number[] = []
  readonly isWhole: boolean[] = []
  readonly rowLow: number[] = []
  readonly rowHigh: number[] = []
  private readonly starts: number[] = [0]
  private readonly indices: number[] = []
  private readonly values: number[] = []

  /** @returns the position of the new variable */
  variable(given: { cost?: number; lower?: number; upper?: number; isWhole?: boolean }): number {
    this.cost.push(given.cost ?? 0)
    this.lower.push(given.lower ?? -Infinity)
    this.upper.push(given.upper ?? Infinity)
    this.isWhole.push(given.isWhole ?? false)
    return this.cost.length - 1
  }

  /** low ≤ Σ value · variable ≤ high. @returns the position of the new row */
  row(terms: readonly (readonly [variable: number, value: number])[], low: number, high: number): number {
    for (const [variable, value] of terms) {
      this.indices.push(variable)
      this.values.push(value)
    }
    this.starts.push(this.indices.length)
    this.rowLow.push(low)
    this.rowHigh.push(high)
    return this.rowLow.length - 1
  }

  /** Rows in compressed form. */
  get matrix(): { readonly starts: Int32Array; readonly indices: Int32Array; readonly values: Float64Array } {
    return {
      starts: Int32Array.from(this.starts),
      indices: Int32Array.from(this.indices),
      values: Float64Array.from(this.values),
    }
  }
}

/** The optimum, proven; null where there is no solution at all. */
interface Optimum {
  readonly cost: number
  readonly values: Float64Array
}

/** The one place that knows which solver there is. */
export interface Solver {
  /** @throws Error where the solver gave up without a proof */
  minimise(programme: Programme): Optimum | null
}

/** @param wasm - where the solver's code is, for a browser that serves it; none in Node */
export const loadSolver = async (wasm?: string): Promise<Solver> => {
  // Fetched when somebody asks: it is larger than all the rest. Its types describe another way of packing than the module has.
  const load = (await import('highs')).default as unknown as (options: InitOptions) => Promise<Highs>
  const highs = await load(wasm === undefined ? {} : { locateFile: () => wasm })
  const { optimal, infeasible, unboundedOrInfeasible } = highs.constants.modelStatus
  const bound = (value: number): number =>
    value === Infinity ? highs.infinity : value === -Infinity ? -highs.infinity : value
  return {
    minimise: (programme) => {
      const numCols = programme.cost.length
      const numRows = programme.rowLow.length
      const { variableType } = highs.constants
      return highs.withModel(
        {
          numCols,
          numRows,
          colCost: programme.cost,
          colLower: programme.lower.map(bound),
          colUpper: programme.upper.map(bound),
          rowLower: programme.rowLow.map(bound),
          rowUpper: programme.rowHigh.map(bound),
          matrix: { format: 'csr', numRows, numCols, ...programme.matrix },
          ...(programme.isWhole.includes(true) && {
            integrality: programme.isWhole.map((isWhole) =>
              isWhole ? variableType.integer : variableType.continuous,
            ),
          }),
        },
        (model) => {
          model.options.set({ output_flag: false, mip_rel_gap: 0, mip_abs_gap: 1e-9 })
          model.run()
          const status = model.getModelStatus()
          if (status === infeasible || status === unboundedOrInfeasible) return null
          if (status !== optimal) throw new Error(`the solver stopped without a proof (status ${status})`)
          return {
            cost: model.getObjectiveValue(),
            values: Float64Array.from(model.getSolution().colValue),
          }
        },
      )
    },
  }
}
