import type { Plan } from './schema.ts'

/**
 * The plan file's text: two-space JSON with a final newline. Reading it back gives the same plan. Kept views and events, which other
 * readers of the file need not know, are written only where there are some.
 */
export const writePlan = (plan: Plan): string => {
  const { views, events, ...rest } = plan
  return (
    JSON.stringify(
      { ...rest, ...(views.length > 0 && { views }), ...(events.length > 0 && { events }) },
      null,
      2,
    ) + '\n'
  )
}
