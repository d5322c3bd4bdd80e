import { dateWords, groupMoves, readDate, type Row } from '@geodrome/core'
import type { CellContext, Understood } from './columns.ts'
import { groupSpan } from './groupSpan.ts'

export type GroupRow = Row & { kind: 'group' }

/** What stands in a cell of a group to be typed over; null where nothing can be typed. */
export const groupDraft = (context: CellContext, row: GroupRow, column: string): string | null => {
  if (!row.isOutline) return null
  if (column === 'name' || column === 'code') return row[column]
  return column === 'start' && row.members.length > 0 ? groupSpan(context, row.members, 'start') : null
}

export const readGroupDate = ({ view }: CellContext, { members }: GroupRow, text: string) =>
  readDate(text, Math.min(...members.map((i) => view.start[i]!)))

/** A start typed on a group: a group has no dates of its own, so work in it is held; where there are two ways, they are offered. */
const readGroupStart = (context: CellContext, row: GroupRow, text: string): Understood => {
  const { plan, view } = context
  const read = readGroupDate(context, row, text)
  if (!read.ok) return read
  const ways = groupMoves(plan, row.id, read.date, view.start)
  const only = ways[0]
  if (!only)
    return { ok: false, why: 'nothing in it can be held: its work has begun, or waits for other work' }
  const codes = only.starts.map(({ id }) => plan.activities.find((a) => a.id === id)!.code)
  const words = `constraints on its open starts, ${codes.join(', ')}: not before ${dateWords(read.date)}`
  return ways.length > 1
    ? { ok: true, words: `${words}, or a shift: Enter to choose`, change: null }
    : { ok: true, words, change: only.change }
}

/** What is read from a text in a cell of a group: its start, its name or its code. */
export const readGroupCell = (
  context: CellContext,
  row: GroupRow,
  column: string,
  text: string,
): Understood => {
  if (column === 'start') return readGroupStart(context, row, text)
  const value = text.trim()
  return {
    ok: true,
    words: value || 'none',
    change:
      value === groupDraft(context, row, column)
        ? null
        : { kind: 'set', list: 'groups', key: row.id, set: { [column]: value } },
  }
}
