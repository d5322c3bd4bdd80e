import { activityCalendar } from '../network/activityCalendar.ts'
import type { Change, Item } from '../plan/change.ts'
import { LISTS, meaningOf, type FieldMeaning, type ListName } from '../plan/fields.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Link, Plan } from '../plan/schema.ts'
import { CalendarError } from '../time/calendar.ts'
import { compileActivity } from '../network/compileNetwork.ts'
import { topologicalOrder } from '../network/topologicalOrder.ts'
import {
  emptyActivityArrays,
  Kind,
  LinkCode,
  networkOf,
  NONE,
  State,
  UNLIMITED,
  type ActivityArrays,
  type Network,
} from '../network/network.ts'
import { copyLateDates, type Bounds, type LateDates } from './backwardPass.ts'
import { linkDrives, longestPath } from './drivingLinks.ts'
import { earlyLimitsOf, freeFloatOf, type Floats } from './floats.ts'
import { copyEarlyDates, latestFinish, type EarlyDates } from './forwardPass.ts'
import { Propagation } from './propagation.ts'
import { schedule, scheduleNetwork, settleSchedule, type Schedule } from './schedule.ts'
import { targetOf } from './target.ts'

/**
 * The schedule of a plan after one change, from the schedule before it: only what can change is computed again, in the order of
 * the network, until nothing moves any more. Equal to {@link schedule} of the plan in every figure (a property test holds it to that).
 * Changes to the structure (activities or links added, removed or retied, calendars, project facts) schedule the whole plan.
 * @param plan - the plan with the change applied
 */
export const reschedule = (previous: Schedule, plan: Plan, change: Change): Schedule => {
  const touched: Touched = { activities: new Set(), links: new Set(), retied: [], splices: [] }
  if (!collectTouched(change, touched) || hasWholePlanRules(previous)) return schedule(plan)
  const network = relaid(previous.network, plan, touched)
  if (!network) return schedule(plan)
  try {
    return moveOn(previous, network, touched)
  } catch (error) {
    // A calendar ends on the way: what then has no late dates is found by the passes over all of it.
    if (!(error instanceof CalendarError)) throw error
    return schedule(plan)
  }
}

interface Splice {
  readonly at: number
  readonly by: 1 | -1
}

interface Touched {
  readonly activities: Set<string>
  readonly links: Set<string>
  /** Links put in and taken out, in this order of doing. */
  readonly retied: { readonly kind: 'add' | 'remove'; readonly id: string }[]
  /** Where that put links into the network, or took them from it; filled as it is laid. */
  readonly splices: Splice[]
}

/** Plans whose dates are not those of the plain forward and backward pass, or whose warnings come from the passes. */
const hasWholePlanRules = ({ network, warnings }: Schedule): boolean =>
  network.plan.project.direction === 'backward' ||
  network.hammockLinks.length > 0 ||
  warnings.length > 0 ||
  network.kind.includes(Kind.Hammock)

/** Which activities and links a change touches. @returns false where its reach is not known to be local */
const collectTouched = (change: Change, touched: Touched): boolean => {
  const schedules = (list: ListName | 'project', set: Item, what: FieldMeaning['schedules']): boolean =>
    Object.keys(set).some((field) => meaningOf(list, field).schedules === what)
  switch (change.kind) {
    case 'all':
      return change.changes.every((part) => collectTouched(part, touched))
    case 'project':
      return !schedules('project', change.set, 'plan') && !schedules('project', change.set, 'reach')
    case 'set':
      if (change.list === 'activities') {
        if (schedules('activities', change.set, 'plan')) return false
        if (schedules('activities', change.set, 'reach')) touched.activities.add(change.key)
        return true
      }
      if (change.list === 'links') {
        if (schedules('links', change.set, 'plan')) return false
        touched.links.add(change.key)
        return true
      }
      return !LISTS[change.list].schedules
    case 'add':
      // At the end of the list it is the last of its successor's; elsewhere the order of all of them changes.
      if (change.list === 'links' && change.before === null && touched.retied.length < MOST_RETIED)
        touched.retied.push({ kind: 'add', id: String(change.item.id) })
      else return !LISTS[change.list].schedules
      return true
    case 'remove':
      if (change.list === 'links' && touched.retied.length < MOST_RETIED)
        touched.retied.push({ kind: 'remove', id: change.key })
      else return !LISTS[change.list].schedules
      return true
    default:
      return !LISTS[change.list].schedules
  }
}

