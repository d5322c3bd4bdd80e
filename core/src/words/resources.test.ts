import { describe, expect, it } from 'vitest'
import { instantOf } from '../time/index.ts'
import { applyChange, assign, readPlan, removeResource, type Plan } from '../plan/index.ts'
import { assignmentWords, availableWords, readAssignments, readAvailable } from './resources.ts'
import { amountWords, readAmount } from './amounts.ts'

const plan: Plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  activities: [
    { id: 'a', duration: 60 },
    { id: 'b', duration: 60 },
  ],
  resources: [
    { id: '1', code: 'WELD', name: 'Welders' },
    { id: '2', code: 'CRAN', name: 'Crane' },
    { id: '3', code: 'CRAW', name: 'Crawler crane' },
    { id: '4', code: '3D', name: '3D scanner' },
    { id: '5', code: 'GLAS', name: 'Glass' },
  ],
  assignments: [{ id: 'x', activity: 'a', resource: '1', amount: 3, drives: false }],
}).plan
const read = (text: string) => {
  const found = readAssignments(plan, text)
  return found.ok ? found.wanted.map(({ resource, amount }) => [resource, amount]) : found.why
}
const around = instantOf('2027-03-01', 'start')
const available = (text: string) => {
  const found = readAvailable(text, around)
  return found.ok ? found.available.map(({ from, amount }) => [from, amount]) : found.why
}

describe('what strangers type for people and plant', () => {
  it.each([
    [
      '2 welders, crane',
      [
        ['1', 2],
        ['2', 1],
      ],
    ],
    [
      'WELD 2 and cran',
      [
        ['1', 2],
        ['2', 1],
      ],
    ],
    [
      '2x weld; 0,5 crawler',
      [
        ['1', 2],
        ['3', 0.5],
      ],
    ],
    ['50 % Crane', [['2', 0.5]]],
    ['1,200 glass', [['5', 1200]]],
    ['glass 1,250,000', [['5', 1250000]]],
    ['0,125 glass', [['5', 0.125]]],
    ['3 of 3D', [['4', 3]]],
    ['3D', [['4', 1]]],
    ['welder (4)', [['1', 4]]],
    ['glass', [['5', 1]]],
    ['', []],
    [' , ', []],
  ])('%s', (text, wanted) => expect(read(text)).toEqual(wanted))
  it('says what it does not know, what is twice and what is none', () => {
    expect(read('1.2.3 crane')).toMatch(/“1.2.3” is not a number/)
    expect(read('2 pilots')).toMatch(/no resource “pilots”; there are WELD, CRAN/)
    expect(read('cra')).toMatch(/no resource “cra”/)
    expect(read('crane, CRAN')).toMatch(/there twice/)
    expect(read('0 crane')).toMatch(/leave it out/)
    const none = readAssignments({ ...plan, resources: [] }, 'crane')
    expect(none.ok ? '' : none.why).toMatch(/none yet; add it in Resources/)
  })
  it('is assigned to several at once, keeps what is said of what is there, and removes the rest', () => {
    const found = readAssignments(plan, '2 weld, crane')
    const wanted = found.ok ? found.wanted : []
    let random = 0
    const { plan: after, inverse } = applyChange(
      plan,
      assign(plan, ['a', 'b'], wanted, () => (random += 0.01)),
    )
    expect([assignmentWords(after, 'a'), assignmentWords(after, 'b')]).toEqual([
      '2 WELD, CRAN',
      '2 WELD, CRAN',
    ])
    expect(after.assignments[0]).toMatchObject({ id: 'x', amount: 2, drives: false })
    expect(applyChange(after, inverse).plan).toEqual(plan)
    expect(assignmentWords(applyChange(after, assign(after, ['a'], [], Math.random)).plan, 'a')).toBe('')
    const without = applyChange(after, removeResource(after, '1')).plan
    expect(assignmentWords(without, 'b')).toBe('CRAN')
  })
})

describe('how much there is, and money', () => {
  it.each([
    ['4', [[null, 4]]],
    [
      '4, 6 from 10 may',
      [
        [null, 4],
        ['2027-05-10', 6],
      ],
    ],
    [
      '1,5; 2 from 2027-05-10',
      [
        [null, 1.5],
        ['2027-05-10', 2],
      ],
    ],
    ['6 from 3 may', [['2027-05-03', 6]]],
    ['no limit', []],
    ['', []],
  ])('%s', (text, steps) => expect(available(text)).toEqual(steps))
  it('is refused with what is wrong', () => {
    expect(available('lots')).toMatch(/“lots” is not understood/)
    expect(available('4, 6')).toMatch(/from when on/)
    expect(available('4 from 10 may, 6 from 3 may')).toMatch(/in order/)
    expect(available('4 from soon')).toMatch(/“soon” is not a date/)
    expect(available('0')).toMatch(/never be available/)
  })
  it('is said as it is read', () => {
    const steps = readAvailable('4, 6 from 10 may', around)
    expect(availableWords({ available: steps.ok ? steps.available : [] })).toBe('4, 6 from 10 May')
    expect(availableWords({ available: [] })).toBe('no limit')
  })
  it('money has thousands apart, and cents where there are any', () => {
    expect([1583496, -12.5, 0, 0.125, 999].map(amountWords)).toEqual([
      '1,583,496',
      '−12.50',
      '0',
      '0.13',
      '999',
    ])
    expect(
      ['1,583,496', '1 200', '12,5', '-3.25', '1,2,3', '', 'ten', '0,500', '1’200', '12,500.5'].map(
        readAmount,
      ),
    ).toEqual([1583496, 1200, 12.5, -3.25, null, null, null, 0.5, 1200, 12500.5])
  })
})
