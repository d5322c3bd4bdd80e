import type { PlacedDates } from '../../schedule/engine.ts'
import { ROW, type KernelRows } from '../../schedule/kernelRows.ts'

/** Columns turned at a time: a line of memory holds so many numbers of a row. */
const TURNED = 16

/** One iteration of scheduled rows, as an engine would have placed it; it holds until the next is asked for. */
interface PlacedColumn {
  readonly remaining: Int32Array
  /** A start is there only where the rows have it. */
  readonly dates: PlacedDates
}

/** Scheduled rows, read column by column. */
export class PlacedColumns {
  private readonly rows: KernelRows
  private readonly n: number
  private readonly remaining: Int32Array
  private readonly start: Int32Array
  private readonly finish: Int32Array
  private readonly beginCount: Int32Array
  private turned = -1

  constructor(rows: KernelRows) {
    this.rows = rows
    this.n = rows.finish.length / ROW
    this.remaining = new Int32Array(this.n * TURNED)
    this.start = new Int32Array(this.n * TURNED)
    this.finish = new Int32Array(this.n * TURNED)
    this.beginCount = new Int32Array(this.n * TURNED)
  }

  at(column: number): PlacedColumn {
    const { n, rows } = this
    const group = Math.floor(column / TURNED)
    if (group !== this.turned) {
      this.turned = group
      turn(rows.remaining!, group * TURNED, n, this.remaining)
      turn(rows.start, group * TURNED, n, this.start)
      turn(rows.finish, group * TURNED, n, this.finish)
      turn(rows.beginCount, group * TURNED, n, this.beginCount)
    }
    const at = (column % TURNED) * n
    const start = this.start.subarray(at, at + n)
    const finish = this.finish.subarray(at, at + n)
    const beginCount = this.beginCount.subarray(at, at + n)
    const projectFinish = rows.projectFinish[column]!
    return {
      remaining: this.remaining.subarray(at, at + n),
      dates: { start, finish, projectFinish, early: { start, finish, beginCount } },
    }
  }
}

const turn = (rows: Int32Array, first: number, n: number, into: Int32Array): void => {
  for (let i = 0; i < n; i++) for (let k = 0; k < TURNED; k++) into[k * n + i] = rows[i * ROW + first + k]!
}
