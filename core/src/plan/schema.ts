import { DEFAULT_LENGTHS } from './durations.ts'
import { z } from 'zod'
import { parseDate } from '../time/instant.ts'
import { parseShift } from '../time/shifts.ts'
import { isMonthDay, WEEKDAYS } from '../time/workingDays.ts'

/** The plan file, version 1, as Zod. One builder makes two schemas: what files may say, and what the program holds. */

export const MAX_ACTIVITIES = 200_000
/** 200 years of minutes: no duration, lag or float can be longer. */
export const MAX_MINUTES = 105_192_000
/** Letters of a text. */
export const MAX_TEXT = 20_000

const id = z
  .string()
  .min(1, 'an id must not be empty')
  .max(200)
  .refine(
    (s) => !['__proto__', 'constructor', 'prototype'].includes(s),
    'this name is reserved; choose another id',
  )
  .refine((s) => !/\p{Surrogate}/u.test(s), 'holds half a letter (a lone surrogate); choose another id')
const text = z.string().max(MAX_TEXT)
const date = z
  .string()
  .refine((s) => parseDate(s) !== null, 'not a date of 1950–2150; write YYYY-MM-DD or YYYY-MM-DDTHH:MM')
const monthDayOrDate = z
  .string()
  .refine(isMonthDay, 'not a date; write YYYY-MM-DD, or MM-DD with "yearly": true')
const shift = z
  .string()
  .refine((s) => parseShift(s) !== null, 'not a shift; write "07:00-11:30", "16:00-24:00" or "22:00-06:00"')
const minutes = z
  .int()
  .min(-MAX_MINUTES, 'longer than 200 years; write a shorter one')
  .max(MAX_MINUTES, 'longer than 200 years; write a shorter one')
const money = z.number().finite()
/** Money that is paid or charged: a refund is a payment the other way. */
const price = money.min(0, 'below zero; write 0 or more')
/** When a cost falls due within its activity. */
const accrual = z.enum(['even', 'start', 'finish'])
/** Left as they are until the capability that reads them is built; kept on every round trip. */
const anything = z.unknown()

const shape = z.enum(['pert', 'triangular', 'uniform', 'lognormal', 'fixed'])
/** A factor on durations. */
const factor = z
  .number()
  .min(0, 'below zero; write 0 or more')
  .max(100, 'more than a hundredfold; write a factor such as 1.4')
/** What a spread or factor holds for; empty: all activities. */
const scopeSchema = z
  .looseObject({
    group: id.optional(),
    tag: z.tuple([text, text]).optional(),
    activities: z.array(id).max(MAX_ACTIVITIES).optional(),
  })
  .default({})

const week = z.partialRecord(z.enum(WEEKDAYS), z.array(shift).max(24))

/** What says when a calendar works. */
const calendarHours = {
  dayMinutes: z.int().min(1).max(1440).default(DEFAULT_LENGTHS.dayMinutes),
  weekMinutes: z.int().min(1).max(10_080).default(DEFAULT_LENGTHS.weekMinutes),
  week: week.nullable().default(null),
  seasons: z
    .array(
      z.looseObject({
        name: text.optional(),
        from: monthDayOrDate,
        to: monthDayOrDate,
        yearly: z.boolean().default(false),
        week,
      }),
    )
    .max(1000)
    .default([]),
  rota: z
    .looseObject({ from: date, on: z.int().min(1).max(3660), off: z.int().min(0).max(3660) })
    .nullable()
    .default(null),
  windows: z
    .array(z.tuple([date, date]))
    .max(100_000)
    .default([]),
  exceptions: z
    .array(
      z.looseObject({
        name: text.optional(),
        from: monthDayOrDate,
        to: monthDayOrDate,
        yearly: z.boolean().default(false),
        shifts: z.array(shift).max(24).default([]),
      }),
    )
    .max(20_000)
    .default([]),
}

const calendarSchema = z.looseObject({
  id,
  name: text.default(''),
  parent: id.nullable().default(null),
  ...calendarHours,
  /** For a copy: the plan and calendar it was copied from, and what that said then. */
  origin: z
    .looseObject({
      planId: text.optional(),
      plan: text.default(''),
      calendarId: text.optional(),
      calendar: text.default(''),
      alone: z.boolean().default(true),
      taken: z.looseObject(calendarHours).optional(),
    })
    .nullable()
    .optional(),
})

