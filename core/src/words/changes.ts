import { changeSchema, keyOf, type Change, type Item } from '../plan/change.ts'
import { LISTS, meaningOf, type ListName } from '../plan/fields.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf, lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Activity, Constraint, Link, Plan, Resource } from '../plan/schema.ts'
import { availableWords } from './resources.ts'
import { amountWords } from './amounts.ts'
import { dateWords } from './dates.ts'
import { counted } from './counted.ts'
import { durationWords } from './durations.ts'
import { constraintPhrase } from './constraintWords.ts'
import { linkPhrase } from './links.ts'

/** What a change does, in a few words, with the value before and after: "H40 Coat underwater hull, 9 d → 11 d". */
export const describeChange = (before: Plan, change: Change): string => {
  switch (change.kind) {
    case 'project':
      return Object.keys(change.set)
        .map((field) => projectField(before, field, change.set[field]))
        .join(', ')
    case 'set':
      return describeSet(before, change.list, change.key, change.set)
    case 'add':
      if (change.list === 'scenarioChanges') return scenarioChange(before, change.item)
      if (change.list === 'assignments') return assignmentsWords(before, [change])
      if (change.list === 'views') return `view ${nameOf(change.item, 'views')} saved`
      if (change.list === 'baselines') return `${itemName(change.item, 'baseline')} frozen`
      if (change.list === 'periods') return updateWords(change.item, [])
      return change.list === 'links'
        ? `${linkWords(before, change.item as unknown as Link)}, linked`
        : `${nameOf(change.item, change.list)} added`
    case 'remove': {
      if (change.list === 'assignments') return assignmentsWords(before, [change])
      const item = find(before, change.list, change.key)
      if (change.list === 'scenarioChanges' && item) return `${scenarioChange(before, item)}, taken out`
      if (change.list === 'links' && item) return `${linkWords(before, item as unknown as Link)}, unlinked`
      if (change.list === 'views' && item) return `view ${nameOf(item, 'views')} forgotten`
      if (change.list === 'baselines' && item) return `${itemName(item, 'baseline')} removed`
      if (change.list === 'periods' && item) return `${updateWords(item, [])}, taken back`
      return `${nameOf(item, change.list)} removed`
    }
    case 'move':
      return `${nameOf(find(before, change.list, change.key), change.list)} moved in the list`
    case 'all':
      return describeAll(before, change.changes.flatMap(flat))
  }
}

/** A thing by what it is and its name, where it has one. */
const itemName = (item: Item, one: string): string =>
  typeof item.name === 'string' && item.name !== '' ? `${one} ${item.name}` : `a ${one}`

/** "update for Mon 17 May, 7 activities": a period, with what came with it. */
const updateWords = (period: Item, changes: readonly Change[]): string => {
  const said = changes.filter((change) => change.kind === 'set' && change.list === 'activities').length
  const day = typeof period.statusDate === 'string' ? ` for ${dateWords(period.statusDate, 'start')}` : ''
  return `update${day}${said === 0 ? '' : `, ${counted(said, 'activity')}`}`
}

const flat = (change: Change): Change[] => (change.kind === 'all' ? change.changes.flatMap(flat) : [change])

/** A plan that knows the groups and calendars that a change brings: what moves into them is named by them. */
const withAdded = (plan: Plan, changes: readonly Change[]): Plan => {
  const added = (list: ListName): Item[] =>
    changes.flatMap((change) => (change.kind === 'add' && change.list === list ? [change.item] : []))
  const [groups, calendars] = [added('groups'), added('calendars')]
  if (groups.length + calendars.length === 0) return plan
  return {
    ...plan,
    groups: [...plan.groups, ...(groups as unknown as Plan['groups'])],
    calendars: [...plan.calendars, ...(calendars as unknown as Plan['calendars'])],
  }
}

