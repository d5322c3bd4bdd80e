import { describe, expect, it } from 'vitest'
import { loadsOf, moneyView, overloadGroups, readPlan, schedule, waysOut, type Plan } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import { balanceWords } from './balanceWords.ts'
import { wayWords } from './wayWords.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
/** Two days and one want the only crane from Monday, 1 March; the longer one is followed by two more days. */
const make = (more: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'day', currency: 'EUR' },
    calendars: [{ id: 'day', name: 'Day shift', week }],
    activities: [
      { id: 'a', code: 'A', duration: '2d', cost: { fixed: 5000 } },
      { id: 'b', code: 'B', duration: '1d' },
      { id: 'c', code: 'C', duration: '2d' },
      { id: 'p', code: 'P', kind: 'milestone', edge: 'finish', payment: { amount: 9000 } },
    ],
    links: [
      { id: '1', from: 'a', to: 'c' },
      { id: '2', from: 'c', to: 'p' },
    ],
    resources: [
      { id: 'r', code: 'CRAN', name: 'Crane', kind: 'plant', price: 60, available: [{ amount: 1 }] },
    ],
    assignments: [
      { id: 'x', activity: 'a', resource: 'r' },
      { id: 'y', activity: 'b', resource: 'r' },
    ],
    damages: [{ id: 'd', due: '2027-03-04', steps: [{ from: 1, amount: 500 }] }],
    ...more,
  }).plan

describe('ways out of an overload', () => {
  it('say what is done, what the finish does, and what else it costs, never an id', () => {
    const plan = make()
    const made = schedule(plan)
    const [load] = loadsOf(made)
    const calendars = useCalendars(() => plan).value!
    const said = waysOut(made, load!, overloadGroups(load!)[0]!).map((way) => {
      const { title, finish, rest } = wayWords(plan, 'Crane', way, made.projectFinish, calendars)
      return [title, finish, ...rest].join(' · ')
    })
    expect(said).toEqual([
      'B waits for A · finish unchanged · B’s float 3 d → 1 d · 1 activity on other dates',
      'Level the whole plan · finish unchanged · 1 activity on other dates',
      'Crane: 2 for the time · finish unchanged · nothing on other dates · costs 480 EUR more',
      'A waits for B · finish 1 d later · A’s float 0 d → 0 d · 3 activities on other dates · damages 500 EUR more',
    ])
  })
})

describe('what payments leave over', () => {
  const said = (plan: Plan): string => balanceWords(moneyView(schedule(plan)), 'EUR')
  it('says from when until when more is spent than came in, how much at most, and what is left', () => {
    // 5,000 over two days and a crane at 480 a day for three, then 9,000 on Thursday.
    expect(said(make())).toBe(
      'From Mon 1 Mar until Thu 4 Mar more is spent than came in, at most 6,440 EUR on Tue 2 Mar; 2,560 EUR left over in the end.',
    )
  })
  it('says when it is never covered, and when there is nothing to cover it', () => {
    const short = make()
    const less = {
      ...short,
      activities: short.activities.map((a) =>
        a.payment ? { ...a, payment: { ...a.payment, amount: 1000 } } : a,
      ),
    }
    expect(said(less)).toMatch(/^From Mon 1 Mar to the end more is spent .*; 5,440 EUR short in the end\.$/)
    expect(said({ ...short, activities: short.activities.map((a) => ({ ...a, payment: null })) })).toBe(
      'No payments are planned.',
    )
  })
})
