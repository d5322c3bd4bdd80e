import { planFileSchema, type Plan, type ScenarioChange } from './schema.ts'

/** The parts of a file in the order of the schema, whatever order they were put together in; others come last. */
const ORDER = new Map(Object.keys(planFileSchema.shape).map((name, k) => [name, k]))
const placeOf = (name: string): number => ORDER.get(name) ?? ORDER.size

/**
 * The plan file's text: two-space JSON with a final newline. Reading it back gives the same plan. Kept views and events, which other
 * readers of the file need not know, and how a chain is made are written only where there are some; the changes of a scenario stand in it.
 */
export const writePlan = (plan: Plan): string => {
  const { views, events, scenarioChanges, project, ...rest } = plan
  const { chain, ...facts } = project
  const changes = new Map<string, ScenarioChange[]>(plan.scenarios.map(({ id }) => [id, []]))
  for (const item of scenarioChanges) changes.get(item.scenario)?.push(item)
  const file: Record<string, unknown> = {
    ...rest,
    project: facts,
    ...(chain && { chain }),
    scenarios: plan.scenarios.map((scenario) => ({ ...scenario, ...inFile(changes.get(scenario.id)!) })),
    ...(views.length > 0 && { views }),
    ...(events.length > 0 && { events }),
  }
  const inOrder = Object.entries(file).sort(([a], [b]) => placeOf(a) - placeOf(b))
  return JSON.stringify(Object.fromEntries(inOrder), null, 2) + '\n'
}

/** The changes of a scenario, and beside them what each found, where that is known of one. */
const inFile = (
  items: readonly ScenarioChange[],
): { readonly changes: unknown[]; readonly was?: unknown[] } => ({
  changes: items.map(({ change }) => change),
  ...(items.some(({ was }) => was !== undefined) && { was: items.map(({ was }) => was ?? null) }),
})
