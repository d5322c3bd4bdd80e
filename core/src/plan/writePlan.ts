import type { Plan } from './schema.ts'

/** The plan file's text: two-space JSON with a final newline. Reading it back gives the same plan. */
export const writePlan = (plan: Plan): string => JSON.stringify(plan, null, 2) + '\n'
