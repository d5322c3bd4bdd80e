import { applyChange } from './applyChange.ts'
import { keyOf, type Change, type Item } from './change.ts'
import type { ListName } from './fields.ts'
import { PlanError } from './issue.ts'
import { ABSENT } from './itemFields.ts'
import type { Plan } from './schema.ts'

/** What a plan is made of, each list before those that refer to it; what was frozen, found and thought of it is not. */
const MADE_OF = [
  'calendars',
  'groups',
  'resources',
  'activities',
  'links',
  'assignments',
  'damages',
  'spreads',
  'factors',
  'weather',
  'risks',
  'events',
] as const satisfies readonly ListName[]

/** Beyond so many they are one: nobody takes them out one by one. */
const MOST_APART = 200

/** Of the project, what says how it is looked at rather than what it is. */
const LOOKED_AT = new Set(['review', 'naming', 'baseline'])

/**
 * The changes that make what one plan is made of into what another is, items paired by their keys: activities, links, calendars,
 * resources, risks and the facts of the project. Baselines, periods, scenarios, findings that were accepted and views stay. In an order
 * in which each can be made alone; as one change where there is none.
 */
export const changesBetween = (from: Plan, to: Plan): Change[] => {
  const lists = MADE_OF.map((list) => listChanges(list, from, to))
  const project = setBetween(from.project, to.project, (field) => !LOOKED_AT.has(field))
  const apart: Change[] = [
    // What refers to others goes before them, and comes after them.
    ...lists.slice(MADE_OF.indexOf('links')).flatMap(({ gone }) => gone),
    ...lists.flatMap(({ come }) => come),
    ...(project === null ? [] : [{ kind: 'project', set: project } as const]),
    ...lists.flatMap(({ other }) => other),
    ...lists
      .slice(0, MADE_OF.indexOf('links'))
      .reverse()
      .flatMap(({ gone }) => gone),
  ]
  return apart.length <= MOST_APART && canStandApart(from, apart) ? apart : [{ kind: 'all', changes: apart }]
}

const canStandApart = (from: Plan, changes: readonly Change[]): boolean => {
  try {
    changes.reduce((at, change) => applyChange(at, change).plan, from)
    return true
  } catch (error) {
    if (error instanceof PlanError) return false
    throw error
  }
}

interface ListChanges {
  readonly gone: readonly Change[]
  readonly come: readonly Change[]
  readonly other: readonly Change[]
}
const listChanges = (list: (typeof MADE_OF)[number], from: Plan, to: Plan): ListChanges => {
  const keyed = (plan: Plan): Map<string, Item> =>
    new Map((plan[list] as readonly Item[]).map((item) => [keyOf(list, item), item]))
  const [then, now] = [keyed(from), keyed(to)]
  // What each stands before, of those that are there already.
  const next = new Map<string, string | null>()
  let before: string | null = null
  for (const key of [...now.keys()].reverse()) {
    next.set(key, before)
    if (then.has(key)) before = key
  }
  return {
    gone: [...then.keys()]
      .filter((key) => !now.has(key))
      .map((key): Change => ({ kind: 'remove', list, key })),
    come: [...now].flatMap(([key, item]): Change[] =>
      then.has(key) ? [] : [{ kind: 'add', list, item, before: next.get(key)! }],
    ),
    other: [...then].flatMap(([key, was]): Change[] => {
      const is = now.get(key)
      const set = is && setBetween(was, is)
      return set ? [{ kind: 'set', list, key, set }] : []
    }),
  }
}

/** The fields in which a later item is another one; null where it is the same. */
export const setBetween = (
  was: Item,
  is: Item,
  counts: (field: string) => boolean = () => true,
): Item | null => {
  const fields = [...new Set([...Object.keys(was), ...Object.keys(is)])].filter(
    (field) => counts(field) && JSON.stringify(was[field]) !== JSON.stringify(is[field]),
  )
  if (fields.length === 0) return null
  return Object.fromEntries(fields.map((field) => [field, Object.hasOwn(is, field) ? is[field] : ABSENT]))
}