/** With more links than this put in or taken out, laying all of them anew is quicker. */
const MOST_RETIED = 8

/** The network with the touched parts laid anew, on copies of the arrays that differ; null where the plan's list of activities differs. */
const relaid = (before: Network, plan: Plan, touched: Touched): Network | null => {
  if (plan.activities.length !== before.activities.length) return null
  const arrays: Record<keyof ActivityArrays, Uint8Array | Int32Array> = { ...emptyActivityArrays(0) }
  const names = Object.keys(arrays) as (keyof ActivityArrays)[]
  for (const name of names) arrays[name] = before[name]
  const warnings = [...before.warnings]
  for (const id of touched.activities) {
    const i = before.indexOf.get(id)!
    // Suspended, or taken up again, it is worked on another calendar, which all that is made of it rests on.
    if (
      activityCalendar(before.calendars, plan.project, plan.activities[i]!, before.statusDate) !==
      before.calendar[i]
    )
      return null
    const one = emptyActivityArrays(1)
    compileActivity(
      one,
      plan.activities[i]!,
      0,
      before.calendar[i],
      before.projectStart,
      before.statusDate,
      warnings,
    )
    for (const name of names) {
      if (one[name][0] === arrays[name][i]) continue
      if (arrays[name] === before[name]) arrays[name] = before[name].slice()
      arrays[name][i] = one[name][0]!
    }
  }
  let network = networkOf({
    ...before,
    ...(arrays as ActivityArrays),
    plan,
    activities: plan.activities,
    warnings,
  })
  for (const { kind, id } of touched.retied) {
    const retied: Network | null =
      kind === 'add' ? withLink(network, id, touched.splices) : withoutLink(network, id, touched.splices)
    if (!retied) return null
    network = retied
  }
  // The order that a whole pass would go in: who comes first among equals is read off it.
  if (touched.retied.length > 0)
    network = networkOf({ ...network, order: topologicalOrder(network.order.length, network, network.kind) })
  return touched.links.size === 0 ? network : withLinks(network, plan, touched.links)
}

/** The network with one more link, the last of those into its successor; null where it does not drive or is gone again. */
const withLink = (network: Network, id: string, splices: Splice[]): Network | null => {
  const { plan, indexOf } = network
  const link = plan.links.findLast((l) => l.id === id)
  const from = link && indexOf.get(link.from)
  const to = link && indexOf.get(link.to)
  if (
    !link ||
    from === undefined ||
    to === undefined ||
    network.kind[from] === Kind.Hammock ||
    network.kind[to] === Kind.Hammock
  )
    return null
  const at = network.inStart[to + 1]!
  splices.push({ at, by: 1 })
  const calendar =
    link.lag === 0
      ? network.calendar[from]!
      : network.calendars.get(
          lagCalendarOf(plan.project, link, network.activities[from], network.activities[to]),
        )
  return networkOf({
    ...network,
    ...indexWith(network, at, from, to),
    links: spliced(network.links, at, 0, link),
    linkCalendar: spliced(network.linkCalendar, at, 0, calendar),
    linkFrom: inserted(network.linkFrom, at, from),
    linkTo: inserted(network.linkTo, at, to),
    linkCode: inserted(network.linkCode, at, LinkCode[link.type]),
    linkLag: inserted(network.linkLag, at, link.lag),
  })
}

const withoutLink = (network: Network, id: string, splices: Splice[]): Network | null => {
  const at = network.links.findIndex((l) => l.id === id)
  if (at < 0) return null
  splices.push({ at, by: -1 })
  return networkOf({
    ...network,
    ...indexWithout(network, at),
    links: spliced(network.links, at, 1),
    linkCalendar: spliced(network.linkCalendar, at, 1),
    linkFrom: removed(network.linkFrom, at),
    linkTo: removed(network.linkTo, at),
    linkCode: removed(network.linkCode, at),
    linkLag: removed(network.linkLag, at),
  })
}

