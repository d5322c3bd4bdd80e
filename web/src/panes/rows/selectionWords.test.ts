import { expect, it } from 'vitest'
import { readPlan } from '@geodrome/core'
import { selectionWords } from './selectionWords.ts'

const { activities, project } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', currency: 'EUR' },
  activities: [
    { id: 'a', code: 'A', duration: '16h', cost: { fixed: 1200, perDay: 5, accrue: 'even' } },
    { id: 'b', code: 'B', duration: '12h', cost: { fixed: 0.5, perDay: 0, accrue: 'even' } },
    { id: 'm', code: 'M', kind: 'milestone' },
  ],
}).plan
const DAY = { dayMinutes: 480, weekMinutes: 2400 }
const words = (...ids: string[]): string =>
  selectionWords(
    activities.filter(({ id }) => ids.includes(id)),
    project.currency,
    DAY,
  )

it('sums the work and the fixed cost of what is selected, and says nothing of nothing', () => {
  expect(words()).toBe('')
  expect(words('m')).toBe('1 selected · 0 d of work')
  expect(words('a', 'b', 'm')).toBe('3 selected · 3.5 d of work · 1,200.50 EUR')
  expect(words('a')).toBe('1 selected · 2 d of work · 1,200 EUR')
})
