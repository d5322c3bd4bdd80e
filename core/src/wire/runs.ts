import { z } from 'zod'

/** Long work on a plan as it is asked for, watched and kept. Dates as texts. */

const date = z.string()
const share = z.number().min(0).max(1)
const dateOrDays = z.union([date, z.number()])
/** Of an amount of money. */
const amounts = z.object({
  mean: z.number(),
  sd: z.number(),
  percentiles: z.record(z.string(), z.number()).readonly(),
})
const percentiles = z.record(z.string(), date).readonly()

export const simulationInputSchema = z.strictObject({
  /** With `until` those that it took, once they are found. */
  iterations: z.int().min(50).max(100_000).default(5000),
  /** Iterations of a batch, which the sampling covers whole; all of them where none is said. */
  batch: z.int().min(50).max(100_000).optional(),
  /** As many whole batches of 1,000 as this percentile takes to be known to within so many days of the project calendar. */
  until: z
    .strictObject({ days: z.number().gt(0).max(1000), percent: z.number().gt(0).lt(100).default(80) })
    .optional(),
  seed: z.int().min(-2147483648).max(4294967295),
  sampling: z.enum(['lhs', 'random']).default('lhs'),
  risks: z.boolean().default(true),
  scenario: z.string().max(200).nullable().default(null),
})
/** As it is asked for, and with what is filled in. */
export type SimulationRequest = z.input<typeof simulationInputSchema>
export type SimulationInput = z.output<typeof simulationInputSchema>

/** One thing that forecasts draw, by the id of its activity, factor, risk or weather. */
const driverSchema = z.strictObject({
  kind: z.enum(['spread', 'factor', 'risk', 'weather']),
  id: z.string().max(200),
})

/** What is shown while a simulation grows. */
const simulationPartialSchema = z.object({
  /** The finishes that fifty dots stand at. */
  dots: z.array(date).readonly(),
  percentiles,
  plannedProbability: share,
})
export type SimulationPartial = Readonly<z.output<typeof simulationPartialSchema>>

const simulationResultSchema = simulationPartialSchema.extend({
  iterations: z.int(),
  seed: z.int(),
  sampling: z.string(),
  risks: z.boolean(),
  planned: date,
  required: date.nullable(),
  requiredProbability: share.nullable(),
  mean: date,
  /** Calendar days. */
  sd: z.number(),
  best: date,
  worst: date,
  histogram: z.array(z.object({ from: date, count: z.int() })).readonly(),
  activities: z
    .record(
      z.string(),
      z.object({ criticality: share, sensitivity: z.number(), p50: date, p80: date }).readonly(),
    )
    .readonly(),
  cost: amounts.extend({ planned: z.number() }).nullable(),
  /** By clause. */
  damages: z.record(z.string(), amounts).readonly().default({}),
  /** Milestones and groups: dates; hammocks: lengths in days. */
  targets: z
    .record(
      z.string(),
      z.object({ mean: dateOrDays, percentiles: z.record(z.string(), dateOrDays).readonly() }).readonly(),
    )
    .readonly()
    .default({}),
  /** Of each risk drawn, the share of the iterations in which it happened. */
  happened: z.record(z.string(), share).readonly().default({}),
  /** Dates and amounts that are kept together in 80 of 100. */
  joint: z
    .array(z.object({ finish: date, cost: z.number(), probability: share }).readonly())
    .readonly()
    .default([]),
  /** What is drawn, that which goes most with the finish first: of these the days owed are worth asking. */
  drivers: z.array(driverSchema).readonly().default([]),
  /** How sure the percentile is that was to be known: half of its 95 % interval, in days; null where that was not asked. */
  settled: z.object({ percent: z.number(), halfWidth: z.number() }).nullable().default(null),
  /** Finish by iteration as base64 of little-endian int32 instants: for pairing runs on the same draws. */
  finishes: z.string(),
})
export type SimulationResult = Readonly<z.output<typeof simulationResultSchema>>

