import type { Change, Item } from './change.ts'
import { LISTS, meaningOf, type ListName } from './fields.ts'

/**
 * Whether a change can move what was forecast before it. Names, notes, views and reviews cannot; nor can a scenario that was not the one
 * forecast.
 * @param scenario - id of the scenario that was forecast, null for the plan
 */
export const affectsForecast = (change: Change, scenario: string | null): boolean => {
  const counts = (list: ListName | 'project', set: Item): boolean =>
    Object.keys(set).some((field) => meaningOf(list, field).forecasts)
  switch (change.kind) {
    case 'all':
      return change.changes.some((part) => affectsForecast(part, scenario))
    case 'project':
      return counts('project', change.set)
    case 'move':
      return change.list === 'scenarioChanges' && isOfScenario(change.key, scenario)
    case 'set':
      if (change.list === 'scenarioChanges' && !isOfScenario(change.key, scenario)) return false
      return LISTS[change.list].forecasts && counts(change.list, change.set)
    case 'add':
      if (change.list === 'scenarioChanges') return change.item.scenario === scenario
      return change.list !== 'scenarios' && LISTS[change.list].forecasts
    case 'remove':
      if (change.list === 'scenarioChanges') return isOfScenario(change.key, scenario)
      return change.list === 'scenarios' ? change.key === scenario : LISTS[change.list].forecasts
  }
}

/** Whether the key of a scenario's change is of that scenario. */
const isOfScenario = (key: string, scenario: string | null): boolean =>
  scenario !== null && key.startsWith(`${scenario}/`)

/** A change made since a forecast, and what it takes back. */
export interface Since {
  readonly uid: string
  readonly undoes: string | null
  readonly change: Change
}

/** Whether what was changed since a forecast bears on it; a change that was taken back again does not. */
export const isForecastPast = (since: readonly Since[], scenario: string | null): boolean => {
  const standing = new Map<string, Change>()
  for (const { uid, undoes, change } of since)
    if (undoes === null || !standing.delete(undoes)) standing.set(uid, change)
  return [...standing.values()].some((change) => affectsForecast(change, scenario))
}
