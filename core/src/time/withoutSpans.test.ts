import fc from 'fast-check'
import { expect, it } from 'vitest'
import { isWorking } from './arithmetic.ts'
import { clockCalendar, type SpannedCalendar } from './calendar.ts'
import { instantOf, type Instant } from './instant.ts'
import { jointSpans } from './jointSpans.ts'
import { PlanCalendars } from './planCalendars.ts'
import { withoutSpans } from './withoutSpans.ts'

const START = instantOf('2027-03-01', 'start')
const week = {
  mon: ['07:00-11:30', '12:15-15:45'],
  tue: ['22:00-24:00'],
  wed: ['00:00-06:00'],
  thu: ['07:00-15:00'],
}
const day = new PlanCalendars(
  [{ id: 'day', parent: null, week, seasons: [], rota: null, windows: [], exceptions: [] }],
  START,
).get('day')

it('works in the minutes of the calendar outside of the gaps, each primitive, minute by minute', () => {
  const gap = fc.tuple(fc.integer({ min: 0, max: 9000 }), fc.integer({ min: 1, max: 3000 }))
  fc.assert(
    fc.property(fc.array(gap, { maxLength: 3 }), fc.boolean(), (given, isClock) => {
      const own: SpannedCalendar = isClock ? clockCalendar : day
      const gaps: [Instant, Instant][] = []
      for (const [from, length] of given.sort(([a], [b]) => a - b)) {
        const last = gaps.at(-1)
        if (!last || START + from > last[1]) gaps.push([START + from, START + from + length])
      }
      const calendar = withoutSpans(own, gaps)
      const works = (t: Instant): boolean =>
        isWorking(own, t) && !gaps.some(([from, to]) => from <= t && t < to)
      const origin = calendar.countBefore(START)
      const spot = { count: 0, at: 0, isWorking: false }
      const minutes: Instant[] = []
      // All at once: asked one by one, asking takes most of the time.
      const [seen, meant]: [unknown[], unknown[]] = [[], []]
      const [low, high] = [START, START + 13_000]
      for (let t = low; t < high; t++) {
        if (t % 7 === 0) {
          seen.push(calendar.countBefore(t) - origin)
          meant.push(minutes.length)
          calendar.firstStart(t, spot)
          seen.push(spot.count - origin, spot.isWorking)
          meant.push(minutes.length, works(t))
          if (minutes.length > 0) {
            calendar.lastEnd(t, spot)
            seen.push(spot.at, spot.isWorking)
            meant.push(minutes.at(-1)! + 1, works(t))
          }
        }
        if (works(t)) minutes.push(t)
      }
      minutes.forEach((t, k) => {
        if (k % 5 !== 0) return
        seen.push(calendar.minuteAt(origin + k))
        meant.push(t)
      })
      expect(seen).toEqual(meant)
      const spans = jointSpans([calendar], low, high)
      const spanned: Instant[] = []
      for (let s = 0; s < spans.length; s += 2)
        for (let t = spans[s]!; t < spans[s + 1]!; t++) spanned.push(t)
      expect(spanned).toEqual(minutes)
    }),
    { numRuns: 60 },
  )
})
