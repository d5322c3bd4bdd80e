import fc from 'fast-check'
import { expect, it } from 'vitest'
import { Bounds } from './bounds.ts'

const VARIABLES = 5
const MOST = 5
interface Said {
  readonly variable: number
  readonly isMost: boolean
  readonly value: number
}
/** Some 60 sets of three that may not all hold: as many as leave about one way, or none. */
const forbiddenFrom = (seed: number): Said[][] => {
  let state = seed
  const below = (n: number): number => {
    state = (Math.imul(state, 1103515245) + 12345) >>> 0
    return (state >>> 16) % n
  }
  return Array.from({ length: 48 + below(24) }, () =>
    Array.from({ length: 3 }, () => {
      const isMost = below(2) === 1
      return { variable: below(VARIABLES), isMost, value: isMost ? below(MOST) : 1 + below(MOST) }
    }),
  )
}

const atomOf = ({ variable, isMost, value }: Said): readonly [number, number] =>
  isMost ? [2 * variable + 1, -value] : [2 * variable, value]

/** Every way to give them values. */
const ALL = Array.from({ length: (MOST + 1) ** VARIABLES }, (_, code) =>
  Array.from({ length: VARIABLES }, (_, v) => Math.floor(code / (MOST + 1) ** v) % (MOST + 1)),
)

it('finds values where there are any, and says that there are none where all are forbidden', () => {
  let [some, none, learned] = [0, 0, 0]
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const forbidden = forbiddenFrom(seed)
      const bounds = new Bounds(VARIABLES)
      for (const never of forbidden) {
        const atoms = never.map(atomOf)
        // What the last of them must not be follows from the others, of the same variable among them.
        const rule = {
          onRise: (): boolean => {
            const open = atoms.filter(([side, value]) => bounds.bound[side]! < value)
            if (open.length === 0) return bounds.refuse(atoms.flat())
            if (open.length > 1) return true
            const [[side, value]] = open as [readonly [number, number]]
            const because = (_: number, __: number, into: number[]): void => {
              into.push(...atoms.filter((atom) => atom !== open[0]).flat())
            }
            return bounds.raise(side ^ 1, 1 - value, { because })
          },
        }
        bounds.add(
          rule,
          atoms.map(([side]) => side),
        )
      }
      for (let v = 0; v < VARIABLES; v++) {
        bounds.raise(2 * v, 0, null)
        bounds.raise(2 * v + 1, -MOST, null)
      }
      const assume = (): readonly [number, number] | null => {
        // By halves, from below and from above.
        for (let v = VARIABLES - 1; v >= 0; v--) {
          if (bounds.isFixed(v)) continue
          const middle = Math.floor((bounds.bound[2 * v]! - bounds.bound[2 * v + 1]!) / 2)
          return v % 2 === 0 ? [2 * v, middle + 1] : [2 * v + 1, -middle]
        }
        return null
      }
      // Step by step, as a search goes that can be stopped.
      let outcome = bounds.search(assume, 1)
      for (let step = 0; outcome === 'open' && step < 1000; step++) outcome = bounds.search(assume, 1)
      learned += bounds.deadEnds

      const isAllowed = (values: readonly number[]): boolean =>
        forbidden.every(
          (never) =>
            !never.every(({ variable, isMost, value }) =>
              isMost ? values[variable]! <= value : values[variable]! >= value,
            ),
        )
      // Whatever was learned is true of every way that is allowed.
      const holds = (values: readonly number[], side: number, value: number): boolean =>
        (side % 2 === 0 ? values[side >> 1]! : -values[side >> 1]!) >= value
      const { nogoods } = bounds as unknown as { nogoods: readonly { atoms: readonly number[] }[] }
      for (const { atoms } of nogoods)
        for (const values of ALL)
          if (isAllowed(values))
            expect(atoms.some((side, a) => a % 2 === 0 && !holds(values, side, atoms[a + 1]!))).toBe(true)
      if (outcome === 'found') {
        some++
        expect(isAllowed(Array.from({ length: VARIABLES }, (_, v) => bounds.bound[2 * v]!))).toBe(true)
      } else {
        none++
        expect([outcome, ALL.some(isAllowed)]).toEqual(['none', false])
      }
    }),
    { numRuns: 400 },
  )
  expect([some > 50, none > 50, learned > 500]).toEqual([true, true, true])
})
