import { z } from 'zod'

/** Forecast runs as they are asked for, watched and kept. Dates as texts. */

const date = z.string()
const share = z.number().min(0).max(1)
const percentiles = z.record(z.string(), date).readonly()

export const runInputSchema = z.strictObject({
  iterations: z.int().min(50).max(100_000),
  seed: z.int().min(-2147483648).max(4294967295),
  sampling: z.enum(['lhs', 'random']).default('lhs'),
  risks: z.boolean().default(true),
  scenario: z.string().max(200).nullable().default(null),
})
/** As it is asked for, and with what is filled in. */
export type RunRequest = z.input<typeof runInputSchema>
export type RunInput = z.output<typeof runInputSchema>

/** What is shown while a run grows. */
export const partialResultSchema = z.object({
  /** The finishes that fifty dots stand at. */
  dots: z.array(date).readonly(),
  percentiles,
  plannedProbability: share,
})
export type PartialResult = Readonly<z.output<typeof partialResultSchema>>

export const runResultSchema = partialResultSchema.extend({
  iterations: z.int(),
  seed: z.int(),
  sampling: z.string(),
  risks: z.boolean(),
  /** The revision of the plan that was run. */
  revision: z.int(),
  scenario: z.string().nullable(),
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
  cost: z.null(),
  /** Finish by iteration as base64 of little-endian int32 instants: for pairing runs on the same draws. */
  finishes: z.string(),
})
export type RunResult = Readonly<z.output<typeof runResultSchema>>

const stateSchema = z.enum(['queued', 'running', 'done', 'failed', 'cancelled'])

export const runSchema = z.object({
  id: z.string(),
  planId: z.string(),
  input: runInputSchema,
  state: stateSchema,
  done: z.int(),
  total: z.int(),
  result: runResultSchema.nullable(),
  error: z.string().nullable(),
  createdAt: z.string(),
})
export type Run = Readonly<z.output<typeof runSchema>>

/** What listeners hear of a run. */
export const jobProgressSchema = z.object({
  id: z.string(),
  planId: z.string(),
  state: stateSchema,
  done: z.int(),
  total: z.int(),
  partial: partialResultSchema.nullable(),
})
export type JobProgress = Readonly<z.output<typeof jobProgressSchema>>