const groupSchema = z.looseObject({
  id,
  code: text.default(''),
  name: text.default(''),
  parent: id.nullable().default(null),
})

export const lagCalendarRule = z
  .string()
  .refine((s) => ['from', 'to', 'project', 'clock'].includes(s) || /^calendar:.+/.test(s), {
    message: 'not one of from, to, project, clock, calendar:<id>',
  })

const constraintSchema = z.looseObject({
  edge: z.enum(['start', 'finish']),
  rule: z.enum(['not-before', 'not-after', 'exactly']),
  date,
  overrides: z.boolean().default(false),
  /** Where its date was taken from: an edge of an activity of another plan. */
  source: z
    .looseObject({
      /** The plan on this server; null: a file of it. */
      plan: id.nullable(),
      /** What the plan is called. */
      name: text,
      activity: id,
      /** What the activity is called there, code and name. */
      code: text.default(''),
      edge: z.enum(['start', 'finish']),
      /** When it was looked at there. */
      taken: date,
    })
    .optional(),
})

const scenarioSchema = z.looseObject({
  id,
  name: text.default(''),
  by: text.default(''),
  why: text.default(''),
  holdsIf: text.default(''),
  /** The scenario that it stands on; null: the plan. */
  base: id.nullable().optional(),
})
/** A change of a scenario: an item of its own, so that two people can work in one scenario. In the order in which they are made. */
const scenarioChangeSchema = z.strictObject({
  /** Of its scenario. */
  id,
  scenario: id,
  change: z.unknown(),
  /** What the plan under the scenario said of what it sets, by the paths of the facts, when it was made. */
  was: z.record(z.string(), z.unknown()).optional(),
})

