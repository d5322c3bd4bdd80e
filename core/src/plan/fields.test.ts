import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/index.ts'
import { FIELDS, LIST_NAMES, LISTS, meaningOf } from './fields.ts'
import { readPlan } from './readPlan.ts'
import { planSchema } from './schema.ts'

describe('the table of fields', () => {
  it.each(LIST_NAMES)('says what every field of %s means, and no other', (list) => {
    const { shape } = planSchema.shape[list].unwrap().element as { shape: object }
    expect(Object.keys(FIELDS[list]).sort()).toEqual(Object.keys(shape).sort())
    expect(LISTS[list].one).not.toBe('')
  })
  it('says it of the project', () => {
    expect(Object.keys(FIELDS.project).sort()).toEqual(Object.keys(planSchema.shape.project.shape).sort())
  })
  it('takes a field that the program does not know for one that may move anything', () => {
    for (const field of ['toString', '__proto__', 'from another version'])
      expect(meaningOf('activities', field)).toMatchObject({
        schedules: 'plan',
        forecasts: true,
        breaks: 'plan',
      })
  })
  it('calls nothing said or counted what the network is compiled from', () => {
    const activity = { id: 'a', code: 'A', duration: 480 }
    const network = (fields: object) => {
      const { plan } = readPlan({
        format: 'geodrome-plan',
        version: 1,
        project: { start: '2027-03-01', calendar: 'clock', statusDate: '2027-03-02' },
        activities: [{ ...activity, ...fields }],
      })
      const {
        plan: _plan,
        activities: _activities,
        indexOf: _,
        calendars: __,
        ...arrays
      } = compileNetwork(plan)
      return JSON.stringify(arrays)
    }
    const other: Record<string, unknown> = {
      duration: 960,
      place: 'late',
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-04-01' }],
      progress: { actualStart: '2027-03-01T00:00', remaining: 60 },
      kind: 'hammock',
      edge: 'finish',
      estimate: { low: 1, likely: 2, high: 3 },
      crash: { duration: 60, normalCost: 1, cost: 2 },
      focused: 60,
      cost: { fixed: 5 },
      aim: '2027-04-01',
      owner: 'Ana',
      notes: 'x',
      tags: { a: 'b' },
      confirmed: false,
      name: 'x',
      code: 'B',
    }
    for (const [field, value] of Object.entries(other)) {
      const isSame = network({ [field]: value }) === network({})
      if (meaningOf('activities', field).schedules === 'nothing') expect(isSame, field).toBe(true)
      if (meaningOf('activities', field).schedules === 'reach') expect(isSame, field).toBe(false)
    }
  })
})

it('a file may assign a resource twice to one activity; each has a name of its own then', () => {
  const file = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'clock' },
    activities: [{ id: 'a' }],
    resources: [{ id: 'r' }],
  }
  const twice = { activity: 'a', resource: 'r', amount: 2 }
  const { plan } = readPlan({ ...file, assignments: [twice, twice, { ...twice, id: 'x1' }] })
  expect(plan.assignments.map((a) => a.id)).toEqual([undefined, 'a|r|2', 'x1'])
  expect(() =>
    readPlan({
      ...file,
      assignments: [
        { ...twice, id: 'x1' },
        { ...twice, id: 'x1' },
      ],
    }),
  ).toThrow('/assignments/1/id: id "x1" is used twice in assignments')
  const acceptance = { check: 'lead', fingerprint: 'f' }
  expect(() => readPlan({ ...file, acceptances: [acceptance, acceptance] })).toThrow(
    '/acceptances/1: this acceptance is there already; remove it',
  )
})
