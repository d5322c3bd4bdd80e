import { instantOf, type Instant } from '../time/instant.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { AgreedChain, ChainSettings, Plan } from '../plan/schema.ts'
import { Kind } from '../network/network.ts'
import { compileNetwork } from '../network/index.ts'
import { applyUnchecked } from '../plan/applyChange.ts'
import { horizonAround, jointPlan } from '../cost/level/jointPlan.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import { bufferEnd } from './bufferEnds.ts'
import { focusedPlan } from './focused.ts'
import { freshLinks } from './freshLinks.ts'
import { addHandOver, leadsTo, type HandOver, type HandOversByGiver } from './handOvers.ts'

/**
 * Why a buffer is used: work of its course began later, waited longer for what is not of it, or took longer; or something else ends later
 * than the course. Negative where it gave back.
 */
export interface Use {
  readonly activity: string
  readonly kind: 'began' | 'waited' | 'took' | 'ended'
  /** Working minutes of the buffers' calendar. */
  readonly minutes: number
}

/** Where a buffer stands: how much of it is used, and how much of what it protects is done. */
export interface BufferState {
  readonly id: string
  /** Current end of what it protects. */
  readonly end: Instant
  /** Working minutes of the buffers' calendar; below 0 where there is more room than agreed. */
  readonly used: number
  /** Of its size; 0 where nothing is used, above 1 where it is not enough. */
  readonly consumption: number
  /** Share of its chain that is done, by focused durations. */
  readonly progress: number
  readonly says: 'leave' | 'plan' | 'act'
  readonly uses: readonly Use[]
}

export interface CurrentChain {
  /** On focused durations, with the agreed hand-overs and the agreed starts of first feeding work. */
  readonly plan: Plan
  readonly made: Schedule
  readonly buffers: readonly BufferState[]
}

/** The agreed hand-overs that are still possible: both are there, and nothing leads the other way. */
const handOversNow = (plan: Plan, agreed: AgreedChain): HandOver[] => {
  const network = compileNetwork(plan)
  const found: HandOver[] = []
  const byGiver: HandOversByGiver = new Map()
  for (const { resource, from, to } of agreed.handovers) {
    const [a, b] = [network.indexOf.get(from), network.indexOf.get(to)]
    if (a === undefined || b === undefined || leadsTo(network, byGiver, b, a)) continue
    const handOver = { resource, from: a, to: b }
    found.push(handOver)
    addHandOver(byGiver, handOver)
  }
  return found
}

/**
 * The agreed network with what has been done since (semantics2.md section 16, step 7): first feeding work does not start before its agreed
 * start, everything else goes on as soon as it can.
 */
const planInExecution = (given: Plan, { cut }: ChainSettings, agreed: AgreedChain): Plan => {
  const focused = focusedPlan(given, cut)
  const before = schedule(focused)
  const joint = jointPlan(focused, horizonAround(before.projectStart, before.projectFinish)).plan
  const links = freshLinks(joint)
  const withHandOvers = applyUnchecked(joint, {
    kind: 'all',
    changes: handOversNow(joint, agreed).map(({ from, to }) =>
      links(joint.activities[from]!.id, joint.activities[to]!.id, 'FS', 0, null),
    ),
  }).plan
  const network = compileNetwork(withHandOvers)
  const onChain = new Set(agreed.chain)
  const isBehindWork = new Uint8Array(network.order.length)
  for (const i of network.order)
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
      const from = network.linkFrom[k]!
      if (isBehindWork[from] === 1 || network.kind[from] === Kind.Work) isBehindWork[i] = 1
    }
  return {
    ...withHandOvers,
    activities: withHandOvers.activities.map((activity, i) => {
      const start = agreed.activities[activity.id]?.[0]
      if (
        start === undefined ||
        activity.kind !== 'work' ||
        activity.progress.actualStart !== null ||
        isBehindWork[i] === 1 ||
        onChain.has(activity.id)
      )
        return activity
      const limit = { edge: 'start', rule: 'not-before', date: start, overrides: false } as const
      return { ...activity, constraints: [...activity.constraints, limit] }
    }),
  }
}

