import type { Change, Item } from './change.ts'
import { LISTS, meaningOf, type ListName } from './fields.ts'

/**
 * Whether a change can move what was forecast before it. Names, notes, views and reviews cannot; nor can a scenario that was not the one
 * forecast.
 * @param lineage - ids of the scenario that was forecast and of those that it stands on; none for the plan
 */
export const affectsForecast = (change: Change, lineage: readonly string[]): boolean => {
  const counts = (list: ListName | 'project', set: Item): boolean =>
    Object.keys(set).some((field) => meaningOf(list, field).forecasts)
  switch (change.kind) {
    case 'all':
      return change.changes.some((part) => affectsForecast(part, lineage))
    case 'project':
      return counts('project', change.set)
    case 'move':
      return change.list === 'scenarioChanges' && isOfScenario(change.key, lineage)
    case 'set':
      if (change.list === 'scenarioChanges' && !isOfScenario(change.key, lineage)) return false
      if (change.list === 'scenarios' && !lineage.includes(change.key)) return false
      return LISTS[change.list].forecasts && counts(change.list, change.set)
    case 'add':
      if (change.list === 'scenarioChanges') return lineage.includes(String(change.item.scenario))
      return change.list !== 'scenarios' && LISTS[change.list].forecasts
    case 'remove':
      if (change.list === 'scenarioChanges') return isOfScenario(change.key, lineage)
      return change.list === 'scenarios' ? lineage.includes(change.key) : LISTS[change.list].forecasts
  }
}

/** Whether the key of a scenario's change is of one of these. */
const isOfScenario = (key: string, lineage: readonly string[]): boolean =>
  lineage.some((scenario) => key.startsWith(`${scenario}/`))

/** A change made since a forecast, and what it takes back. */
export interface Since {
  readonly uid: string
  readonly undoes: string | null
  readonly change: Change
}

/** Whether what was changed since a forecast bears on it; a change that was taken back again does not. */
export const isForecastPast = (since: readonly Since[], lineage: readonly string[]): boolean => {
  const standing = new Map<string, Change>()
  for (const { uid, undoes, change } of since)
    if (undoes === null || !standing.delete(undoes)) standing.set(uid, change)
  return [...standing.values()].some((change) => affectsForecast(change, lineage))
}
