import { z } from 'zod'
import { parseDate } from '../time/instant.ts'

/** What can be asked of a run once it is there, without another run, and what is answered. Dates as texts. */

const id = z.string().min(1).max(200)
const share = z.number().min(0).max(1)
/** Given, not told: it is checked. */
const givenDate = z
  .string()
  .refine((text) => parseDate(text) !== null, 'a date is written YYYY-MM-DD or YYYY-MM-DDTHH:MM')
const value = z.union([z.string(), z.number()])
/** In 100. */
const percent = z.number().gt(0).lt(100)
const iteration = z.int().min(1)

/** What a run is asked about: dates, lengths of hammocks in days, or money. */
const lookTargetSchema = z.discriminatedUnion('what', [
  z.strictObject({
    what: z.enum(['finish', 'cost']),
    of: z.enum(['project', 'group', 'activity']),
    /** Null of the project. */
    id: id.nullable(),
  }),
  z.strictObject({ what: z.literal('length'), of: z.literal('activity'), id }),
  /** Of one clause, or of all together. */
  z.strictObject({ what: z.literal('damages'), of: z.literal('project'), id: id.nullable() }),
])
export type LookTarget = z.output<typeof lookTargetSchema>

/** Which iterations are looked at. */
const lookConditionSchema = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('risk'), id, happened: z.boolean() }),
  /** Those whose project finish is after a date, or at the latest on it. */
  z.strictObject({ by: z.literal('finish'), date: givenDate, after: z.boolean() }),
])
export type LookCondition = z.output<typeof lookConditionSchema>

/** How the values of something lie. */
const distributionSchema = z.object({
  mean: value,
  /** Calendar days of dates, days of lengths, money. */
  sd: z.number(),
  /** Share of the values at or below the mean. */
  meanShare: share,
  best: value,
  worst: value,
  percentiles: z.record(z.string(), value).readonly(),
  dots: z.array(value).readonly(),
  /** Of dates by the day; of amounts by steps of one round width. */
  bars: z.array(z.object({ from: value, count: z.int() }).readonly()).readonly(),
  /** Width of a bar of amounts; 1 of dates: a day. */
  barWidth: z.number(),
  /** Where the values gather in two places: both, what share lies below the gap, and what parts them, where that is known. */
  twoPeaks: z
    .object({
      at: z.tuple([value, value]),
      below: share,
      /** A risk that happens on one side; how often on each. */
      because: z.object({ risk: z.string(), below: share, above: share }).readonly().nullable(),
      /** Activities that stand still longer on the later side, for want of time on their calendars: by how many calendar days on average. */
      waits: z.array(z.object({ activity: z.string(), days: z.number() }).readonly()).readonly(),
    })
    .readonly()
    .nullable(),
})
export type Distribution = Readonly<z.output<typeof distributionSchema>>

const targetLookSchema = z.object({
  unit: z.enum(['date', 'days', 'money']),
  /** Iterations looked at, of all. */
  count: z.int(),
  of: z.int(),
  planned: value,
  /** Share of the iterations that keep what is planned, and what was asked for; null where none is looked at. */
  plannedShare: share.nullable(),
  askedShare: share.nullable(),
  /** Null where no iteration is as asked. */
  distribution: distributionSchema.nullable(),
})
export type TargetLook = Readonly<z.output<typeof targetLookSchema>>

const contingencySchema = z.object({
  percent: z.number(),
  finish: z.string(),
  /** Days of the project calendar beyond the plan: what spread alone needs, and what the risks add to it. */
  days: z.object({ all: z.number(), spread: z.number(), risks: z.number() }).readonly(),
  /** Money beyond the plan; null where nothing costs anything. The parts add up to it. */
  money: z
    .object({
      planned: z.number(),
      cost: z.number(),
      all: z.number(),
      /** What hammocks cost more, because it takes longer. */
      overhead: z.number(),
      damages: z.number(),
      /** What risks that happen cost themselves. */
      risks: z.number(),
      /** What the work itself costs more: durations and prices as drawn. */
      work: z.number(),
    })
    .readonly()
    .nullable(),
  /** Share of the iterations that keep the date and the money together. */
  both: share.nullable(),
})
export type Contingency = Readonly<z.output<typeof contingencySchema>>

const replayLookSchema = z.object({
  iteration,
  /** Its place among all by finish, 1 the earliest, and those beside it. */
  rank: z.int(),
  of: z.int(),
  before: iteration.nullable(),
  after: iteration.nullable(),
  finish: z.string(),
  cost: z.number(),
  activities: z
    .record(
      z.string(),
      z.object({ duration: z.number(), start: z.string(), finish: z.string(), cost: z.number() }).readonly(),
    )
    .readonly(),
  risks: z.array(z.string()).readonly(),
  damages: z.record(z.string(), z.number()).readonly(),
})
export type ReplayLook = Readonly<z.output<typeof replayLookSchema>>

const mergeBiasSchema = z.object({
  activity: z.string(),
  /** The mean start in the run, and the latest of the means of what its links ask for. */
  start: z.string(),
  alone: z.string(),
  /** Days of the project calendar between the two. */
  days: z.number(),
  /** Where it starts on expected durations. */
  expected: z.string(),
  /** Its predecessors: how often each decides the start. */
  decides: z.array(z.object({ activity: z.string(), share }).readonly()).readonly(),
})
export type MergeBias = Readonly<z.output<typeof mergeBiasSchema>>

const jointLookSchema = z.object({
  /** Some of the iterations, evenly chosen. */
  dots: z.array(z.object({ finish: z.string(), cost: z.number() }).readonly()).readonly(),
  /** Dates and amounts that are kept together with the confidence asked. */
  curve: z
    .array(z.object({ finish: z.string(), cost: z.number(), probability: share }).readonly())
    .readonly(),
  planned: z.object({ finish: z.string(), cost: z.number(), probability: share }).readonly(),
})
export type JointLook = Readonly<z.output<typeof jointLookSchema>>

/** What is said of each kind of question: the one list of them. */
export const LOOKS = {
  target: {
    question: z.strictObject({
      target: lookTargetSchema,
      given: lookConditionSchema.nullable().default(null),
      /** Date, days or money whose share is asked. */
      asked: z.union([givenDate, z.number()]).nullable().default(null),
    }),
    answer: targetLookSchema,
  },
  contingency: { question: z.strictObject({ percent }), answer: contingencySchema },
  replay: {
    question: z.union([z.strictObject({ iteration }), z.strictObject({ percent })]),
    answer: replayLookSchema,
  },
  merges: { question: z.strictObject({}), answer: z.array(mergeBiasSchema).readonly() },
  joint: { question: z.strictObject({ percent }), answer: jointLookSchema },
} as const
export type LookKind = keyof typeof LOOKS
export type LookQuestion<K extends LookKind> = z.output<(typeof LOOKS)[K]['question']>
/** As it is sent, before what is left out is filled in. */
export type LookRequest<K extends LookKind> = z.input<(typeof LOOKS)[K]['question']>
export type LookAnswer<K extends LookKind> = z.output<(typeof LOOKS)[K]['answer']>

export const lookRequestSchema = z.strictObject({
  kind: z.enum(Object.keys(LOOKS) as [LookKind, ...LookKind[]]),
  question: z.unknown(),
})