/** @param duration - how a duration, lag or delay may be written: minutes only, or also texts such as "10d" */
const planWith = <D extends z.ZodType>(duration: D) => {
  const threePoint = z.looseObject({
    low: duration,
    likely: duration,
    high: duration,
    shape: shape.default('pert'),
    ends: z.enum(['extremes', 'p10p90']).default('extremes'),
  })
  const activity = z.looseObject({
    id,
    code: text.optional(),
    name: text.default(''),
    group: id.nullable().default(null),
    kind: z.enum(['work', 'milestone', 'hammock']).default('work'),
    edge: z.enum(['start', 'finish']).optional(),
    duration: duration.optional(),
    confirmed: z.boolean().optional(),
    calendar: id.nullable().default(null),
    place: z.enum(['early', 'late']).default('early'),
    constraints: z.array(constraintSchema).max(20).default([]),
    aim: date.nullable().default(null),
    estimate: threePoint.nullable().default(null),
    crash: z
      .looseObject({
        duration,
        normalCost: money.default(0),
        cost: money.default(0),
        /** Instead of the slope: exactly one of normal and these is chosen. */
        options: z
          .array(z.looseObject({ name: text.default(''), duration, cost: price }))
          .max(50)
          .optional(),
        /** At most so much is crashed; null: down to the crash duration. */
        limit: duration.nullable().optional(),
      })
      .nullable()
      .default(null),
    focused: duration.nullable().default(null),
    /** Of a milestone, under a critical chain: a buffer that stands before it. */
    buffer: duration.nullable().optional(),
    progress: z
      .looseObject({
        actualStart: date.nullable().default(null),
        actualFinish: date.nullable().default(null),
        remaining: duration.nullable().default(null),
        percent: z.number().min(0).max(100).default(0),
        actualCost: money.nullable().default(null),
        /** Stretches in which the work stood still; the last may be open. No working time of this activity. */
        suspended: z
          .array(z.looseObject({ from: date, to: date.nullable().default(null) }))
          .max(100)
          .optional(),
      })
      .default({
        actualStart: null,
        actualFinish: null,
        remaining: null,
        percent: 0,
        actualCost: null,
      } as never),
    promise: z
      .looseObject({ finish: date, by: text.default('') })
      .nullable()
      .default(null),
    /** Work that may pause where a resource is taken while it is levelled. */
    split: z.boolean().default(false),
    cost: z
      .looseObject({ fixed: money.default(0), perDay: money.default(0), accrue: accrual.default('even') })
      .default({ fixed: 0, perDay: 0, accrue: 'even' }),
    payment: z
      .looseObject({ amount: price.default(0), direction: z.enum(['in', 'out']).default('in') })
      .nullable()
      .default(null),
    decision: anything.nullable().default(null),
    owner: text.nullable().default(null),
    tags: z.record(z.string(), z.unknown()).default({}),
    checklist: z.array(anything).default([]),
    notes: text.default(''),
  })
  const link = z.looseObject({
    id: id.optional(),
    from: id,
    to: id,
    type: z.enum(['FS', 'SS', 'FF', 'SF']).default('FS'),
    lag: duration.optional(),
    lagOn: lagCalendarRule.nullable().default(null),
    nature: text.default('hard'),
    reason: text.default(''),
    /** Stood on a group in the file it came from, and nobody has looked at it since. */
    ofGroup: z.boolean().nullable().optional(),
  })
  return z.looseObject({
    format: z.literal('geodrome-plan', 'not a Geodrome plan file: "format" must be "geodrome-plan"'),
    version: z.literal(1, 'this program reads version 1 of the plan file'),
    project: z.looseObject({
      code: text.default(''),
      name: text.default(''),
      responsible: text.optional(),
      notes: text.optional(),
      start: date,
      direction: z.enum(['forward', 'backward']).default('forward'),
      finish: date.nullable().default(null),
      requiredFinish: date.nullable().default(null),
      statusDate: date.nullable().default(null),
      calendar: id.optional(),
      currency: text.default('EUR'),
      opens: z.array(id).default([]),
      closes: z.array(id).default([]),
      criticalFloat: minutes.default(0),
      nearCriticalFloat: minutes.default(2400),
      lagOn: lagCalendarRule.default('from'),
      outOfSequence: z.enum(['hold', 'follow']).default('hold'),
      /** The baseline that the plan is compared with; null: the last one that was frozen. */
      baseline: id.nullable().default(null),
      /** What a percentage over several activities is weighted by. */
      weighting: z.enum(['duration', 'work', 'cost', 'count']).default('duration'),
      /** The house rule for names, listed and never enforced. */
      naming: z
        .looseObject({
          work: z.enum(['any', 'verb', 'delivered']).default('any'),
          milestones: z.enum(['any', 'achieved']).default('any'),
          words: z.array(text).max(2000).default([]),
        })
        .optional(),
      /** Limits of Review: a preset, with "own" a figure by check, and other limits of the 14 points by their number. */
      review: z
        .looseObject({
          preset: z.enum(['house', '14-point', 'own']).default('house'),
          limits: z.record(z.string(), z.number()).default({}),
          points: z.record(z.string(), z.number()).optional(),
        })
        .optional(),
      /** Parts that its report holds; without it all. */
      report: z.looseObject({ parts: z.array(text).max(100).default([]) }).optional(),
      /** Words that stand for chances and delays in the risk register; without it those of the house. */
      riskScale: z
        .looseObject({
          chances: z
            .array(z.looseObject({ name: text, value: z.number().min(0).max(1) }))
            .max(20)
            .default([]),
          /** In days of the calendar of what a risk falls on. */
          delays: z
            .array(
              z.looseObject({
                name: text,
                low: z.number().min(0).max(10_000),
                likely: z.number().min(0).max(10_000),
                high: z.number().min(0).max(10_000),
              }),
            )
            .max(20)
            .default([]),
        })
        .optional(),
    }),
    calendars: z.array(calendarSchema).max(5000).default([]),
    groups: z.array(groupSchema).max(50_000).default([]),
    activities: z.array(activity).max(MAX_ACTIVITIES, `more than ${MAX_ACTIVITIES} activities`).default([]),
    links: z
      .array(link)
      .max(5 * MAX_ACTIVITIES)
      .default([]),
    resources: z
      .array(
        z.looseObject({
          id,
          code: text.default(''),
          name: text.default(''),
          kind: z.enum(['people', 'plant', 'material', 'fee']).default('people'),
          price: price.default(0),
          per: z.enum(['hour', 'day', 'quantity', 'call']).default('hour'),
          /** Steps in order of their dates; without any there is no limit. */
          available: z
            .array(
              z.looseObject({
                from: date.nullable().default(null),
                amount: z.number().min(0, 'below zero; write 0 or more'),
              }),
            )
            .max(2_000)
            .default([]),
          calendar: id.nullable().default(null),
          /** Null: even over the work, and a call at its start. */
          accrue: accrual.nullable().default(null),
          /** Factors on the price, one draw an iteration. */
          priceSpread: z
            .looseObject({
              low: price,
              likely: price,
              high: price,
              shape: shape.default('pert'),
            })
            .nullable()
            .default(null),
        }),
      )
      .default([]),
    assignments: z
      .array(
        z.looseObject({
          /** Where it has none, activity and resource name it. */
          id: id.optional(),
          activity: id,
          resource: id,
          /** People, plant: units at work at once; material: the quantity in all; a fee: the number of calls. */
          amount: z.number().min(0, 'below zero; write 0 or more').default(1),
          /** Whether the work waits for the hours of the resource while it is levelled. */
          drives: z.boolean().default(true),
        }),
      )
      .default([]),
    risks: z
      .array(
        z.looseObject({
          id,
          code: text.default(''),
          name: text.default(''),
          probability: z.number().min(0).max(1).default(0),
          sign: z.enum(['threat', 'opportunity']).default('threat'),
          impacts: z
            .array(
              z.looseObject({
                activity: id,
                delay: threePoint,
                /** Whether the same quantile is drawn for all impacts of the risk that say so. */
                share: z.boolean().optional(),
              }),
            )
            .default([]),
          /** Work that stands between two activities in the iterations in which the risk happens. */
          work: z
            .array(z.looseObject({ after: id, before: id, duration: threePoint }))
            .max(100)
            .optional(),
          /** What it costs where it happens, in money. */
          cost: z
            .looseObject({ low: price, likely: price, high: price, shape: shape.default('pert') })
            .nullable()
            .default(null),
          mitigation: z
            .looseObject({
              name: text.default(''),
              cost: price.default(0),
              probability: z.number().min(0).max(1).default(0),
              /** Factor on the delays and the work of the risk. */
              scale: z.number().min(0).max(100).default(1),
              done: z.boolean().default(false),
            })
            .nullable()
            .default(null),
        }),
      )
      .default([]),
    baselines: z
      .array(
        z.looseObject({
          id,
          name: text.default(''),
          frozen: date.nullable().default(null),
          by: text.default(''),
          note: text.default(''),
          /** Its ink on the time drawing. */
          ink: text.default(''),
          /** A short name of the links, calendars and resources that its dates rest on. */
          basis: text.default(''),
          activities: z.record(z.string(), z.unknown()).default({}),
        }),
      )
      .default([]),
    acceptances: z
      .array(
        z.looseObject({
          check: text,
          fingerprint: text,
          reason: text.default(''),
          by: text.default(''),
          at: text.default(''),
          /** What was accepted, by name, so that a finding that comes back can say what changed. */
          facts: z.record(z.string(), text).optional(),
        }),
      )
      .default([]),
    scenarios: z.array(scenarioSchema).default([]),
    /** Estimates for many activities at once: factors on their planned, or remaining, durations. */
    spreads: z
      .array(
        z.looseObject({
          id,
          name: text.default(''),
          scope: scopeSchema,
          low: factor,
          likely: factor.default(1),
          high: factor,
          shape: shape.default('pert'),
          ends: z.enum(['extremes', 'p10p90']).default('extremes'),
          source: text.default(''),
        }),
      )
      .default([]),
    /** What moves many activities together: one draw an iteration, multiplying all durations in its scope. */
    factors: z
      .array(
        z.looseObject({
          id,
          name: text.default(''),
          scope: scopeSchema,
          low: factor,
          likely: factor.default(1),
          high: factor,
          shape: shape.default('pert'),
          source: text.default(''),
        }),
      )
      .default([]),
    /** By month, the chance that a working day of a calendar is lost whole. */
    weather: z
      .array(
        z.looseObject({
          id,
          calendar: id,
          months: z
            .record(
              z.string().regex(/^([1-9]|1[0-2])$/, 'not a month; write 1 to 12'),
              z.number().min(0).max(0.99, 'a day that is always lost is a holiday; write at most 0.99'),
            )
            .default({}),
        }),
      )
      .default([]),
    damages: z
      .array(
        z.looseObject({
          id,
          name: text.default(''),
          /** The activity whose finish is measured; null: the project's finish. */
          measures: id.nullable().default(null),
          due: date,
          /** Whose working days count. */
          calendar: id.default('clock'),
          per: z.enum(['day', 'week']).default('day'),
          /** The k-th counted unit costs the amount of the latest step with `from` ≤ k. */
          steps: z
            .array(z.looseObject({ from: z.int().min(1).max(100_000), amount: price }))
            .max(1_000)
            .default([]),
          cap: price.nullable().default(null),
        }),
      )
      .default([]),
    reviews: z
      .array(
        z.looseObject({
          id,
          at: text.default(''),
          by: text.default(''),
          note: text.default(''),
          /** Planned finish, and open findings by check, when the review was kept. */
          finish: date.nullable().default(null),
          counts: z.record(z.string(), z.int().min(0)).default({}),
          accepted: z.int().min(0).default(0),
          /** Check and place of what was open, so that the next review can say what is new. */
          open: z.array(z.tuple([text, text])).default([]),
        }),
      )
      .default([]),
    /** Dated updates, oldest first: what each said of every activity when it was kept. */
    periods: z
      .array(
        z.looseObject({
          id,
          name: text.default(''),
          statusDate: date,
          closed: text.default(''),
          by: text.default(''),
          note: text.default(''),
          /** In the log, the changes that it is made of. */
          changes: z.array(text).default([]),
          finish: date.nullable().default(null),
          /** Start, finish, total float and what is left, in minutes; by activity. */
          dates: z.record(z.string(), z.unknown()).default({}),
          runs: z.array(text).default([]),
        }),
      )
      .default([]),
    /** How the list is shown, kept for all who open the plan. */
    views: z
      .array(
        z.looseObject({
          id,
          name: text.default(''),
          columns: z.array(text).max(200).default([]),
          /** Widths that differ from the columns' own, in pixels. */
          widths: z.record(z.string(), z.number().min(20).max(4000)).default({}),
          sort: z
            .array(z.looseObject({ column: text, descending: z.boolean().default(false) }))
            .max(20)
            .default([]),
          across: z.boolean().default(false),
          groupBy: text.default(''),
          conditions: z
            .array(z.looseObject({ field: text, test: text, value: text.default('') }))
            .max(100)
            .default([]),
        }),
      )
      .max(500)
      .default([]),
    /** Events of the activity-on-arrow drawing whose number is kept; known again by what ends and begins there. */
    events: z
      .array(
        z.looseObject({
          id,
          number: z.int().min(1).max(1_000_000),
          name: text.default(''),
          ends: z.array(id).default([]),
          begins: z.array(id).default([]),
        }),
      )
      .max(20_000)
      .default([]),
  })
}

