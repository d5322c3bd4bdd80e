import fc from 'fast-check'
import { readPlan, type Plan } from '../../plan/index.ts'

interface Parts {
  readonly days: readonly number[]
  readonly links: readonly (readonly [from: number, to: number, type: string])[]
  readonly demands: readonly (readonly [activity: number, resource: number, amount: number])[]
  readonly there: readonly number[]
}
const planOf = ({ days, links, demands, there }: Parts): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01' },
    resources: there.map((amount, r) => ({ id: `r${r}`, available: [{ from: null, amount }] })),
    activities: days.map((duration, i) => ({ id: `a${i}`, duration: `${duration}d` })),
    links: links
      .filter(([from, to]) => from < to && to < days.length)
      .map(([from, to, type], k) => ({ id: `l${k}`, from: `a${from}`, to: `a${to}`, type })),
    assignments: [
      ...new Map(
        demands
          .filter(([i]) => i < days.length)
          .map(([i, r, amount]) => [
            `${i} ${r}`,
            { id: `${i} ${r}`, activity: `a${i}`, resource: `r${r}`, amount },
          ]),
      ).values(),
    ],
  }).plan

/** Little work on few links and much of what there is: who excludes whom decides. */
export const tightPlans = (types: readonly string[]): fc.Arbitrary<Plan> =>
  fc
    .record({
      days: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 4, maxLength: 6 }),
      links: fc.array(fc.tuple(fc.nat(5), fc.nat(5), fc.constantFrom(...types)), { maxLength: 4 }),
      demands: fc.array(fc.tuple(fc.nat(5), fc.nat(2), fc.integer({ min: 1, max: 3 })), { maxLength: 10 }),
      there: fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 3, max: 4 }))),
    })
    .map(planOf)

/** Twenty-two activities, each after one or two of those shortly before it, that ask for four of everything. */
export const busyPlans: fc.Arbitrary<Plan> = fc.nat().map((seed) => {
  let state = seed
  const below = (n: number): number => {
    state = (Math.imul(state, 1103515245) + 12345) >>> 0
    return (state >>> 16) % n
  }
  const all = Array.from({ length: 22 }, (_, i) => i)
  const type = (): string => ['FS', 'FS', 'FS', 'SS', 'FF'][below(5)]!
  return planOf({
    days: all.map(() => 1 + below(9)),
    links: all
      .slice(1)
      .flatMap((i) => [1, 2].slice(below(2)).map(() => [Math.max(0, i - 1 - below(5)), i, type()] as const)),
    demands: all.flatMap((i) => [1, 2].slice(below(2)).map(() => [i, below(3), 1 + below(3)] as const)),
    there: [4, 4, 4],
  })
})
