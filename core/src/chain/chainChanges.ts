import { formatInstant } from '../time/instant.ts'
import type { Change, Item } from '../plan/change.ts'
import { keyOf } from '../plan/change.ts'
import type { ChainSettings, Plan } from '../plan/schema.ts'
import { criticalChain } from './criticalChain.ts'
import { insertBuffers } from './insertBuffers.ts'

/** Words of a buffer as an activity. */
const bufferName = (kind: string, after: string, before: string): string => {
  switch (kind) {
    case 'project':
      return 'Keep the project buffer'
    case 'milestone':
      return `Keep the buffer before ${before}`
    default:
      return `Keep the buffer between ${after} and ${before}`
  }
}

/**
 * The changes that make a scenario of the chain: focused durations on joint calendars, hand-overs as links, buffers as work of their own,
 * and the starts of feeding work that has nothing before it. The plan itself stays as it is.
 * @throws LevelError, CalendarError
 */
export const chainChanges = (plan: Plan, settings: ChainSettings): Change[] => {
  const chain = criticalChain(plan, settings)
  const buffered = insertBuffers(plan, settings, chain)
  const { network } = buffered.made
  const made = network.plan
  const n = plan.activities.length
  const codeOf = (i: number): string => plan.activities[i]!.code
  const taken = new Set([...plan.activities.map(({ id }) => id), ...plan.activities.map(({ code }) => code)])
  const fresh = (wish: string): string => {
    let name = wish
    for (let k = 2; taken.has(name); k++) name = `${wish} ${k}`
    taken.add(name)
    return name
  }
  const names = new Map(
    buffered.buffers.map(({ kind, after, before }, b) => {
      const id = fresh(`B${b + 1}`)
      const [from, to] = [after[0], before[0]].map((i) => (i === undefined ? '' : codeOf(i))) as [
        string,
        string,
      ]
      return [made.activities[n + b]!.id, { id, name: bufferName(kind, from, to) }]
    }),
  )
  const idOf = (id: string): string => names.get(id)?.id ?? id
  const isNew = <T extends object>(
    list: 'calendars' | 'links',
    of: (one: Plan) => readonly T[],
  ): readonly T[] => {
    const known = new Set(of(plan).map((item) => keyOf(list, item as Item)))
    return of(made).filter((item) => !known.has(keyOf(list, item as Item)))
  }
  const hasBefore = (i: number): boolean => network.inStart[i + 1]! > network.inStart[i]!
  const add = (list: 'activities' | 'calendars' | 'links', item: object): Change => ({
    kind: 'add',
    list,
    item: item as Item,
    before: null,
  })
  return [
    ...isNew('calendars', (one) => one.calendars).map((item) => add('calendars', item)),
    ...plan.activities.flatMap((before, i): Change[] => {
      const after = made.activities[i]!
      const set: Item = {}
      if (after.duration !== before.duration) set.duration = after.duration
      if (after.calendar !== before.calendar) set.calendar = after.calendar
      const isFirst =
        chain.isOnChain[i] === 0 &&
        before.kind === 'work' &&
        !hasBefore(i) &&
        before.progress.actualStart === null
      if (isFirst && buffered.start[i]! > buffered.made.early.start[i]!)
        set.constraints = [
          ...before.constraints.filter((c) => !(c.edge === 'start' && c.rule === 'not-before')),
          { edge: 'start', rule: 'not-before', date: formatInstant(buffered.start[i]!), overrides: false },
        ]
      return Object.keys(set).length === 0 ? [] : [{ kind: 'set', list: 'activities', key: before.id, set }]
    }),
    ...made.activities.slice(n).map((item) => {
      const { id, name } = names.get(item.id)!
      return add('activities', { ...item, id, code: id, name })
    }),
    // Lags go on counting on the calendars that they counted on.
    ...plan.links.flatMap((link, k): Change[] => {
      const { lagOn } = made.links[k]!
      return lagOn === link.lagOn ? [] : [{ kind: 'set', list: 'links', key: link.id, set: { lagOn } }]
    }),
    ...isNew('links', (one) => one.links).map((link) =>
      add('links', { ...link, from: idOf(link.from), to: idOf(link.to) }),
    ),
  ]
}
