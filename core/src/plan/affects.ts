import type { Change, Item, ListName } from './change.ts'

/** What a forecast does not look at: words, persons, kept views, reviews. Everything that is not named here counts. */
const WORDS: Readonly<Partial<Record<ListName | 'project', readonly string[]>>> = {
  project: ['code', 'name', 'notes', 'responsible', 'currency', 'review', 'naming', 'nearCriticalFloat'],
  calendars: ['name', 'origin'],
  groups: ['code', 'name', 'parent'],
  activities: [
    'code',
    'name',
    'group',
    'confirmed',
    'aim',
    'crash',
    'focused',
    'payment',
    'decision',
    'owner',
    'tags',
    'checklist',
    'notes',
  ],
  links: ['nature', 'reason', 'ofGroup'],
  risks: ['code', 'name'],
  scenarios: ['name', 'by', 'why', 'holdsIf'],
}
const UNSEEN_LISTS: ReadonlySet<ListName> = new Set<ListName>([
  'groups',
  'baselines',
  'acceptances',
  'reviews',
  'views',
  'events',
])

/**
 * Whether a change can move what was forecast before it. Names, notes, views and reviews cannot; nor can a scenario that was not the one
 * forecast.
 * @param scenario - id of the scenario that was forecast, null for the plan
 */
export const affectsForecast = (change: Change, scenario: string | null): boolean => {
  const isWords = (list: ListName | 'project', set: Item): boolean =>
    Object.keys(set).every((field) => WORDS[list]?.includes(field))
  switch (change.kind) {
    case 'all':
      return change.changes.some((part) => affectsForecast(part, scenario))
    case 'project':
      return !isWords('project', change.set)
    case 'move':
      return false
    case 'set':
      if (change.list === 'scenarios' && change.key !== scenario) return false
      return !UNSEEN_LISTS.has(change.list) && !isWords(change.list, change.set)
    case 'add':
      return change.list !== 'scenarios' && !UNSEEN_LISTS.has(change.list)
    case 'remove':
      return change.list === 'scenarios' ? change.key === scenario : !UNSEEN_LISTS.has(change.list)
  }
}

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