/** Days owed to each of some drivers: a run beside the simulation for each of them, on the same draws. */
const owedInputSchema = simulationInputSchema.extend({
  /** In 100, of the finish. */
  percent: z.number().gt(0).lt(100),
  drivers: z.array(driverSchema).min(1).max(50),
})
const owedResultSchema = z.object({
  /** The most first; days of the project calendar. */
  owed: z.array(driverSchema.extend({ days: z.number() }).readonly()).readonly(),
})

/** What is said of each kind of run: the one list of kinds. */
export const RUN_KINDS = {
  simulation: {
    input: simulationInputSchema,
    partial: simulationPartialSchema,
    result: simulationResultSchema,
  },
  owed: { input: owedInputSchema, partial: owedResultSchema, result: owedResultSchema },
} as const
export type RunKind = keyof typeof RUN_KINDS
export type RunInput<K extends RunKind = RunKind> = z.output<(typeof RUN_KINDS)[K]['input']>
export type RunPartial<K extends RunKind = RunKind> = z.output<(typeof RUN_KINDS)[K]['partial']>
export type RunResult<K extends RunKind = RunKind> = z.output<(typeof RUN_KINDS)[K]['result']>

const kind = z.enum(Object.keys(RUN_KINDS) as [RunKind, ...RunKind[]])
const stateSchema = z.enum(['queued', 'running', 'done', 'failed', 'cancelled'])

export const runRequestSchema = z.strictObject({
  kind,
  input: z.unknown(),
  /** Of the plan as it was at a revision; as it is where none is said. */
  revision: z.int().min(1).optional(),
})
/** What is kept with a run by its name is not thrown away when there are many. */
export const runNameSchema = z.strictObject({ name: z.string().trim().max(120).nullable() })

/** A run in the list of a plan's runs, without what came of it. */
const listedRun = z.object({
  id: z.string(),
  planId: z.string(),
  kind,
  input: z.unknown(),
  /** The revision of the plan that it is about. */
  revision: z.int(),
  state: stateSchema,
  /** Units of work: iterations, of a simulation. */
  done: z.int(),
  total: z.int(),
  error: z.string().nullable(),
  /** Given by who wants to keep it; null otherwise. */
  name: z.string().nullable().default(null),
  createdAt: z.string(),
})
type ListedRun = z.output<typeof listedRun>
/** Run `of` its kind: input, partial and result have that kind's shapes. */
export type Run<K extends RunKind = RunKind> = Readonly<Omit<ListedRun, 'kind' | 'input'>> & {
  readonly kind: K
  readonly input: RunInput<K>
}
export type RunInFull<K extends RunKind = RunKind> = Run<K> & {
  readonly partial: RunPartial<K> | null
  readonly result: RunResult<K> | null
}

/** Checks what depends on the kind by the shapes of that kind. */
const ofItsKind = <T extends { kind: RunKind }>(
  run: T,
  fields: readonly ('input' | 'partial' | 'result')[],
  context: z.RefinementCtx,
): T => {
  const read: Record<string, unknown> = { ...run }
  for (const field of fields) {
    const shape: z.ZodType = RUN_KINDS[run.kind][field]
    const parsed = (field === 'input' ? shape : shape.nullable()).safeParse(read[field])
    if (parsed.success) read[field] = parsed.data
    else
      for (const issue of parsed.error.issues)
        context.addIssue({ code: 'custom', path: [field, ...issue.path], message: issue.message })
  }
  return read as T
}

export const runSchema = listedRun.transform(
  (run, context) => ofItsKind(run, ['input'], context) as unknown as Run,
)
export const runInFullSchema = listedRun
  .extend({ partial: z.unknown(), result: z.unknown() })
  .transform(
    (run, context) => ofItsKind(run, ['input', 'partial', 'result'], context) as unknown as RunInFull,
  )

/** What listeners hear of a run. */
export const runProgressSchema = z
  .object({
    id: z.string(),
    planId: z.string(),
    kind,
    state: stateSchema,
    done: z.int(),
    total: z.int(),
    partial: z.unknown(),
  })
  .transform((progress, context) => ofItsKind(progress, ['partial'], context) as unknown as RunProgress)
export interface RunProgress<K extends RunKind = RunKind> {
  readonly id: string
  readonly planId: string
  readonly kind: K
  readonly state: Run['state']
  readonly done: number
  readonly total: number
  readonly partial: RunPartial<K> | null
}
