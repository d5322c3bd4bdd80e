import type { Plan } from '@geodrome/core'
import { UsageError } from './command.ts'

/** A scenario by its id or its name. @throws UsageError where there is none, with those that there are */
export const scenarioNamed = ({ scenarios }: Plan, wanted: string): Plan['scenarios'][number] => {
  const scenario = scenarios.find(({ id, name }) => id === wanted || name === wanted)
  if (scenario) return scenario
  const known = scenarios.map(({ id, name }) => `${id} (${name})`).join(', ')
  throw new UsageError(`the plan has no scenario "${wanted}"${known === '' ? '' : `; it has ${known}`}`)
}