/** Minutes as an integer, or "30m", "4h", "10d", "2w" with an optional decimal part and sign. */
export const durationText = z.union(
  [
    minutes,
    z
      .string()
      .max(40)
      .regex(
        /^\s*[+-]?\d+(\.\d+)?\s*[mhdw]\s*$/,
        'not a duration; write minutes as a whole number, or "30m", "4h", "10d", "2w"',
      ),
  ],
  {
    error: 'not a duration; write minutes as a whole number, or "30m", "4h", "10d", "2w"',
  },
)

/** A critical chain as it was agreed: dates, focused durations in working minutes, buffers, who hands what to whom. */
const agreedChain = z.looseObject({
  at: date,
  activities: z.record(z.string(), z.tuple([date, date, z.number().min(0)])).default({}),
  buffers: z
    .array(
      z.looseObject({
        id: text,
        kind: z.enum(['project', 'feeding', 'milestone']),
        /** Working minutes of the buffers' calendar. */
        minutes: z.int().min(0),
        start: date,
        finish: date,
        after: z.array(id).default([]),
        before: z.array(id).default([]),
        /** The activities that it is sized on, first to last. */
        course: z.array(id).default([]),
      }),
    )
    .max(MAX_ACTIVITIES)
    .default([]),
  chain: z.array(id).max(MAX_ACTIVITIES).default([]),
  handovers: z.array(z.looseObject({ resource: id, from: id, to: id })).default([]),
})