/** The agreed chain as it stands with what has been done. @throws LevelError, CalendarError */
export const currentChain = (given: Plan, settings: ChainSettings, agreed: AgreedChain): CurrentChain => {
  const plan = planInExecution(given, settings, agreed)
  const made = schedule(plan)
  return { plan, made, buffers: agreed.buffers.map((buffer) => stateOf(made, settings, agreed, buffer)) }
}

type Agreed = AgreedChain['buffers'][number]

const stateOf = (
  made: Schedule,
  { calendar, thresholds }: ChainSettings,
  agreed: AgreedChain,
  buffer: Agreed,
): BufferState => {
  const { network } = made
  const hours = network.calendars.get(calendar ?? network.plan.project.calendar)
  const count = (at: Instant): number => hours.countBefore(at)
  const begin = instantOf(buffer.start, 'start')
  const end = bufferEnd(network, agreed, buffer)(made.early) ?? begin
  const used = count(end) - count(begin)
  const consumption = buffer.minutes > 0 ? Math.max(0, used) / buffer.minutes : used > 0 ? Infinity : 0
  const progress = progressOf(made, agreed, buffer.course)
  return {
    id: buffer.id,
    end,
    used,
    consumption,
    progress,
    says: bandOf(thresholds, progress, consumption),
    uses: withRest(made, usesOf(made, agreed, buffer.course, count), { end, used }),
  }
}

/** 1 − Σ min(remaining, agreed focused) ÷ Σ agreed focused, in days of each activity's own calendar. */
const progressOf = ({ network }: Schedule, agreed: AgreedChain, course: readonly string[]): number => {
  let [left, all] = [0, 0]
  for (const id of course) {
    const i = network.indexOf.get(id)
    const focused = agreed.activities[id]?.[2]
    if (i === undefined || focused === undefined) continue
    const { plan } = network
    const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, plan.activities[i]!))
    left += Math.min(network.remaining[i]!, focused) / dayMinutes
    all += focused / dayMinutes
  }
  return all === 0 ? 1 : 1 - left / all
}

/** Height of a threshold at a progress. */
export const thresholdAt = ([first, last]: readonly [number, number], progress: number): number =>
  first + (last - first) * progress

const bandOf = (
  [lower, upper]: ChainSettings['thresholds'],
  progress: number,
  consumption: number,
): BufferState['says'] => {
  if (consumption > thresholdAt(upper!, progress)) return 'act'
  return consumption > thresholdAt(lower!, progress) ? 'plan' : 'leave'
}

/** What the course does not explain is owed to what ends last instead of it. */
const withRest = (
  { network, early }: Schedule,
  uses: readonly Use[],
  { end, used }: { readonly end: Instant; readonly used: number },
): readonly Use[] => {
  const rest = used - uses.reduce((sum, { minutes }) => sum + minutes, 0)
  if (rest === 0) return uses
  const last = network.activities.findIndex(
    (_, i) => network.kind[i] === Kind.Work && early.finish[i] === end,
  )
  return last < 0 ? uses : [...uses, { activity: network.activities[last]!.id, kind: 'ended', minutes: rest }]
}

/** What moved the end of a course, piece by piece: their sum is how far its last activity ends later than agreed. */
const usesOf = (
  { network, early }: Schedule,
  agreed: AgreedChain,
  course: readonly string[],
  count: (at: Instant) => number,
): Use[] => {
  const uses: Use[] = []
  let before: { readonly agreed: number; readonly now: number } | null = null
  for (const id of course) {
    const i = network.indexOf.get(id)
    const [start, finish] = agreed.activities[id] ?? []
    if (i === undefined || start === undefined || finish === undefined) continue
    const [agreedStart, agreedFinish] = [instantOf(start, 'start'), instantOf(finish, 'finish')].map(
      count,
    ) as [number, number]
    const [nowStart, nowFinish] = [count(early.start[i]!), count(early.finish[i]!)]
    const wait = before ? nowStart - before.now - (agreedStart - before.agreed) : nowStart - agreedStart
    const length = nowFinish - nowStart - (agreedFinish - agreedStart)
    if (wait !== 0) uses.push({ activity: id, kind: before ? 'waited' : 'began', minutes: wait })
    if (length !== 0) uses.push({ activity: id, kind: 'took', minutes: length })
    before = { agreed: agreedFinish, now: nowFinish }
  }
  return uses
}
