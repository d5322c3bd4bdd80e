import type { Row, RowModel } from '@geodrome/core'
import type { CellContext, Column } from './columns.ts'

/** Selected activities as a block that a spreadsheet takes: titles first, in the order of the list. */
export const copiedRows = (
  context: CellContext,
  columns: readonly Column[],
  model: RowModel,
  selection: readonly string[],
): string => {
  const at = selection
    .map((id) => model.position.get(id))
    .filter((r) => r !== undefined)
    .sort((a, b) => a - b)
  const lines = at.map((r) => {
    const { index } = model.rows[r] as Row & { kind: 'activity' }
    return columns.map((column) => column.text(context, index)).join('\t')
  })
  return [columns.map(({ title }) => title).join('\t'), ...lines].join('\n')
}