/** How a critical chain is made (semantics2.md section 16). */
const chainWith = <D extends z.ZodType>(duration: D) =>
  z.looseObject({
    cut: z.number().min(0).max(0.95, 'cuts nearly all; write at most 0.95').default(0.5),
    sizing: z.enum(['half', 'root-squares', 'simulated']).default('half'),
    confidence: z.number().min(0.5).max(0.99).default(0.9),
    lead: duration.optional(),
    calendar: id.nullable().default(null),
    drum: id.nullable().default(null),
    thresholds: z
      .array(z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)]))
      .length(2)
      .default([
        [0.1, 0.6],
        [0.25, 0.85],
      ]),
    /** Sizes set by hand, by the id of the buffer. */
    buffers: z.record(z.string(), z.looseObject({ size: duration })).default({}),
    agreed: agreedChain.nullable().default(null),
  })

/** What a plan file may say; the published JSON Schema is made from it. */
export const planFileSchema = planWith(durationText).extend({
  chain: chainWith(durationText).nullable().default(null),
  scenarios: z
    .array(
      scenarioSchema.extend({
        changes: z.array(z.unknown()).default([]),
        /** For each of its changes what it found; null where that is not known. */
        was: z.array(z.record(z.string(), z.unknown()).nullable()).optional(),
      }),
    )
    .default([]),
})
/**
 * What the program holds: every duration in working minutes, the changes of scenarios as a list of their own, how a chain is made among
 * the facts of the project.
 */
