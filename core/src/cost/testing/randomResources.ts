import fc from 'fast-check'
import { formatInstant } from '../../time/index.ts'
import { readPlan, writePlan, type Plan } from '../../plan/index.ts'
import { GRID, randomPlan, type PlanOptions } from '../../schedule/testing/randomPlans.ts'

const CALENDAR = fc.constantFrom(null, null, 'day', 'six', 'watch', 'few', 'crew', 'clock')
const MONEY = fc.oneof(fc.integer({ min: 0, max: 200 }), fc.constantFrom(0, 0.125, 12.5, 99.99))
const minute = (from: number, to: number): fc.Arbitrary<string> =>
  fc.integer({ min: from, max: to }).map((m) => formatInstant((GRID.lowDay + 10) * 1440 + m))

/** Random plans with up to four resources of all kinds, steps of what there is, assignments, costs and payments. */
export const randomPlanWithResources = (
  options: PlanOptions & {
    /** Few people and plant that much work asks for, so that most of it has to wait. */
    readonly scarce?: boolean
  },
): fc.Arbitrary<Plan> => {
  const isScarce = options.scarce === true
  const resource = fc.record({
    kind: isScarce
      ? fc.constantFrom('people', 'plant')
      : fc.constantFrom('people', 'people', 'plant', 'material', 'fee'),
    price: MONEY,
    per: fc.constantFrom('hour', 'day', 'quantity', 'call'),
    calendar: CALENDAR,
    accrue: fc.constantFrom(null, 'even', 'start', 'finish'),
    steps: fc.uniqueArray(minute(-2000, 12 * 1440), { maxLength: 3 }),
    amounts: fc.array(isScarce ? fc.constantFrom(1, 1, 2) : fc.constantFrom(0, 1, 1.5, 2, 3, 5), {
      minLength: 3,
      maxLength: 3,
    }),
    always: isScarce ? fc.constant(true) : fc.boolean(),
  })
  const assignment = fc.record({
    activity: fc.nat(),
    resource: fc.nat(),
    amount: isScarce ? fc.constantFrom(0.5, 1, 1, 2) : fc.constantFrom(0, 0.2, 0.5, 1, 1, 2, 3),
    drives: fc.boolean(),
  })
  const cost = fc.record({
    fixed: MONEY,
    perDay: MONEY,
    accrue: fc.constantFrom('even', 'start', 'finish'),
    actual: fc.option(MONEY, { freq: 3 }),
  })
  return fc
    .record({
      plan: randomPlan(options),
      resources: fc.array(resource, { minLength: isScarce ? 1 : 0, maxLength: isScarce ? 2 : 4 }),
      assignments: fc.array(assignment, { minLength: isScarce ? 6 : 0, maxLength: 12 }),
      costs: fc.array(cost, { minLength: 9, maxLength: 9 }),
    })
    .map(({ plan, resources, assignments, costs }) => {
      const n = plan.activities.length
      const file = JSON.parse(writePlan(plan)) as Plan
      const made = resources.map(({ steps, amounts, always, ...rest }, k) => ({
        ...rest,
        id: `r${k}`,
        code: `R${k}`,
        available: [...(always ? [null] : []), ...steps.sort()].map((from, s) => ({
          from,
          amount: amounts[s % 3],
        })),
      }))
      return readPlan({
        ...file,
        activities: file.activities.map((a, i) => ({
          ...a,
          cost: { fixed: costs[i]!.fixed, perDay: costs[i]!.perDay, accrue: costs[i]!.accrue },
          progress: {
            ...a.progress,
            actualCost: a.progress.actualStart === null ? null : costs[i]!.actual,
          },
        })),
        resources: made,
        assignments:
          made.length === 0
            ? []
            : assignments.map((a, k) => ({
                id: `x${k}`,
                activity: `a${a.activity % n}`,
                resource: `r${a.resource % made.length}`,
                amount: a.amount,
                drives: a.drives,
              })),
      }).plan
    })
}

/** Plans of all kinds in which most work has to wait for people and plant. */
export const SCARCE_PLANS = randomPlanWithResources({
  constraints: true,
  progress: true,
  calendars: true,
  leads: true,
  scarce: true,
})
