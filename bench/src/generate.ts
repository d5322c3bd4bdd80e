import { readPlan, writePlan, type Plan } from '@geodrome/core'

/** Small fast generator (mulberry32) for load tests: a network of any size from a seed, never shown to users. */
const generator = (seed: number): (() => number) => {
  let a = seed | 0
  return () => {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
const week = (shifts: string[], days: number): Record<string, string[]> =>
  Object.fromEntries(
    ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((d, i) => [d, i < days ? shifts : []]),
  )

/** A plan file of n activities and about 2n links on four calendars, in lanes that merge. */
export const generateFile = (n: number, seed = 1): object => {
  const random = generator(seed)
  const pick = <T>(items: readonly T[]): T => items[Math.floor(random() * items.length)]!
  const lanes = Math.max(4, Math.round(n / 100))
  const calendars = ['day', 'double', 'watch', 'six']
  return {
    format: 'geodrome-plan',
    version: 1,
    project: {
      code: `LOAD${n}`,
      name: `Load test of ${n}`,
      start: '2027-01-04T07:00',
      calendar: 'day',
      opens: ['a0'],
      closes: [`a${n - 1}`],
    },
    calendars: [
      {
        id: 'day',
        name: 'Day',
        dayMinutes: 480,
        weekMinutes: 2400,
        week: week(['07:00-11:30', '12:15-15:45'], 5),
        exceptions: [{ from: '12-24', to: '01-02', yearly: true, shifts: [] }],
      },
      {
        id: 'double',
        name: 'Double',
        dayMinutes: 930,
        weekMinutes: 4650,
        week: week(['05:45-13:30', '14:00-21:45'], 5),
      },
      { id: 'watch', name: 'Watch', dayMinutes: 1440, weekMinutes: 10080, week: week(['00:00-24:00'], 7) },
      {
        id: 'six',
        name: 'Six days',
        dayMinutes: 570,
        weekMinutes: 3420,
        week: week(['06:30-11:30', '12:00-16:30'], 6),
      },
    ],
    groups: Array.from({ length: lanes }, (_, g) => ({ id: `g${g}`, code: `G${g}`, name: `Lane ${g}` })),
    activities: Array.from({ length: n }, (_, i) => {
      const duration = 240 + Math.floor(random() * 4000)
      return {
        id: `a${i}`,
        code: `A${i}`,
        name: `Activity number ${i}`,
        group: `g${i % lanes}`,
        duration,
        calendar: pick(calendars),
        estimate: { low: Math.round(duration * 0.8), likely: duration, high: Math.round(duration * 1.6) },
      }
    }),
    links: Array.from({ length: n }, (_, i) => i)
      .slice(1)
      .flatMap((i) => {
        // One link along the lane, one from somewhere before.
        const along =
          i >= lanes
            ? [{ from: `a${i - lanes}`, to: `a${i}`, type: 'FS' }]
            : [{ from: 'a0', to: `a${i}`, type: 'FS' }]
        const back = Math.max(0, i - 1 - Math.floor(random() * 3 * lanes))
        const cross =
          back === i - lanes
            ? []
            : [
                {
                  from: `a${back}`,
                  to: `a${i}`,
                  type: pick(['FS', 'FS', 'SS', 'FF']),
                  lag: random() < 0.3 ? Math.floor(random() * 960) : 0,
                },
              ]
        return [...along, ...cross]
      })
      .map((link, k) => ({ id: `l${k}`, ...link })),
  }
}

export const generatePlan = (n: number, seed = 1): Plan => readPlan(generateFile(n, seed)).plan

/** A plan with resources, two of them for each activity, of which about half of what is asked for at the peaks is there. */
export const withResources = (plan: Plan, count: number, seed = 1): Plan => {
  const random = generator(seed)
  const pick = (): number => Math.floor(random() * count)
  const file = JSON.parse(writePlan(plan)) as Record<string, unknown>
  const perResource = Math.max(1, Math.round(plan.activities.length / 100 / count) * 2)
  return readPlan({
    ...file,
    resources: Array.from({ length: count }, (_, r) => ({
      id: `r${r}`,
      code: `R${r}`,
      price: 40 + r,
      per: r % 3 === 0 ? 'day' : 'hour',
      available: [
        { from: null, amount: 3 + perResource },
        { from: '2028-01-01', amount: 2 + perResource },
      ],
      calendar: r % 4 === 0 ? 'six' : null,
    })),
    assignments: plan.activities.flatMap(({ id }, i) => {
      const [one, other] = [pick(), pick()]
      const amount = 1 + Math.floor(random() * 3)
      const assign = (k: number, r: number): object => ({
        id: `x${i}-${k}`,
        activity: id,
        resource: `r${r}`,
        amount,
      })
      return one === other ? [assign(0, one)] : [assign(0, one), assign(1, other)]
    }),
  }).plan
}

/** A generated plan of which three activities in five can be crashed, down to six tenths of their durations. */
export const withCrashData = (n: number, seed = 3): Plan => {
  const random = generator(seed)
  const plan = generatePlan(n)
  const file = JSON.parse(writePlan(plan)) as Record<string, unknown>
  return readPlan({
    ...file,
    activities: plan.activities.map((activity) => {
      const price = Math.ceil(100 + random() * 5000)
      if (random() > 0.6 || activity.duration < 960) return activity
      const crash = { duration: Math.round(activity.duration * 0.6), normalCost: 0, cost: price }
      return { ...activity, crash }
    }),
  }).plan
}
