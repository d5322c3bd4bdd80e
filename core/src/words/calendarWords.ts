import type { CalendarHours } from '../plan/calendarCopies.ts'
import { daysWords } from './dates.ts'
import { durationWords } from './durations.ts'
import { weekWords } from './weekWords.ts'

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

/** "Keel Day 6 May, every year" */
export const exceptionWords = (e: CalendarHours['exceptions'][number]): string =>
  `${e.name ?? (e.shifts.length === 0 ? 'off' : 'extra work')} ${e.yearly ? `${daysWords(e.from.slice(-5), e.to.slice(-5))}, every year` : daysWords(e.from, e.to)}`

/** What differs between two states of a calendar's hours, in words. */
export const hoursDifferences = (before: CalendarHours, after: CalendarHours): string[] => {
  const found: string[] = []
  if (!same(before.week, after.week))
    found.push(
      `hours ${before.week ? weekWords(before.week) : 'none'} → ${after.week ? weekWords(after.week) : 'none'}`,
    )
  const [old, now] = [
    new Set(before.exceptions.map((e) => JSON.stringify(e))),
    new Set(after.exceptions.map((e) => JSON.stringify(e))),
  ]
  for (const e of after.exceptions)
    if (!old.has(JSON.stringify(e))) found.push(`${exceptionWords(e)}${e.yearly ? ',' : ''} added`)
  for (const e of before.exceptions)
    if (!now.has(JSON.stringify(e))) found.push(`${exceptionWords(e)}${e.yearly ? ',' : ''} taken out`)
  if (!same(before.seasons, after.seasons)) found.push('seasons')
  if (!same(before.rota, after.rota))
    found.push(after.rota ? `rota ${after.rota.on} days on, ${after.rota.off} off` : 'no rota any more')
  if (!same(before.windows, after.windows))
    found.push(`windows ${before.windows.length} → ${after.windows.length}`)
  if (before.dayMinutes !== after.dayMinutes)
    found.push(
      `a day counts ${durationWords(before.dayMinutes, { dayMinutes: 1e9 })} → ${durationWords(after.dayMinutes, { dayMinutes: 1e9 })}`,
    )
  return found
}