/** A copy with items put in or taken out; copying whole and then shifting is several times quicker than `toSpliced`. */
const spliced = <T>(array: readonly T[], at: number, out: number, ...items: T[]): T[] => {
  const made = array.slice()
  made.splice(at, out, ...items)
  return made
}
const inserted = <A extends Int32Array | Uint8Array>(array: A, at: number, value: number): A => {
  const made = new (array.constructor as new (length: number) => A)(array.length + 1)
  made.set(array.subarray(0, at))
  made[at] = value
  made.set(array.subarray(at), at + 1)
  return made
}
const removed = <A extends Int32Array | Uint8Array>(array: A, at: number): A => {
  const made = new (array.constructor as new (length: number) => A)(array.length - 1)
  made.set(array.subarray(0, at))
  made.set(array.subarray(at + 1), at)
  return made
}

type LinkIndex = Pick<Network, 'inStart' | 'outStart' | 'outLink'>

/** The indexes by successor and predecessor with one more link at a place: whatever comes after it is one further on. */
const indexWith = (
  { inStart, outStart, outLink }: LinkIndex,
  at: number,
  from: number,
  to: number,
): LinkIndex => {
  const made = new Int32Array(outLink.length + 1)
  let put = outStart[from]!
  while (put < outStart[from + 1]! && outLink[put]! < at) put++
  for (let o = 0; o < put; o++) made[o] = outLink[o]! >= at ? outLink[o]! + 1 : outLink[o]!
  made[put] = at
  for (let o = put; o < outLink.length; o++) made[o + 1] = outLink[o]! >= at ? outLink[o]! + 1 : outLink[o]!
  return { inStart: shifted(inStart, to, 1), outStart: shifted(outStart, from, 1), outLink: made }
}

const indexWithout = (
  { inStart, outStart, outLink, linkFrom, linkTo }: LinkIndex & Pick<Network, 'linkFrom' | 'linkTo'>,
  at: number,
): LinkIndex => {
  const made = new Int32Array(outLink.length - 1)
  for (let o = 0, filled = 0; o < outLink.length; o++)
    if (outLink[o] !== at) made[filled++] = outLink[o]! > at ? outLink[o]! - 1 : outLink[o]!
  return {
    inStart: shifted(inStart, linkTo[at]!, -1),
    outStart: shifted(outStart, linkFrom[at]!, -1),
    outLink: made,
  }
}

/** Offsets with one item more or less of one owner. */
const shifted = (offsets: Int32Array, owner: number, by: 1 | -1): Int32Array => {
  const made = offsets.slice()
  for (let i = owner + 1; i < made.length; i++) made[i]! += by
  return made
}

const withLinks = (network: Network, plan: Plan, touched: ReadonlySet<string>): Network => {
  const changed = new Map<string, Link>()
  for (const link of plan.links) if (touched.has(link.id)) changed.set(link.id, link)
  const links = [...network.links]
  const linkCode = network.linkCode.slice()
  const linkLag = network.linkLag.slice()
  const linkCalendar = [...network.linkCalendar]
  for (let k = 0; k < links.length; k++) {
    const link = changed.get(links[k]!.id)
    if (!link) continue
    links[k] = link
    linkCode[k] = LinkCode[link.type]
    linkLag[k] = link.lag
    const { activities, linkFrom, linkTo, calendars } = network
    linkCalendar[k] = calendars.get(
      lagCalendarOf(plan.project, link, activities[linkFrom[k]!], activities[linkTo[k]!]),
    )
  }
  return networkOf({ ...network, links, linkCode, linkLag, linkCalendar })
}

/** Share of the activities computed again from which a whole schedule is quicker; measured with bench. */
const WHOLE_FROM = 0.2

/** Marks, by activity. */
type Marks = Uint8Array

