import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import { lengthsOf } from '../plan/durations.ts'
import { CLOCK_ID } from '../time/calendar.ts'
import { subWork } from '../time/arithmetic.ts'
import type { Instant } from '../time/instant.ts'
import type { Activity, ChainSettings, Link, Plan } from '../plan/schema.ts'
import { Kind, NONE, limitsFinish, type Network } from '../network/network.ts'
import { backwardPass, emptyLateDates } from '../schedule/backwardPass.ts'
import { linkLimit } from '../schedule/forwardPass.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import { bufferDays } from './bufferSize.ts'
import type { CriticalChain } from './criticalChain.ts'
import { feedingCourses } from './feedingCourses.ts'
import { freshLinks } from './freshLinks.ts'

export interface Buffer {
  readonly id: string
  readonly kind: 'project' | 'feeding' | 'milestone'
  /** Days of the project calendar, and minutes of the buffers' calendar. */
  readonly days: number
  readonly minutes: number
  readonly start: Instant
  readonly finish: Instant
  /** Positions of what it protects from, and of what it protects. */
  readonly after: readonly number[]
  readonly before: readonly number[]
  /** What it is sized on; empty of a milestone's. */
  readonly course: readonly number[]
}

/** A wait of the chain for a feeding buffer that does not fit in front of it. */
interface Gap {
  readonly before: number
  /** Working minutes of the project calendar. */
  readonly minutes: number
  readonly cause: string
}

export interface BufferedChain {
  readonly chain: CriticalChain
  /** The plan with hand-overs and buffers; the plan's activities first. */
  readonly made: Schedule
  /** As placed: the chain as early as it can be, feeding work as late. */
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly buffers: readonly Buffer[]
  readonly gaps: readonly Gap[]
  /** End of the chain's last work, and of the project buffer. */
  readonly end: Instant
  readonly promised: Instant
}

interface Planned {
  readonly id: string
  readonly kind: Buffer['kind']
  readonly days: number
  readonly minutes: number
  readonly after: readonly number[]
  readonly before: readonly number[]
  readonly course: readonly number[]
  /** The links that it stands in. */
  readonly ties: readonly number[]
}

/** Steps 4 to 6 of semantics2.md section 16. @param given - the plan before focusing */
export const insertBuffers = (given: Plan, settings: ChainSettings, chain: CriticalChain): BufferedChain => {
  const { base, plan } = chain
  const { network } = base
  const bufferCalendar = settings.calendar ?? plan.project.calendar
  const { dayMinutes } = lengthsOf(plan, bufferCalendar)
  const projectDay = lengthsOf(plan, plan.project.calendar).dayMinutes
  const sized = (id: string, days: number): { days: number; minutes: number } => {
    const byHand = settings.buffers[id]?.size
    const minutes = Math.round(byHand ?? days * dayMinutes)
    return { minutes, days: minutes / (byHand === undefined ? dayMinutes : projectDay) }
  }
  const planned: Planned[] = []
  const lastWork = chain.chain.activities.findLast((i) => network.remaining[i]! > 0)
  if (lastWork !== undefined) {
    const course = chain.chain.activities
    // What finishes the plan behind the last work stands at the promise.
    const declared = course[course.indexOf(lastWork) + 1]
    planned.push({
      id: 'project',
      kind: 'project',
      ...sized('project', bufferDays(given, settings, course, chain.cut)),
      after: [lastWork],
      before: declared === undefined ? [] : [declared],
      course,
      ties: [],
    })
  }
  planned.push(...feeding(given, settings, chain, sized))
  given.activities.forEach(({ id, kind, buffer }, i) => {
    if (kind !== 'milestone' || typeof buffer !== 'number' || buffer <= 0) return
    const ties = linksInto(network, i)
    planned.push({
      id: `milestone:${id}`,
      kind: 'milestone',
      minutes: buffer,
      days: buffer / projectDay,
      after: ties.map((k) => network.linkFrom[k]!),
      before: [i],
      course: [],
      ties,
    })
  })

  const withBuffers = addBuffers(plan, network, planned, bufferCalendar)
  const made = schedule(withBuffers)
  const end = lastWork === undefined ? made.projectStart : made.early.finish[lastWork]!
  const { start, finish } = feedingLate(made, chain, planned.length, end)
  const at = (k: number): number => plan.activities.length + k
  const project = planned.findIndex(({ kind }) => kind === 'project')
  return {
    chain,
    made,
    start,
    finish,
    buffers: planned.map(({ id, kind, days, minutes, after, before, course }, k) => ({
      id,
      kind,
      days,
      minutes,
      after,
      before,
      course,
      start: start[at(k)]!,
      finish: finish[at(k)]!,
    })),
    gaps: gapsOf(made, chain, planned),
    end,
    promised: project < 0 ? end : made.early.finish[at(project)]!,
  }
}

