import { positionsOf, type Change } from '@geodrome/core'
import type { CellContext, Column } from './cellContext.ts'

/**
 * The same text read for each of several activities, as one change; those that it leaves as they are take no part in it.
 * @param textOf - what is read for the activity at a position; the text itself where left out
 * @returns why not, if it does not fit one of them
 */
export const readForAll = (
  context: CellContext,
  column: Column,
  ids: readonly string[],
  textOf: (index: number) => string,
):
  | { readonly ok: true; readonly change: Change & { kind: 'all' } }
  | { readonly ok: false; readonly why: string } => {
  const byId = positionsOf(context.plan.activities)
  const changes: Change[] = []
  for (const id of ids) {
    const i = byId.get(id)
    if (i === undefined) continue
    const read = column.read!(context, i, textOf(i))
    if (!read.ok) return { ok: false, why: `${context.plan.activities[i]!.code}: ${read.why}` }
    if (read.change) changes.push(read.change)
  }
  return { ok: true, change: { kind: 'all', changes } }
}
