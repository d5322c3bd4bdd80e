import { doneTogether, instantWords, shortDay, shortDurationWords } from '@geodrome/core'
import type { CellContext } from './cellContext.ts'
import { tightestOf } from './floatDays.ts'
import { doneWords, groupAgreed } from './varianceColumns.ts'

/** Characters of a group's bold figures that a narrow column can show. */
const BOLD_ROOM = 8

/** What a group says in a column: it spans its activities and has no logic of its own. */
export const groupSpan = (context: CellContext, members: readonly number[], column: string): string => {
  if (members.length === 0) return ''
  const { plan, view, allTimes, calendars } = context
  let [from, to] = [Infinity, -Infinity]
  for (const i of members) {
    from = Math.min(from, view.start[i]!)
    to = Math.max(to, view.finish[i]!)
  }
  const date = (at: number, edge: 'start' | 'finish'): string =>
    allTimes ? instantWords(at, edge).slice(4) : shortDay(at, edge)
  switch (column) {
    case 'start':
      return date(from, 'start')
    case 'finish':
      return date(to, 'finish')
    case 'duration':
      return shortDurationWords(
        calendars.project.countBefore(to) - calendars.project.countBefore(from),
        calendars.projectLengths,
        BOLD_ROOM,
      )
    case 'float': {
      const tightest = tightestOf(context, members)
      return tightest < 0
        ? ''
        : shortDurationWords(
            view.totalFloat[tightest]!,
            calendars.lengthsOf(plan.activities[tightest]!),
            BOLD_ROOM,
          )
    }
    case 'done': {
      const share = context.done && doneTogether(context.done, members)
      return share === null || share === 0 ? '' : doneWords(share)
    }
    default:
      return groupAgreed(context, members, column)
  }
}
