import { toEdge, fromEdge, newLink } from './links.ts'
import type { Change, Item } from './change.ts'
import { nextCode } from './codes.ts'
import { freshId, setDuration } from './edits.ts'
import type { Activity, Link, Plan } from './schema.ts'

/** A part of work: a name, and working minutes of the calendar of the whole. */
export interface WorkPart {
  readonly name: string
  readonly duration: number
}
/** Something that hung on the whole, and the part that has it now. */
export interface Handed {
  readonly what: string
  readonly to: 'first' | 'last' | 'each'
}
export interface BreakDown {
  readonly change: Change
  /** Ids of the parts, in order; the first is that of the whole. */
  readonly parts: readonly string[]
}

/** Why an activity cannot be broken down; empty if it can. */
export const whyWhole = ({ kind, progress }: Activity): string =>
  kind !== 'work'
    ? `a ${kind} has no parts`
    : progress.actualStart !== null
      ? 'its work has begun: what was done would have no part to stand on'
      : ''

const isIntoFinish = (link: Link): boolean => toEdge(link.type) === 'finish'
const isOutOfFinish = (link: Link): boolean => fromEdge(link.type) === 'finish'
/** Whether a resource is at work all along, rather than brought once. */
const isWorking = (kind: string | undefined): boolean => kind === 'people' || kind === 'plant'

/**
 * Breaks work down: it becomes a group of its name, and its parts follow each other. The activity itself is the first part, so that
 * whatever knows it (baselines, scenarios, notes) finds it. What hangs on its start stays with the first part, what hangs on its
 * finish goes to the last; people and plant work on each; the estimate is shared out by duration.
 * @param parts - two or more
 */
export const breakDown = (
  plan: Plan,
  id: string,
  parts: readonly WorkPart[],
  random: () => number,
): BreakDown => {
  const at = plan.activities.findIndex((a) => a.id === id)
  const whole = plan.activities[at]!
  const group = freshId(plan.groups, 'g', random)
  const ids = [id]
  const codes = [whole.code]
  const takenIds = [...plan.activities]
  const taken = new Set(plan.activities.map((a) => a.code))
  const around = plan.activities.filter((a) => a.group === whole.group).map((a) => a.code)
  for (let k = 1; k < parts.length; k++) {
    const code = nextCode(taken, codes.at(-1)!, around)
    const part = freshId(takenIds, 'a', random)
    taken.add(code)
    takenIds.push({ id: part } as Activity)
    codes.push(code)
    ids.push(part)
  }
  const last = ids.at(-1)!

  const limits = (edge: 'start' | 'finish') => whole.constraints.filter((c) => c.edge === edge)
  const ends = parts.reduce<number[]>((sums, { duration }) => [...sums, sums.at(-1)! + duration], [0])
  /** What is shared out to part k: times like the duration of the whole, money to the cent and so that its sum stays. */
  const sharedOut = (k: number): Item => {
    const { duration } = parts[k]!
    const { set } = setDuration(whole, duration) as { set: Item }
    const time = (minutes: number): number =>
      whole.duration > 0 ? Math.round((minutes * duration) / whole.duration) : 0
    const cents = (amount: number, end: number): number =>
      Math.round((100 * amount * end) / Math.max(1, ends.at(-1)!))
    const money = (amount: number): number => (cents(amount, ends[k + 1]!) - cents(amount, ends[k]!)) / 100
    return {
      ...(whole.estimate && { estimate: set.estimate ?? whole.estimate }),
      ...(whole.crash && {
        crash: {
          ...whole.crash,
          duration: time(whole.crash.duration),
          normalCost: money(whole.crash.normalCost),
          cost: money(whole.crash.cost),
        },
      }),
      ...(whole.focused !== null && { focused: time(whole.focused) }),
    }
  }
  /** What belongs to the finish: taken from the first part, where there is such a thing, and given to the last. */
  const [atFinish, given]: [Item, Item] = [{}, {}]
  const hand = (
    field: keyof Activity,
    isThere: boolean,
    without: unknown,
    value: unknown = whole[field],
  ): void => {
    if (!isThere) return
    atFinish[field] = value
    given[field] = without
  }
  hand('constraints', limits('finish').length > 0, limits('start'), limits('finish'))
  hand('place', whole.place === 'late', 'early')
  for (const field of ['aim', 'payment', 'decision'] as const) hand(field, whole[field] !== null, null)
  const changes: Change[] = [
    {
      kind: 'add',
      list: 'groups',
      before: null,
      item: { id: group, code: '', name: whole.name, parent: whole.group },
    },
    {
      kind: 'set',
      list: 'activities',
      key: id,
      set: {
        name: parts[0]!.name,
        group,
        duration: parts[0]!.duration,
        confirmed: true,
        ...sharedOut(0),
        ...given,
      },
    },
  ]
  const before = plan.activities[at + 1]?.id ?? null
  for (let k = 1; k < parts.length; k++) {
    const { name, duration } = parts[k]!
    const { calendar, owner, tags, cost, split } = whole
    const item: Item = {
      id: ids[k]!,
      code: codes[k]!,
      name,
      group,
      kind: 'work',
      duration,
      confirmed: true,
      calendar,
      owner,
      tags,
      split,
      cost: { ...cost, fixed: 0 },
      ...sharedOut(k),
    }
    changes.push({
      kind: 'add',
      list: 'activities',
      before,
      item: ids[k] === last ? { ...item, ...atFinish } : item,
    })
  }

  for (const link of plan.links) {
    if (link.to === id && isIntoFinish(link))
      changes.push({ kind: 'set', list: 'links', key: link.id, set: { to: last } })
    if (link.from === id && isOutOfFinish(link))
      changes.push({ kind: 'set', list: 'links', key: link.id, set: { from: last } })
  }
  const takenLinks = [...plan.links]
  for (let k = 1; k < ids.length; k++) {
    const item = newLink({
      id: freshId(takenLinks, 'l', random),
      from: ids[k - 1]!,
      to: ids[k]!,
      type: 'FS',
      lag: 0,
    })
    takenLinks.push(item)
    changes.push({ kind: 'add', list: 'links', before: null, item })
  }

  const kindOf = new Map(plan.resources.map((r) => [r.id, r.kind]))
  const working = plan.assignments.filter((a) => a.activity === id && isWorking(kindOf.get(a.resource)))
  for (const part of ids.slice(1))
    for (const { resource, amount, drives } of working)
      changes.push({
        kind: 'add',
        list: 'assignments',
        before: null,
        item: { activity: part, resource, amount, drives: drives !== false },
      })
  if (plan.project.closes.includes(id))
    changes.push({
      kind: 'project',
      set: { closes: plan.project.closes.map((other) => (other === id ? last : other)) },
    })

  return { change: { kind: 'all', changes }, parts: ids }
}

