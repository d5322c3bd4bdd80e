import type { Plan, Scope } from '../plan/schema.ts'
import { counted } from './counted.ts'

/** "everything", "group Hull & coating", "discipline: paint", "W20 and W30": what a spread or a factor holds for. */
export const scopeWords = (plan: Pick<Plan, 'groups' | 'activities'>, scope: Scope): string => {
  if (scope.activities !== undefined) {
    const ids = new Set(scope.activities)
    return codesWords(plan.activities.filter(({ id }) => ids.has(id)).map(({ code }) => code))
  }
  if (scope.tag !== undefined) return `${scope.tag[0]}: ${scope.tag[1]}`
  if (scope.group === undefined) return 'everything'
  const group = plan.groups.find(({ id }) => id === scope.group)
  return `group ${group?.name || group?.code || 'without a name'}`
}

/** Codes of up to three activities, otherwise how many there are. */
export const codesWords = (codes: readonly string[]): string => {
  if (codes.length > 3) return counted(codes.length, 'activity')
  return codes.length < 2 ? (codes[0] ?? 'nothing') : `${codes.slice(0, -1).join(', ')} and ${codes.at(-1)}`
}
