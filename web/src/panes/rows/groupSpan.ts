import { instantWords, shortDay } from '@geodrome/core'
import type { CellContext } from './columns.ts'

/** Start or finish of a group: it spans its activities and has no logic of its own. */
export const groupSpan = ({ view, allTimes }: CellContext, members: readonly number[], column: string): string => {
  if (members.length === 0 || (column !== 'start' && column !== 'finish')) return ''
  const dates = column === 'start' ? view.start : view.finish
  let at = dates[members[0]!]!
  for (const i of members) at = column === 'start' ? Math.min(at, dates[i]!) : Math.max(at, dates[i]!)
  return allTimes ? instantWords(at, column).slice(4) : shortDay(at, column)
}