const linksInto = (network: Network, i: number): number[] =>
  Array.from({ length: network.inStart[i + 1]! - network.inStart[i]! }, (_, k) => network.inStart[i]! + k)

/** One buffer for each pair of work off the chain and work on it. */
const feeding = (
  given: Plan,
  settings: ChainSettings,
  critical: CriticalChain,
  sized: (id: string, days: number) => { days: number; minutes: number },
): Planned[] => {
  const { base, chain, isOnChain, cut } = critical
  const { network } = base
  const courseInto = feedingCourses(critical)
  const found: Planned[] = []
  const isOff = (i: number): boolean => isOnChain[i] === 0
  chain.activities.forEach((i, place) => {
    // Where only milestones follow, the project buffer protects them.
    if (!chain.activities.slice(place).some((later) => network.remaining[later]! > 0)) return
    const byFrom = new Map<number, number[]>()
    for (const k of linksInto(network, i)) {
      const from = network.linkFrom[k]!
      if (isOff(from)) byFrom.set(from, [...(byFrom.get(from) ?? []), k])
    }
    for (const [from, ties] of byFrom) {
      const course = courseInto(from)
      if (!course.some((one) => network.remaining[one]! > 0)) continue
      const id = `feeding:${network.activities[from]!.id}:${network.activities[i]!.id}`
      found.push({
        id,
        kind: 'feeding',
        ...sized(id, bufferDays(given, settings, course, cut)),
        after: [from],
        before: [i],
        course,
        ties,
      })
    }
  })
  return found
}

/** The plan with each buffer as work on the buffers' calendar, between the edges that its links tie. */
const addBuffers = (plan: Plan, network: Network, planned: readonly Planned[], calendar: string): Plan => {
  const links = freshLinks(plan)
  const idOf = (i: number): string => network.activities[i]!.id
  const changes = planned.flatMap((buffer): Change[] => {
    const id = `\u0000${buffer.id}`
    const after = buffer.after[0]
    const like = network.activities[after ?? buffer.before[0]!]!
    const item: Activity = {
      ...like,
      id,
      code: buffer.id,
      name: '',
      kind: 'work',
      duration: buffer.minutes,
      calendar,
      constraints: [],
      promise: null,
      place: 'early',
      progress: {
        ...like.progress,
        actualStart: null,
        actualFinish: null,
        remaining: null,
        percent: 0,
        suspended: [],
      },
    }
    const made: Change[] = [{ kind: 'add', list: 'activities', item, before: null }]
    if (buffer.kind === 'project') {
      made.push(links(idOf(after!), id, 'FS', 0, null))
      for (const i of buffer.before) made.push(links(id, idOf(i), 'FS', 0, null))
    }
    for (const k of buffer.ties) {
      const link = network.links[k]!
      const fromStart = link.type === 'SS' || link.type === 'SF'
      made.push(links(link.from, id, fromStart ? 'SS' : 'FS', link.lag, lagOf(network, k)))
      made.push(links(id, link.to, limitsFinish(network.linkCode[k]!) ? 'FF' : 'FS', 0, null))
    }
    return made
  })
  return changes.length === 0 ? plan : applyUnchecked(plan, { kind: 'all', changes }).plan
}

/** A lag goes on counting on the calendar that it counted on. */
const lagOf = (network: Network, k: number): Link['lagOn'] => {
  if (network.linkLag[k] === 0) return null
  const { id } = network.linkCalendar[k]!
  return id === CLOCK_ID ? 'clock' : `calendar:${id}`
}

