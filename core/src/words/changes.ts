import type { Change, Item } from '../plan/change.ts'
import { CLOCK_LENGTHS, type DayLengths } from '../plan/durations.ts'
import { calendarOf, lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Activity, Constraint, Link, Plan } from '../plan/schema.ts'
import { dateWords } from './dates.ts'
import { durationWords } from './durations.ts'
import { constraintPhrase } from './explanationWords.ts'
import { linkPhrase } from './links.ts'

/** What a change does, in a few words, with the value before and after: "H40 Coat underwater hull, 9 d → 11 d". */
export const describeChange = (before: Plan, change: Change): string => {
  switch (change.kind) {
    case 'project':
      return Object.keys(change.set).map((field) => projectField(before, field, change.set[field])).join(', ')
    case 'set':
      return describeSet(before, change.list, change.key, change.set)
    case 'add':
      return change.list === 'links' ? `${linkWords(before, change.item as unknown as Link)}, linked` : `${nameOf(change.item)} added to ${change.list}`
    case 'remove': {
      const item = find(before, change.list, change.key)
      if (change.list === 'links' && item) return `${linkWords(before, item as unknown as Link)}, unlinked`
      return `${item ? nameOf(item) : change.key} removed from ${change.list}`
    }
    case 'move':
      return `${nameOf(find(before, change.list, change.key) ?? { id: change.key })} moved in the list`
    case 'all': {
      const last = change.changes.at(-1)
      if (!last) return 'nothing'
      const described = describeChange(before, last)
      return change.changes.length === 1 ? described : `${described}, and ${change.changes.length - 1} more with it`
    }
  }
}

const find = (plan: Plan, list: keyof Plan, key: string): Item | undefined =>
  (plan[list] as Item[]).find((item) => item.id === key)

const nameOf = (item: Item): string => [item.code, item.name].filter((t) => typeof t === 'string' && t !== '').join(' ') || String(item.id ?? '')

const lengthsOf = (plan: Plan, calendar: string): DayLengths => plan.calendars.find((c) => c.id === calendar) ?? CLOCK_LENGTHS

const show = (value: unknown): string => (value === null || value === undefined || value === '' ? 'none' : typeof value === 'object' ? '…' : String(value))

const projectField = (plan: Plan, field: string, value: unknown): string => {
  const was = plan.project[field]
  const isDate = typeof (value ?? was) === 'string' && /^\d{4}-\d{2}-\d{2}/.test(String(value ?? was))
  const edge = field === 'start' ? 'start' : 'finish'
  const words = (v: unknown): string => (isDate && typeof v === 'string' ? dateWords(v, edge, { year: true }) : show(v))
  const names: Record<string, string> = { requiredFinish: 'required finish', statusDate: 'status date', opens: 'declared starts', closes: 'declared finishes' }
  return `project ${names[field] ?? field}: ${words(was)} → ${words(value)}`
}

const linkWords = (plan: Plan, link: Link): string => {
  const from = plan.activities.find((a) => a.id === link.from)
  const to = plan.activities.find((a) => a.id === link.to)
  const lengths = lengthsOf(plan, lagCalendarOf(plan.project, { lagOn: link.lagOn ?? null }, from, to))
  return `${to?.code ?? link.to} ${linkPhrase({ type: link.type ?? 'FS', lag: link.lag ?? 0 }, from?.code ?? link.from, lengths)}`
}

const describeSet = (plan: Plan, list: keyof Plan, key: string, set: Item): string => {
  const item = find(plan, list, key)
  if (!item) return `${key} changed`
  if (list === 'links') {
    const next = { ...item, ...set } as unknown as Link
    return `${linkWords(plan, item as unknown as Link)} → ${linkWords(plan, next).replace(/^\S+ /, '')}`
  }
  if (list === 'scenarios' && 'changes' in set) return `scenario ${nameOf(item)} changed`
  if (list !== 'activities') return `${nameOf(item)}, ${Object.keys(set).join(', ')} changed`
  const activity = item as unknown as Activity
  const lengths = lengthsOf(plan, calendarOf(plan.project, activity))
  const isWithDuration = (field: string): boolean => 'duration' in set && field === 'confirmed'
  const parts = Object.keys(set).filter((field) => !isWithDuration(field)).map((field): string => {
    const value = set[field]
    if (field === 'estimate' && 'duration' in set) return 'estimate scaled with it'
    if (field === 'duration') return `${durationWords(activity.duration, lengths)} → ${durationWords(value as number, lengths)}`
    if (field === 'constraints') {
      const now = value as readonly Constraint[]
      const added = now.filter((c) => !activity.constraints.some((old) => JSON.stringify(old) === JSON.stringify(c)))
      return added.length > 0 ? added.map(constraintPhrase).join(', ') : 'limit removed'
    }
    if (field === 'confirmed') return value ? 'confirmed' : 'not confirmed'
    return `${field} ${show(activity[field])} → ${show(value)}`
  })
  return `${nameOf(item)}, ${parts.join(', ')}`
}
