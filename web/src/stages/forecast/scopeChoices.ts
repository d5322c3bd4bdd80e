import { scopeWords, type Plan, type Scope } from '@geodrome/core'
import type { Choice } from '../../controls/options.ts'

/** What a spread or factor may hold for: everything, a group, a tag, what is selected, and what it holds for now; values are scopes as text. */
export const scopeChoices = (plan: Plan, now: Scope, selection: readonly string[]): Choice[] => {
  const tags = new Map<string, Scope>()
  for (const activity of plan.activities)
    for (const [field, value] of Object.entries(activity.tags))
      for (const one of [value].flat())
        if (typeof one === 'string') tags.set(`${field}: ${one}`, { tag: [field, one] })
  const scopes: Scope[] = [
    now,
    {},
    ...plan.groups.map(({ id }): Scope => ({ group: id })),
    ...[...tags].sort(([a], [b]) => a.localeCompare(b, 'en')).map(([, scope]) => scope),
    ...(selection.length > 0 ? [{ activities: [...selection] }] : []),
  ]
  const choices = new Map<string, Choice>()
  for (const scope of scopes) {
    const value = JSON.stringify(scope)
    const isSelection = scope.activities !== undefined && scope !== now
    choices.set(value, {
      value,
      label: isSelection ? `what is selected: ${scopeWords(plan, scope)}` : scopeWords(plan, scope),
    })
  }
  return [...choices.values()]
}
