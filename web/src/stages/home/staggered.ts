import {
  counted,
  isChainWork,
  isWorker,
  shortDay,
  type Plan,
  type Resource,
  type Staggered,
} from '@geodrome/core'

/** What a resource goes by in every plan that has it. */
const drumCode = ({ code, name }: Resource): string => code || name

/** A resource that plans could be staggered at. */
export interface Drum {
  readonly code: string
  readonly name: string
  /** Plans in which work asks for it. */
  readonly plans: number
  /** Minutes of work that all of it would be busy with, over all plans; 0 where there is no limit. */
  readonly busy: number
}

/** People and plant that work which is not finished asks for, those that several plans share first, of them the scarcest. */
export const drumsOf = (plans: readonly Plan[]): Drum[] => {
  const found = new Map<string, Drum>()
  for (const plan of plans) {
    const left = new Map(plan.activities.map((one) => [one.id, isChainWork(one) ? one.duration : 0]))
    const asked = new Map<string, number>()
    for (const { activity, resource, amount } of plan.assignments)
      if (left.get(activity)! > 0)
        asked.set(resource, (asked.get(resource) ?? 0) + amount * left.get(activity)!)
    for (const resource of plan.resources) {
      const [code, work] = [drumCode(resource), asked.get(resource.id)]
      if (!isWorker(resource) || code === '' || work === undefined) continue
      const known = found.get(code)
      const there = Math.max(0, ...resource.available.map(({ amount }) => amount))
      found.set(code, {
        code,
        name: known?.name ?? (resource.name || code),
        plans: (known?.plans ?? 0) + 1,
        busy: (known?.busy ?? 0) + (there > 0 ? work / there : 0),
      })
    }
  }
  const isShared = ({ plans: count }: Drum): number => Number(count > 1)
  return [...found.values()].sort(
    (a, b) => isShared(b) - isShared(a) || b.busy - a.busy || (a.code < b.code ? -1 : 1),
  )
}

/** What to begin with: what a plan names as its drum, else the scarcest of what they share. */
export const firstDrum = (plans: readonly Plan[], drums: readonly Drum[]): string | null => {
  for (const { project, resources } of plans) {
    const named = resources.find(({ id }) => id === project.chain?.drum)
    if (named) return drumCode(named)
  }
  return drums[0]?.code ?? null
}

/** Why a plan begins when it does. @param codeOf - of a plan; @param workOf - code of an activity of the plan itself */
export const whyWords = (
  one: Staggered,
  codeOf: (plan: string) => string,
  workOf: (activity: string) => string,
): string => {
  const others = one.waitsFor
    .map(({ id, until }) => `${codeOf(id)} until ${shortDay(until, 'finish')}`)
    .join(' and ')
  if (one.state === 'under way') return 'under way: it stays, the others go round it'
  if (one.held.length > 0)
    return `dates hold ${one.held.map(workOf).join(', ')} in the way of ${others}; no later beginning helps`
  if (one.state === 'cannot')
    return others === '' ? 'asks for more than there is' : `no room is found beside ${others}`
  if (one.drum.length === 0) return 'asks for none'
  return one.days === 0 ? 'there is room from its start' : `waits for ${others}`
}

/** What came of it, in a sentence. */
export const staggerTitle = (found: readonly Staggered[], all: number): string => {
  if (found.length < all) return `Placing ${counted(all, 'plan')}, the first first …`
  const later = found.filter(({ days }) => days > 0)
  const stuck = found.filter(({ state }) => state === 'cannot').length
  const moved =
    later.length === 0
      ? stuck > 0
        ? 'No plan begins later'
        : 'All can begin when they are planned to'
      : `${counted(later.length, 'plan')} ${later.length === 1 ? 'begins' : 'begin'} later, by ${later.length === 1 ? '' : 'up to '}${counted(Math.max(...later.map(({ days }) => days)), 'calendar day')}`
  return stuck === 0 ? `${moved}.` : `${moved}; ${stuck} of ${all} ${stuck === 1 ? 'finds' : 'find'} no room.`
}