const moveOn = (previous: Schedule, network: Network, touched: Touched): Schedule => {
  const n = network.order.length
  const early = copyEarlyDates(previous.early)
  const late = copyLateDates(previous.late)
  const seeds = new Set<number>()
  const lateSeeds = new Set<number>()
  for (const id of touched.activities) {
    seeds.add(network.indexOf.get(id)!)
    lateSeeds.add(network.indexOf.get(id)!)
  }
  const seedLink = (from: number, to: number): void => {
    seeds.add(to)
    lateSeeds.add(to).add(from)
  }
  for (let k = 0; touched.links.size > 0 && k < network.links.length; k++)
    if (touched.links.has(network.links[k]!.id)) seedLink(network.linkFrom[k]!, network.linkTo[k]!)
  for (const { id } of touched.retied)
    for (const { links } of [previous.network, network]) {
      const link = links.find((l) => l.id === id)
      if (link) seedLink(network.indexOf.get(link.from)!, network.indexOf.get(link.to)!)
    }
  const propagation = new Propagation(network)
  // Both lists hold every activity that was computed again, moved or not: its figures are taken anew.
  const earlyDone = propagation.early(early, network.remaining, seeds, { most: n * WHOLE_FROM })
  if (!earlyDone) return scheduleNetwork(network)
  const networkFinish = latestFinish(network, early)
  const target = targetOf(network, networkFinish)
  const lateDone = propagation.late(
    late,
    network.remaining,
    target,
    target === previous.target ? lateSeeds : network.order,
  )

  const float: Floats = {
    total: previous.float.total.slice(),
    free: previous.float.free.slice(),
    start: previous.float.start.slice(),
  }
  const drives = touched.retied.length === 0 ? previous.drives.slice() : drivesOf(previous, touched.splices)
  for (const i of earlyDone) computeTotalFloat(network, early, late, float, i)
  for (const i of lateDone) computeTotalFloat(network, early, late, float, i)
  computeFreeFloats(
    network,
    early,
    float,
    networkFinish,
    networkFinish === previous.projectFinish ? reachOf(network, earlyDone, lateDone) : null,
  )
  takeDrives(network, early, drives, earlyDone)
  return settleSchedule(network, early, late, float, {
    networkFinish,
    target,
    drives: () => drives,
    onLongestPath: longestPath(network, (k) => drives[k] === 1, early, networkFinish),
  })
}

/** Marks of the links that both networks have, at their places in the later one; those of new links are taken with their ends. */
const drivesOf = (previous: Schedule, splices: readonly Splice[]): Uint8Array =>
  splices.reduce(
    (drives, { at, by }) => (by === 1 ? inserted(drives, at, 0) : removed(drives, at)),
    previous.drives,
  )

const computeTotalFloat = (
  network: Network,
  early: EarlyDates,
  late: LateDates,
  float: Floats,
  i: number,
): void => {
  const has = network.state[i] !== State.Finished
  float.total[i] = has ? late.beginCount[i]! - early.beginCount[i]! : NONE
  float.start[i] = has && network.state[i] !== State.Started ? float.total[i] : NONE
}

/** The activities whose free float may differ: those computed again, and the predecessors of those with new early dates. */
const reachOf = (network: Network, earlyDone: readonly number[], lateDone: readonly number[]): Marks => {
  // A lag or type changed at a predecessor's end is among the late ones.
  const reach: Marks = new Uint8Array(network.order.length)
  for (const i of lateDone) reach[i] = 1
  for (const i of earlyDone) {
    reach[i] = 1
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) reach[network.linkFrom[k]!] = 1
  }
  return reach
}

/** @param reach - the activities to take; null for all, when the network's finish moved */
const computeFreeFloats = (
  network: Network,
  early: EarlyDates,
  float: Floats,
  networkFinish: number,
  reach: Marks | null,
): void => {
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  const limits = earlyLimitsOf(network, early)
  for (let i = 0; i < network.order.length; i++)
    if (reach === null || reach[i] === 1)
      float.free[i] =
        network.state[i] === State.Finished
          ? NONE
          : freeFloatOf(network, network.remaining[i]!, early, limits, networkFinish, i, bounds)
}

/** Driving links into and out of the activities with new early dates. */
const takeDrives = (
  network: Network,
  early: EarlyDates,
  drives: Uint8Array,
  earlyDone: readonly number[],
): void => {
  const take = (k: number): void =>
    void (drives[k] = linkDrives(network, network.remaining, early, k) ? 1 : 0)
  for (const i of earlyDone) {
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) take(k)
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) take(network.outLink[o]!)
  }
}