/** Several changes as one: what happened to how many of what, by name where it is one. */
const describeAll = (before: Plan, changes: readonly Change[]): string => {
  const plan = withAdded(before, changes)
  if (changes.length === 0) return 'nothing'
  if (changes.length === 1) return describeChange(plan, changes[0]!)
  const broken = brokenDown(plan, changes)
  if (broken !== null) return broken
  const kept = changes.find((change) => change.kind === 'add' && change.list === 'periods')
  if (kept?.kind === 'add') return updateWords(kept.item, changes)
  const back = changes.find((change) => change.kind === 'remove' && change.list === 'periods')
  const period = back?.kind === 'remove' ? find(plan, 'periods', back.key) : undefined
  if (period) return `${updateWords(period, changes)}, taken back`
  const frozen = changes.find((change) => change.kind === 'add' && change.list === 'baselines')
  if (frozen) return describeChange(plan, frozen)
  const kinds = new Map<string, Change[]>()
  for (const change of changes) {
    const key =
      change.kind === 'project' || change.kind === 'all'
        ? change.kind
        : change.list === 'assignments'
          ? 'assignments'
          : `${change.kind} ${change.list}`
    const of = kinds.get(key)
    if (of) of.push(change)
    else kinds.set(key, [change])
  }
  return [...kinds.values()].map((of) => describeKind(plan, of)).join(', ')
}

/** Work that became a group of its parts, or was put together again: a change that `breakDown` made, or its inverse. */
const brokenDown = (plan: Plan, changes: readonly Change[]): string | null => {
  const [group, part, isBack] =
    changes[0]!.kind === 'add' ? [changes[0]!, changes[1]!, false] : [changes.at(-1)!, changes.at(-2)!, true]
  const isGroup = (group.kind === 'add' || group.kind === 'remove') && group.list === 'groups'
  if (
    !isGroup ||
    part.kind !== 'set' ||
    part.list !== 'activities' ||
    !('group' in part.set) ||
    !('name' in part.set) ||
    !('duration' in part.set)
  )
    return null
  const parts = changes.filter(
    (change) => (change.kind === 'add' || change.kind === 'remove') && change.list === 'activities',
  ).length
  const whole = find(plan, 'activities', part.key)
  if (!whole || parts === 0) return null
  return isBack
    ? `${nameOf({ ...whole, ...part.set }, 'activities')} put together again`
    : `${nameOf(whole, 'activities')} broken down into ${parts + 1} parts`
}

/** What activities are given and lose: "H30: 2 Welders, without Crane". */
const assignmentsWords = (plan: Plan, changes: readonly Change[]): string => {
  const byActivity = new Map<string, string[]>()
  for (const change of changes) {
    if (change.kind === 'project' || change.kind === 'all' || change.kind === 'move') continue
    const item = change.kind === 'add' ? change.item : find(plan, 'assignments', change.key)
    if (!item) continue
    const resource = plan.resources.find(({ id }) => id === item.resource)
    const name = resource?.name || resource?.code || 'a resource'
    const amount = change.kind === 'set' && 'amount' in change.set ? change.set.amount : (item.amount ?? 1)
    const words =
      change.kind === 'remove'
        ? `without ${name}`
        : change.kind === 'set' && !('amount' in change.set)
          ? `${name}, ${Object.keys(change.set)
              .map((field) => fieldWords('assignments', field))
              .join(', ')} changed`
          : `${amount === 1 ? '' : `${String(amount)} `}${name}`
    const own = byActivity.get(String(item.activity))
    if (own) own.push(words)
    else byActivity.set(String(item.activity), [words])
  }
  if (byActivity.size > 2) return `resources of ${counted(byActivity.size, 'activity')} changed`
  return [...byActivity]
    .map(([id, words]) => `${plan.activities.find((a) => a.id === id)?.code ?? ''}: ${words.join(', ')}`)
    .join('; ')
}

const describeKind = (plan: Plan, of: readonly Change[]): string => {
  const first = of[0]!
  if (first.kind === 'project' || first.kind === 'all') return describeChange(plan, first)
  if (first.list === 'assignments') return assignmentsWords(plan, of)
  if (first.list === 'links')
    return `${of.length} ${{ add: 'linked', remove: 'unlinked', set: 'links changed', move: 'links moved' }[first.kind]}`
  if (first.list === 'events')
    return `numbers of ${counted(of.length, 'event')} ${first.kind === 'remove' ? 'given up' : 'kept'}`
  const items = new Set(
    of.map((change) => (change.kind === 'add' ? String(change.item.id) : (change as { key: string }).key)),
  )
  if (items.size === 1)
    return describeChange(
      plan,
      of.length === 1
        ? first
        : {
            ...first,
            ...(first.kind === 'set'
              ? { set: Object.assign({}, ...of.map((c) => (c as { set: Item }).set)) }
              : {}),
          },
    )
  const fields = new Set(of.flatMap((change) => (change.kind === 'set' ? Object.keys(change.set) : [])))
  const did = {
    add: 'added',
    remove: 'removed',
    move: 'moved in the list',
    set: fields.size === 1 ? `: ${fieldWords(first.list, [...fields][0]!)} changed` : ' changed',
  }[first.kind]
  return `${counted(items.size, LISTS[first.list].one)}${did.startsWith(':') || did.startsWith(' ') ? '' : ' '}${did}`
}
const fieldWords = (list: ListName | 'project', field: string): string =>
  meaningOf(list, field).words || field

