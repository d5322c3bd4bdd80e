import fc from 'fast-check'
import { expect, it } from 'vitest'
import { noShortage, Profile } from './profile.ts'

/** Minutes that the oracle looks at, and after them. */
const END = 60
const minute = fc.integer({ min: 0, max: END })
const doing = fc.record({
  what: fc.constantFrom('take', 'take', 'give back', 'ask'),
  between: fc.tuple(minute, minute).map(([a, b]) => [Math.min(a, b), Math.max(a, b)] as const),
  amount: fc.integer({ min: 1, max: 3 }),
})

it('what is free is what a grid of minutes says, whatever is taken, given back and asked in between', () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ at: minute, amount: fc.integer({ min: 0, max: 4 }) }), { maxLength: 4 }),
      fc.array(doing, { minLength: 1, maxLength: 40 }),
      (steps, doings) => {
        const changes = [...new Map(steps.map(({ at, amount }) => [at, amount]))].sort((a, b) => a[0] - b[0])
        const available = {
          from: [-1_000_000, ...changes.map(([at]) => at)],
          amount: [2, ...changes.map(([, amount]) => amount)],
        }
        const grid = Array.from(
          { length: END + 1 },
          (_, t) => available.amount[available.from.findLastIndex((from) => from <= t)]!,
        )
        // Room for one use only: the arrays have to grow.
        const profile = new Profile(available, 1)
        const found = noShortage()
        for (const { what, between, amount } of doings) {
          const [from, to] = between
          const isShort = grid.map((free) => free < amount)
          const last = isShort.lastIndexOf(true, to - 1)
          const isThere = to > from && last >= from
          // What is taken next is often what was found to fit: places kept from the question must be right.
          expect(profile.lastShortage(from, to, amount, found)).toBe(isThere)
          if (isThere) {
            expect(found.from).toBeGreaterThanOrEqual(from)
            expect(found.from).toBeLessThanOrEqual(last)
            expect(found.to).toBeGreaterThan(last)
            expect(isShort.slice(found.from, found.to)).not.toContain(false)
          }
          const [enough, shortage] = [isShort.indexOf(false, from), isShort.indexOf(true, from)]
          expect(profile.firstEnough(from, amount)).toBe(enough < 0 ? Infinity : enough)
          expect(profile.firstShortage(from, amount)).toBe(shortage < 0 ? Infinity : shortage)
          if (what === 'ask') continue
          const sign = what === 'take' ? 1 : -1
          profile.take(from, to, sign * amount)
          for (let t = from; t < to; t++) grid[t]! -= sign * amount
        }
      },
    ),
    { numRuns: 2000 },
  )
})