const held = planWith(minutes)
export const planSchema = held.extend({
  project: held.shape.project.extend({ chain: chainWith(minutes).nullable().default(null) }),
  scenarios: z
    .array(
      scenarioSchema.refine(
        (scenario) => !('changes' in scenario),
        'the changes of a scenario are items of "scenarioChanges"',
      ),
    )
    .default([]),
  scenarioChanges: z.array(scenarioChangeSchema).default([]),
})

export type PlanFile = z.output<typeof planFileSchema>
/** Omit that keeps the named fields of a type which also has an index signature. */
type Except<T, K extends PropertyKey> = { [P in keyof T as P extends K ? never : P]: T[P] }
type Held = z.output<typeof planSchema>
type HeldActivity = Held['activities'][number]
type HeldLink = Held['links'][number]

export type PlanCalendar = Held['calendars'][number]
export type Group = Held['groups'][number]
/** An activity with everything that normalisation fills in. `duration` in working minutes of its calendar. */
export type Activity = Except<HeldActivity, 'code' | 'duration' | 'confirmed'> & {
  code: string
  duration: number
  confirmed: boolean
}
/** A link with its lag in working minutes of the calendar that it counts on. */
export type Link = Except<HeldLink, 'id' | 'lag'> & { id: string; lag: number }
export type LinkType = Link['type']
export type Constraint = z.output<typeof constraintSchema>
export type ThreePoint = NonNullable<Activity['estimate']>
export type Risk = Held['risks'][number]
export type Spread = Held['spreads'][number]
export type Factor = Held['factors'][number]
export type Scope = Spread['scope']
export type Weather = Held['weather'][number]
export type ChainSettings = NonNullable<Held['project']['chain']>
export type AgreedChain = NonNullable<ChainSettings['agreed']>
export type Scenario = Held['scenarios'][number]
export type ScenarioChange = Held['scenarioChanges'][number]
export type Resource = Held['resources'][number]
export type Assignment = Held['assignments'][number]
export type Damages = Held['damages'][number]
export type Payment = NonNullable<Held['activities'][number]['payment']>
export type Acceptance = Held['acceptances'][number]
export type KeptReview = Held['reviews'][number]
export type Baseline = Held['baselines'][number]
export type UpdatePeriod = Held['periods'][number]
export type KeptView = Held['views'][number]
export type KeptEvent = Held['events'][number]
export type Project = Except<Held['project'], 'calendar'> & { calendar: string }
/** The plan document: the one model of everything. Treated as immutable; edited through changes only. */
export type Plan = Except<Held, 'activities' | 'links' | 'project'> & {
  project: Project
  activities: Activity[]
  links: Link[]
}