/** Where what hangs on some work goes when {@link breakDown} takes it apart. */
export const handedOn = (plan: Plan, id: string): Handed[] => {
  const { constraints, cost, checklist, notes, payment, decision, aim, place, estimate } =
    plan.activities.find((a) => a.id === id)!
  const into = plan.links.filter((l) => l.to === id)
  const out = plan.links.filter((l) => l.from === id)
  const kindOf = new Map(plan.resources.map((r) => [r.id, r.kind]))
  const assigned = plan.assignments.filter((a) => a.activity === id)
  const working = assigned.filter((a) => isWorking(kindOf.get(a.resource)))
  const some = (n: number, what: string, where: string, to: Handed['to']): Handed[] =>
    n === 0 ? [] : [{ what: n === 1 ? `the ${what} ${where}` : `${n} ${what}s ${where}`, to }]
  const has = (is: boolean, what: string, to: Handed['to']): Handed[] => (is ? [{ what, to }] : [])
  return [
    ...some(into.filter((l) => !isIntoFinish(l)).length, 'link', 'into its start', 'first'),
    ...some(out.filter((l) => !isOutOfFinish(l)).length, 'link', 'out of its start', 'first'),
    ...some(constraints.filter((c) => c.edge === 'start').length, 'constraint', 'on its start', 'first'),
    ...has(cost.fixed !== 0, 'its fixed cost', 'first'),
    ...some(assigned.length - working.length, 'assignment', 'of material or fees', 'first'),
    ...some(
      plan.risks.filter((r) => r.impacts.some((i) => i.activity === id)).length,
      'risk',
      'that strikes it',
      'first',
    ),
    ...has(checklist.length > 0 || notes !== '', 'notes and checklist', 'first'),
    ...some(into.filter(isIntoFinish).length, 'link', 'into its finish', 'last'),
    ...some(out.filter(isOutOfFinish).length, 'link', 'out of its finish', 'last'),
    ...some(constraints.filter((c) => c.edge === 'finish').length, 'constraint', 'on its finish', 'last'),
    ...has(payment !== null, 'its payment', 'last'),
    ...has(decision !== null, 'its decision', 'last'),
    ...has(aim !== null, 'its aim', 'last'),
    ...has(place === 'late', 'placed as late as free float allows', 'last'),
    ...some(working.length, 'assignment', 'of people or plant', 'each'),
    ...has(estimate !== null, 'its estimate, shared out by duration', 'each'),
  ]
}