/**
 * The chain at its early dates; feeding work as late as the buffers and the chain let it be. Work that joins the chain nowhere ends with it
 * at the latest, so that the project buffer protects it, too.
 * @param end - of the chain's last work
 */
const feedingLate = (
  made: Schedule,
  { isOnChain }: CriticalChain,
  buffers: number,
  end: Instant,
): { start: Int32Array; finish: Int32Array } => {
  const { network, early } = made
  const n = network.order.length
  const fixed = (i: number): boolean => isOnChain[i] === 1
  const startCeiling = network.startCeiling.map((at, i) => (fixed(i) ? early.begin[i]! : at))
  const finishCeiling = network.finishCeiling.map((at, i) => {
    if (fixed(i)) return early.finish[i]!
    return i < n - buffers && network.remaining[i]! > 0 ? Math.min(at, end) : at
  })
  const late = emptyLateDates(n)
  backwardPass({ ...network, startCeiling, finishCeiling }, network.remaining, made.projectFinish, late)
  const start = made.start.slice()
  const finish = made.finish.slice()
  for (let i = 0; i < n; i++) {
    // The project buffer follows the chain; buffers of milestones stand where the pass has them.
    const isLastBuffer = i >= n - buffers && network.activities[i]!.id === '\u0000project'
    if (fixed(i) || isLastBuffer || network.kind[i] === Kind.Hammock || late.start[i] === NONE) continue
    if (late.start[i]! < early.begin[i]! || late.finish[i]! < early.finish[i]!) continue
    start[i] = late.start[i]!
    finish[i] = late.finish[i]!
  }
  return { start, finish }
}

/** Where the chain waits for a buffer longer than what comes before it on the chain lets it. */
const gapsOf = (
  made: Schedule,
  { chain, isOnChain, base }: CriticalChain,
  planned: readonly Planned[],
): Gap[] => {
  const { network, early } = made
  const n = base.network.order.length
  const calendar = network.calendars.get(network.plan.project.calendar)
  return chain.activities.flatMap((i): Gap[] => {
    let [byChain, byBuffer, cause] = [Math.max(network.startFloor[i]!, network.projectStart), NONE, -1]
    for (const k of linksInto(network, i)) {
      if (limitsFinish(network.linkCode[k]!)) continue
      const from = network.linkFrom[k]!
      const limit = linkLimit(network, early, k)
      if (from < n && isOnChain[from] === 1) byChain = Math.max(byChain, limit)
      if (from >= n && limit > byBuffer) [byBuffer, cause] = [limit, from - n]
    }
    if (cause < 0 || byBuffer <= byChain) return []
    const minutes = calendar.countBefore(byBuffer) - calendar.countBefore(byChain)
    return minutes > 0 ? [{ before: i, minutes, cause: planned[cause]!.id }] : []
  })
}

/** So long before work on the chain whose resource was not on the chain before it. */
export interface Alert {
  readonly activity: number
  readonly resource: string
  readonly at: Instant
}

/** @param lead - working minutes of the project calendar */
export const alertsOf = ({ chain, made, start }: BufferedChain, lead: number): Alert[] => {
  const { network } = made
  const { plan } = network
  const needs = new Map<string, Set<string>>()
  const workers = new Set(
    plan.resources.filter(({ kind }) => kind === 'people' || kind === 'plant').map(({ id }) => id),
  )
  for (const { activity, resource, amount } of plan.assignments)
    if (amount > 0 && workers.has(resource))
      needs.set(activity, (needs.get(activity) ?? new Set()).add(resource))
  const work = chain.chain.activities.filter((i) => network.remaining[i]! > 0)
  const calendar = network.calendars.get(plan.project.calendar)
  return work.slice(1).flatMap((i, k): Alert[] => {
    const before = needs.get(network.activities[work[k]!]!.id)
    return [...(needs.get(network.activities[i]!.id) ?? [])]
      .filter((resource) => !before?.has(resource))
      .sort()
      .map((resource) => ({ activity: i, resource, at: subWork(calendar, start[i]!, lead) }))
  })
}