const find = (plan: Plan, list: ListName, key: string): Item | undefined =>
  (plan[list] as Item[]).find((item) => keyOf(list, item) === key)

/** A thing by its code and name; by what it is, where it has neither: an id says nothing to anybody. */
const nameOf = (item: Item | undefined, list: ListName): string =>
  [item?.code, item?.name].filter((t) => typeof t === 'string' && t !== '').join(' ') ||
  `a ${LISTS[list].one}`

/** Said on the plan: what its scenario made of it before is not known here. */
const scenarioChange = (plan: Plan, item: Item): string => {
  const scenario = plan.scenarios.find(({ id }) => id === item.scenario)
  const change = changeSchema.safeParse(item.change)
  return `in scenario ${scenario?.name || 'without a name'}: ${change.success ? describeChange(plan, change.data) : 'a change'}`
}

const placeName = (plan: Plan, field: 'group' | 'calendar', id: string | null): string => {
  if (id === null) return field === 'group' ? 'none' : 'the project’s'
  if (field === 'calendar' && id === 'clock') return 'round the clock'
  const item =
    field === 'group' ? plan.groups.find((g) => g.id === id) : plan.calendars.find((c) => c.id === id)
  return item?.name || `another ${field}`
}

/** Whether a value can be said as it is. */
const isPlain = (value: unknown): boolean => typeof value !== 'object' || value === null
const show = (value: unknown): string =>
  value === null || value === undefined || value === '' ? 'none' : String(value)

const projectField = (plan: Plan, field: string, value: unknown): string => {
  const was = plan.project[field]
  const isDate = typeof (value ?? was) === 'string' && /^\d{4}-\d{2}-\d{2}/.test(String(value ?? was))
  const edge = field === 'start' ? 'start' : 'finish'
  const words = (v: unknown): string =>
    isDate && typeof v === 'string' ? dateWords(v, edge, { year: true }) : show(v)
  if (field === 'baseline') {
    const name = (id: unknown): string => {
      const item = plan.baselines.find((one) => one.id === id)
      return item ? item.name || 'a baseline without a name' : 'the last baseline'
    }
    return `compared with ${name(was)} → ${name(value)}`
  }
  if (field === 'calendar') {
    const name = (id: unknown): string => placeName(plan, field, String(id))
    return `project calendar: ${name(was)} → ${name(value)}`
  }
  const named = `project ${fieldWords('project', field)}`
  return isPlain(was) && isPlain(value) ? `${named}: ${words(was)} → ${words(value)}` : `${named} changed`
}

const linkWords = (plan: Plan, link: Link): string => {
  const from = plan.activities.find((a) => a.id === link.from)
  const to = plan.activities.find((a) => a.id === link.to)
  const lengths = lengthsOf(plan, lagCalendarOf(plan.project, { lagOn: link.lagOn ?? null }, from, to))
  return `${to?.code ?? 'an activity'} ${linkPhrase({ type: link.type ?? 'FS', lag: link.lag ?? 0 }, from?.code ?? 'an activity', lengths)}`
}

/** Costs and payments by what differs in them; progress is a matter of its own. */
const moneyFields = (
  plan: Plan,
  field: 'cost' | 'payment' | 'progress',
  activity: Activity,
  value: Item | null,
): string => {
  if (field === 'progress') return 'progress changed'
  const was = activity[field] as Item | null
  if (value === null) return 'no payment'
  if (was === null) return `payment of ${amountWords(Number(value.amount ?? 0))} ${plan.project.currency}`
  const names: Readonly<Record<string, string>> = {
    fixed: 'fixed cost',
    perDay: 'cost per day',
    amount: 'payment',
    direction: 'payment',
    accrue: 'falls due',
  }
  const said = (v: unknown): string =>
    typeof v === 'number' ? amountWords(v) : v === 'in' ? 'comes in' : v === 'out' ? 'goes out' : show(v)
  return Object.keys(value)
    .filter((part) => value[part] !== was[part])
    .map((part) => `${names[part] ?? part} ${said(was[part])} → ${said(value[part])}`)
    .join(', ')
}

