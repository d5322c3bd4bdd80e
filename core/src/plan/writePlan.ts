import type { Plan } from './schema.ts'

/**
 * The plan file's text: two-space JSON with a final newline. Reading it back gives the same plan. Kept views and events, which other
 * readers of the file need not know, are written only where there are some; the changes of a scenario stand in it.
 */
export const writePlan = (plan: Plan): string => {
  const { views, events, scenarioChanges, ...rest } = plan
  const changes = new Map<string, unknown[]>(plan.scenarios.map(({ id }) => [id, []]))
  for (const { scenario, change } of scenarioChanges) changes.get(scenario)?.push(change)
  return (
    JSON.stringify(
      {
        ...rest,
        scenarios: plan.scenarios.map((scenario) => ({ ...scenario, changes: changes.get(scenario.id) })),
        ...(views.length > 0 && { views }),
        ...(events.length > 0 && { events }),
      },
      null,
      2,
    ) + '\n'
  )
}
