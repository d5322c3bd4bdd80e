import { kernelIsUsed } from '../../kernel/kernel.ts'
import { KernelRows, ROW, type RowOptions } from '../../schedule/kernelRows.ts'
import { fillDurations, MOST_DRAWN, type SimulationModel, type Varying } from './model.ts'

/** What is asked of rows beside finishes. */
export type RowsAsked = Pick<RowOptions, 'allStarts' | 'again' | 'packs'>

/** Minutes that are drawn ahead, at most: 4 MB. */
const MOST_AHEAD = 1 << 20

/** Iterations are rarely later than planned by more than this share of the whole. */
const LATE_BY = 0.3

/** Iterations of a model, drawn and scheduled a row at a time; where only the engine can, there are none. */
class ModelRows {
  private readonly model: SimulationModel
  private readonly rows: KernelRows | null
  /** What varies, by position, those of one shape after each other. */
  private readonly byShape: readonly number[]
  /** Iterations that are drawn of one activity before the next is: what its shape is read from is at hand for all of them. */
  private readonly ahead: number
  private readonly drawn: Int32Array
  private drawnFrom = 0
  private drawnTo = 0

  constructor(model: SimulationModel, options: RowsAsked) {
    const { network, mayBeAbsent, varying } = model
    this.model = model
    const { projectStart, projectFinish } = model.planned
    const until = projectFinish + (projectFinish - projectStart) * LATE_BY
    this.rows = KernelRows.of(network, { ...options, mayBeAbsent, until })
    this.byShape = byShape(varying)
    this.ahead = Math.max(ROW, Math.min(MOST_DRAWN, Math.floor(MOST_AHEAD / varying.length / ROW) * ROW))
    this.drawn = new Int32Array(this.rows && this.ahead > ROW ? varying.length * this.ahead : 0)
  }

  /** Whether somebody goes through its iterations: then its memory is nobody else's yet. */
  isBusy = false
  release(): void {
    if (!this.isBusy) this.rows?.release()
  }

  /**
   * Draws and schedules iterations first … first + width − 1.
   * @param width - at most {@link ROW}
   * @param to - the first iteration that is not asked for
   * @returns their dates, which hold until the next run; null where the engine must schedule them
   */
  run(first: number, width: number, to: number): KernelRows | null {
    const remaining = this.rows?.remaining
    if (!this.rows || !remaining) return null
    this.draw(first, width, to, remaining)
    this.model.weather?.drawBlock(first, width)
    return this.rows.run(width, (column) => this.model.weather?.hold(first + column)) ? this.rows : null
  }

  private draw(first: number, width: number, to: number, remaining: Int32Array): void {
    const { ahead, drawn } = this
    const { varying } = this.model
    if (ahead === ROW) {
      // Nothing is to be drawn ahead.
      for (const v of this.byShape)
        fillDurations(varying[v]!, first, width, remaining, varying[v]!.activity * ROW)
      return
    }
    if (first < this.drawnFrom || first + width > this.drawnTo) this.drawAhead(first, to)
    varying.forEach(({ activity }, v) => {
      const at = v * ahead + first - this.drawnFrom
      remaining.set(drawn.subarray(at, at + width), activity * ROW)
    })
  }

  private drawAhead(first: number, to: number): void {
    const { ahead, drawn } = this
    const width = Math.min(ahead, to - first)
    for (const v of this.byShape) fillDurations(this.model.varying[v]!, first, width, drawn, v * ahead)
    this.drawnFrom = first
    this.drawnTo = first + width
  }
}

/** The table of a shape has to be at hand where it is read: better once than for each of those that share it. */
const byShape = (varying: readonly Varying[]): number[] => {
  const ranks = new Map<object | undefined, number>()
  const rankOf = varying.map(({ alone }) => {
    const table = alone?.shape.table
    const rank = ranks.get(table) ?? ranks.size
    ranks.set(table, rank)
    return rank
  })
  return varying.map((_, v) => v).sort((a, b) => rankOf[a]! - rankOf[b]!)
}

interface KeptRows {
  readonly key: string
  readonly rows: ModelRows
}
const keptRows = new WeakMap<SimulationModel, KeptRows>()
let latest: WeakRef<SimulationModel> | null = null

/** The rows of a model, laid out once for the ranges of a run that follow each other; only the latest model keeps them. */
export const rowsOf = (model: SimulationModel, options: RowsAsked = {}): ModelRows => {
  const { allStarts = false, again = false, packs = false } = options
  const key = `${allStarts} ${again} ${packs} ${kernelIsUsed()}`
  const kept = keptRows.get(model)
  if (kept?.key === key) return kept.rows
  const before = latest?.deref()
  if (before) {
    keptRows.get(before)?.rows.release()
    keptRows.delete(before)
  }
  latest = new WeakRef(model)
  const rows = new ModelRows(model, options)
  keptRows.set(model, { key, rows })
  return rows
}
