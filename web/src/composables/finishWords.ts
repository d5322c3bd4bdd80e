import { durationWords } from '@geodrome/core'
import type { CalendarLookup } from './useCalendars.ts'

/** By how much the finish of the plan moves, in working time of its calendar. */
export const finishWords = (
  before: number,
  after: number,
  { project, projectLengths }: CalendarLookup,
): string => {
  if (after === before) return 'finish unchanged'
  const minutes = project.countBefore(after) - project.countBefore(before)
  if (minutes === 0) return 'finish moves within non-working time'
  return `finish ${durationWords(Math.abs(minutes), projectLengths)} ${minutes > 0 ? 'later' : 'earlier'}`
}
