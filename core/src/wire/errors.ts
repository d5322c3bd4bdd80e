import { z } from 'zod'
import { loggedChangeSchema } from './changes.ts'

/** The body of every answer that is an error. */
export const errorBodySchema = z.object({
  error: z.string().default('unknown'),
  message: z.string().optional(),
  /** What is wrong with a plan, each with its place. */
  issues: z
    .array(z.object({ pointer: z.string(), message: z.string(), code: z.string().optional() }))
    .readonly()
    .default([]),
  /** Facts that somebody else changed meanwhile, and their changes. */
  facts: z.array(z.string()).readonly().default([]),
  theirs: z.array(loggedChangeSchema.readonly()).readonly().default([]),
})
export type ErrorBody = z.input<typeof errorBodySchema>
