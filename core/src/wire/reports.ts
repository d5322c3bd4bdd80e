import { z } from 'zod'

/** A report as it is asked for in an address. */
export const reportQuerySchema = z.strictObject({
  to: z.enum(['pdf', 'html']),
  /** Names of parts, with commas between; all where none is named. */
  parts: z.string().max(400).optional(),
  scenario: z.string().min(1).max(200).optional(),
  /** As it was when this was kept: "baselines/b1". */
  kept: z.string().min(1).max(600).optional(),
  iterations: z.coerce.number().int().min(50).max(100_000).default(5000),
  batch: z.coerce.number().int().min(50).max(100_000).optional(),
  seed: z.coerce.number().int().min(-2147483648).max(4294967295).default(1),
  sampling: z.enum(['lhs', 'random']).default('lhs'),
  risks: z.enum(['yes', 'no']).default('yes'),
})
export type ReportQuery = z.output<typeof reportQuerySchema>

/** What is told line by line while it is made: how far it is, then the file (base64), or why there is none. */
export const reportLineSchema = z.union([
  z.object({ doing: z.string(), done: z.int(), of: z.int() }),
  z.object({ file: z.string() }),
  z.object({ problem: z.string() }),
])
export type ReportLine = z.output<typeof reportLineSchema>
