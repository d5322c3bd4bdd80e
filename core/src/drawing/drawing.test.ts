import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NONE } from '../network/network.ts'
import { readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { drawnPlan, type DrawnPlan } from './drawnPlan.ts'
import { inkOf } from './ink.ts'
import { linkPath } from './linkPath.ts'
import { shapeParts } from './shapeParts.ts'
import { shapeOf } from './shapes.ts'
import { placePins, type Pin } from './pins.ts'

describe('pins on the ruler', () => {
  const pin = fc.record({
    id: fc.uuid(),
    at: fc.integer({ min: -3000, max: 3000 }),
    label: fc.constantFrom('planned 5 Jul', 'required 1 Jul', '80 % 19 Aug', 'status 4 May'),
    tone: fc.constant<Pin['tone']>('ink'),
  })
  it('give way to each other: three labels never overlap, and all stay in view', () => {
    fc.assert(
      fc.property(fc.array(pin, { maxLength: 3 }), fc.integer({ min: 320, max: 1200 }), (pins, width) => {
        const placed = placePins(pins, (at) => at, width)
        const box = (p: (typeof placed)[number]): [number, number] =>
          p.anchor === 'end' ? [p.x - p.text.length * 6.6, p.x] : [p.x, p.x + p.text.length * 6.6]
        for (const [k, a] of placed.entries())
          for (const b of placed.slice(k + 1))
            if (a.lane === b.lane) expect(box(a)[1] < box(b)[0] || box(b)[1] < box(a)[0]).toBe(true)
        for (const p of placed) expect(p.x >= 0 && p.x <= width).toBe(true)
      }),
    )
  })
  it('stand at the edge with an arrow when their date is outside', () => {
    const one = (at: number) => placePins([{ id: 'p', at, label: 'planned', tone: 'ink' }], (x) => x, 400)[0]!
    expect([one(900).text, one(-50).text, one(200).text]).toEqual(['planned ▸', '◂ planned', 'planned'])
  })
})

it('less float, more ink; finished work fades; negative float has its own mark', () => {
  const limits = { criticalFloat: 0, nearCriticalFloat: 2400 }
  const inks = [-1, 0, 1, 2400, 2401, NONE].map((float) => inkOf(float, 0, limits))
  expect(inks).toEqual(['short', 'solid', 'hatch', 'hatch', 'outline', 'outline'])
  expect(inkOf(0, 2, limits)).toBe('stone')
})

it('a link leaves and lands where its ends are, and where there is no room goes round by the gap beside the row it lands on', () => {
  const end = fc.record({ x: fc.integer({ min: 0, max: 900 }), row: fc.nat(30), atStart: fc.boolean() })
  fc.assert(
    fc.property(end, end, (a, b) => {
      fc.pre(a.row !== b.row)
      const y = (row: number): number => row * 29 + 14.5
      const path = linkPath(
        { x: a.x, y: y(a.row), atStart: a.atStart },
        { x: b.x, y: y(b.row), atStart: b.atStart },
        29,
      )
      const numbers = path.match(/-?\d+(\.\d+)?/g)!.map(Number)
      expect(numbers.slice(0, 2)).toEqual([a.x, y(a.row)])
      expect(numbers.slice(-2)).toEqual([b.x, y(b.row)])
      // A level stretch is only ever drawn between two rows, never through a bar.
      const level = /L(-?[\d.]+),(-?[\d.]+)/.exec(path)
      if (level) expect(Number(level[2]) % 29).toBe(0)
    }),
  )
})

describe('the room beside a bar', () => {
  const drawn = (project: object) =>
    drawnPlan(
      schedule(
        readPlan({
          format: 'geodrome-plan',
          version: 1,
          project: { start: '2027-03-01', calendar: 'clock', ...project },
          activities: [
            { id: 'a', duration: '1d' },
            { id: 'b', duration: '3d' },
            { id: 'c', duration: '1d' },
          ],
          links: [
            { from: 'a', to: 'c' },
            { from: 'b', to: 'c' },
          ],
        }).plan,
      ),
    )
  /** Days from the project's start. */
  const bar = (plan: DrawnPlan) => {
    const [shape] = shapeOf(
      { kind: 'activity', id: 'a', index: 0, depth: 0 } as never,
      0,
      plan,
      (at) => (at - plan.view.projectStart) / 1440,
      () => 0,
    )
    return shape!
  }
  it('lies after it as far as its late finish, and as far as nothing else moves', () => {
    expect(bar(drawn({ requiredFinish: '2027-03-06' }))).toMatchObject({ x1: 0, x2: 1, freePocket: 3 })
  })
  it('lies before it where work stands late: from where it could be, to where it is', () => {
    const plan = drawn({ direction: 'backward', finish: '2027-03-09T00:00' })
    // C stands on the eighth day, B on the fifth to seventh; A on the seventh could be on the first, and on the fifth without B.
    const of = bar(plan)
    expect(of.x2 - of.x1).toBe(1)
    expect(of.pocket).toBe(of.x1 - 6)
    expect(of.freePocket! < of.x1).toBe(true)
    expect(of.freePocket! >= of.pocket!).toBe(true)
    // Drawn from the start of the bar, not from its end.
    const room = shapeParts(of).find(({ pen }) => pen === 'pocket')!.d
    expect(room).toMatch(new RegExp(`^M${of.x1},[\\d.]+H${of.pocket}V`))
    expect(room).not.toContain(`M${of.x2},`)
  })
})

it('the longest path is underlined whatever float it has, and finished work is on no path any more', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: {
      start: '2027-03-01',
      calendar: 'clock',
      requiredFinish: '2027-03-20',
      statusDate: '2027-03-02',
    },
    activities: [
      {
        id: 'done',
        duration: '1d',
        progress: { actualStart: '2027-03-01T00:00', actualFinish: '2027-03-02T00:00' },
      },
      { id: 'long', duration: '5d' },
      { id: 'short', duration: '2d' },
      { id: 'end', kind: 'milestone', edge: 'finish', duration: 0 },
    ],
    links: [
      { id: '1', from: 'done', to: 'long' },
      { id: '2', from: 'done', to: 'short' },
      { id: '3', from: 'long', to: 'end' },
      { id: '4', from: 'short', to: 'end' },
    ],
  })
  const drawn = drawnPlan(schedule(plan))
  const shapes = plan.activities.map(
    ({ id }, index) =>
      shapeOf(
        { kind: 'activity', id, depth: 0, index },
        index,
        drawn,
        (at) => at / 60,
        (r) => r * 29,
      )[0]!,
  )
  expect(shapes.map(({ ink }) => ink)).not.toContain('solid')
  expect(shapes.filter((s) => shapeParts(s).some(({ pen }) => pen === 'keel')).map(({ id }) => id)).toEqual([
    'long',
    'end',
  ])
  expect(shapes[1]!.label).toContain('; on the longest path')
  expect(shapes[2]!.label).not.toContain('longest path')
})
