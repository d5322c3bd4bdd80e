import type { Column } from './cellContext.ts'
import { DATE_COLUMNS } from './dateColumns.ts'
import { FACT_COLUMNS } from './factColumns.ts'
import { LOGIC_COLUMNS } from './logicColumns.ts'
import { VARIANCE_COLUMNS } from './varianceColumns.ts'

export { cellContext, type CellContext, type Column, type Understood } from './cellContext.ts'

/** Every column that the list can show. */
export const COLUMNS: readonly Column[] = [
  ...FACT_COLUMNS,
  ...DATE_COLUMNS,
  ...VARIANCE_COLUMNS,
  ...LOGIC_COLUMNS,
]
const byId = new Map(COLUMNS.map((column) => [column.id, column]))

export const columnOf = (id: string): Column | undefined => byId.get(id)

const NAME_MIN = 120

/** What is left of the chosen columns in a list of a width with readable names: those that hold least give way first. */
export const columnsThatFit = (chosen: readonly Column[], width: number): readonly Column[] => {
  let shown = chosen
  const needed = (): number => shown.reduce((sum, column) => sum + (column.width ?? NAME_MIN), 0)
  while (shown.length > 2 && needed() > width) {
    const least = Math.min(...shown.map((c) => c.holds))
    const at = shown.findLastIndex((c) => c.holds === least)
    shown = shown.toSpliced(at, 1)
  }
  return shown
}

/** The columns as a CSS grid; the one without a width takes what is left. */
export const gridTemplate = (columns: readonly Column[]): string =>
  columns.map((c) => (c.width === null ? `minmax(${NAME_MIN - 16}px, 1fr)` : `${c.width}px`)).join(' ')
