import fc from 'fast-check'
import { expect, it } from 'vitest'
import { finishesOfActivity, keepFinishes, packedFinishes } from './packedFinishes.ts'

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