/** "price 52 → 60", "4 → 4, 6 from 10 May", "hours Yard day shift → Double shift". */
const resourceFields = (plan: Plan, resource: Resource, set: Item): string => {
  const next = { ...resource, ...set }
  return Object.keys(set)
    .map((field) => {
      if (field === 'available') return `${availableWords(resource)} → ${availableWords(next)}`
      if (field === 'price') return `price ${amountWords(resource.price)} → ${amountWords(next.price)}`
      if (field === 'calendar') {
        const hours = (id: string | null): string =>
          id === null ? 'none of its own' : placeName(plan, 'calendar', id)
        return `hours ${hours(resource.calendar)} → ${hours(next.calendar)}`
      }
      if (field === 'name' || field === 'code')
        return `${fieldWords('resources', field)} → ${show(set[field])}`
      return `${fieldWords('resources', field)} changed`
    })
    .join(', ')
}

const describeSet = (plan: Plan, list: ListName, key: string, set: Item): string => {
  const item = find(plan, list, key)
  if (!item) return `a ${LISTS[list].one} changed`
  if (list === 'assignments') return assignmentsWords(plan, [{ kind: 'set', list, key, set }])
  if (list === 'resources')
    return `${nameOf(item, list)}, ${resourceFields(plan, item as unknown as Resource, set)}`
  if (list === 'links') {
    const next = { ...item, ...set } as unknown as Link
    const [was, is] = [linkWords(plan, item as unknown as Link), linkWords(plan, next)]
    return was === is
      ? `${was}, ${Object.keys(set)
          .map((field) => fieldWords('links', field))
          .join(', ')} changed`
      : `${was} → ${is.replace(/^\S+ /, '')}`
  }
  if (list === 'scenarioChanges')
    return `${scenarioChange(plan, item)}, ${'was' in set && !('change' in set) ? 'still holds' : 'changed'}`
  if (list === 'views') return `view ${nameOf(item, list)} changed`
  if (list === 'events')
    return `event ${show(set.number ?? item.number)}${set.name ? ` ${show(set.name)}` : ''} named`
  if (list !== 'activities') {
    const words = Object.keys(set).map((field) => fieldWords(list, field))
    return `${nameOf(item, list)}, ${words.join(', ')} changed`
  }
  const activity = item as unknown as Activity
  const lengths = lengthsOf(plan, calendarOf(plan.project, activity))
  const isWithDuration = (field: string): boolean => 'duration' in set && field === 'confirmed'
  const parts = Object.keys(set)
    .filter((field) => !isWithDuration(field))
    .map((field): string => {
      const value = set[field]
      if (field === 'estimate' && 'duration' in set) return 'estimate scaled with it'
      if (field === 'duration')
        return `${durationWords(activity.duration, lengths)} → ${durationWords(value as number, lengths)}`
      if (field === 'constraints') {
        const now = value as readonly Constraint[]
        const added = now.filter(
          (c) => !activity.constraints.some((old) => JSON.stringify(old) === JSON.stringify(c)),
        )
        return added.length > 0 ? added.map(constraintPhrase).join(', ') : 'constraint removed'
      }
      if (field === 'cost' || field === 'payment' || field === 'progress')
        return moneyFields(plan, field, activity, value as Item | null)
      if (field === 'split') return value ? 'may pause for a resource' : 'pauses for no resource'
      if (field === 'confirmed') return value ? 'confirmed' : 'not confirmed'
      if (field === 'group' || field === 'calendar')
        return `${field} ${placeName(plan, field, activity[field])} → ${placeName(plan, field, value as string | null)}`
      const words = fieldWords('activities', field)
      return isPlain(activity[field]) && isPlain(value)
        ? `${words} ${show(activity[field])} → ${show(value)}`
        : `${words} ${value === null ? 'taken out' : 'changed'}`
    })
  return `${nameOf(item, list)}, ${parts.join(', ')}`
}
