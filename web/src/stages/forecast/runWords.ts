import type { Plan } from '@geodrome/core'
import { momentWords } from '../../composables/momentWords.ts'
import type { SimulationRun } from '../../stores/forecastStore.ts'

/** What a run is called: its name, else when it was made and what was drawn in it. */
export const runWords = ({ name, createdAt, input }: SimulationRun, plan: Plan): string => {
  const scenario = plan.scenarios.find(({ id }) => id === input.scenario)
  const of =
    input.scenario === null ? '' : ` in ${scenario ? scenario.name || 'a scenario' : 'a removed scenario'}`
  return `${name ?? `${momentWords(createdAt)}${input.risks ? '' : ', spread only'}`}${of}`
}
