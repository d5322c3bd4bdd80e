import fc from 'fast-check'
import { expect, it } from 'vitest'
import { compileNetwork } from '../../network/compileNetwork.ts'
import { readPlan } from '../../plan/index.ts'
import { KernelRows, ROW } from '../../schedule/kernelRows.ts'
import { finishesOfActivity, keepBlock, keepFinishes, packedFinishes } from './packedFinishes.ts'

const memory = (bytes: number): ArrayBuffer => new ArrayBuffer(bytes)
const EARLIEST = -(2 ** 22)
const LATEST = 2 ** 24 - 1 - 2 ** 22
const YEARS = 365.25 * 1440

it('what is kept comes back, whatever the order and the ranges it was kept in', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -60_000_000, max: 60_000_000 }), { minLength: 1, maxLength: 4 }),
      fc.array(fc.integer({ min: EARLIEST, max: LATEST }), { minLength: 2, maxLength: 40 }),
      fc.nat(39),
      (planned, away, cut) => {
        const at = Math.min(cut, away.length)
        const packed = packedFinishes(Int32Array.from(planned), away.length, memory)
        const finishes = planned.map((own) => Int32Array.from(away, (by) => own + by))
        finishes.forEach((finish, i) => {
          keepFinishes(packed, i, at, finish, at, finish.length - at)
          keepFinishes(packed, i, 0, finish, 0, at)
        })
        finishes.forEach((finish, i) => expect(finishesOfActivity(packed, i)).toEqual(finish))
      },
    ),
  )
})

it('a block that the kernel packed holds what is kept one by one, and refuses the same', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00' },
    activities: Array.from({ length: 5 }, (_, k) => ({ id: `a${k}`, duration: `${k + 1}d` })),
  })
  const rows = KernelRows.of(compileNetwork(plan), { packs: true })!
  const draw = (most: number): void => {
    const remaining = rows.remaining!
    for (let at = 0; at < remaining.length; at++) remaining[at] = (at * 2_654_435) % most
    expect(rows.run(ROW)).toBe(true)
  }
  draw(40_000)
  const base = Int32Array.from({ length: 4 }, (_, i) => rows.finish[i * ROW]!)
  const [one, other] = [base, base].map((planned) => packedFinishes(planned, 3 * ROW, memory))
  draw(70_000)
  keepBlock(one!, ROW, rows.packedFinishes(one!.base))
  for (let i = 0; i < 4; i++) keepFinishes(other!, i, ROW, rows.finish, i * ROW, ROW)
  expect(one).toEqual(other)
  expect([...finishesOfActivity(one!, 3).subarray(ROW, 2 * ROW)]).toEqual([
    ...rows.finish.subarray(3 * ROW, 4 * ROW),
  ])
  // One of them alone is too far: from the base it is earlier than can be held, or later.
  for (const far of [-(2 ** 23), 2 ** 25])
    expect(() =>
      keepBlock(one!, 0, rows.packedFinishes(one!.base.map((at, i) => (i === 2 ? at - far : at)))),
    ).toThrow('check its estimates')
})

it('a finish beyond what can be held is refused, not kept as another', () => {
  const planned = 42_000_000
  const keep = (by: number) => () =>
    keepFinishes(packedFinishes(Int32Array.of(planned), 2, memory), 0, 1, Int32Array.of(planned + by), 0, 1)
  for (const by of [EARLIEST, 0, LATEST]) expect(keep(by)).not.toThrow()
  for (const by of [EARLIEST - 1, LATEST + 1, -(2 ** 31) - planned])
    expect(keep(by)).toThrow('check its estimates')
  // What the refusal says of years is so.
  expect(Math.floor(LATEST / YEARS)).toBe(23)
  expect(Math.ceil(-EARLIEST / YEARS)).toBe(8)
})
