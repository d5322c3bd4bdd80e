import {
  applyChange,
  applyUnchecked,
  CalendarError,
  experiments,
  explain,
  inOrderOfStart,
  PlanError,
  rankedPaths,
  readSheets,
  reschedule,
  schedule,
  scheduleDifference,
  type Change,
  type Experiment,
  type FloatPath,
  type Plan,
  type Schedule,
} from '@geodrome/core'
import { QUESTIONS, type QuestionName } from './questions.ts'
import type {
  Answered,
  Comparison,
  EditEffect,
  Explained,
  Probe,
  ScheduleReply,
  ScheduleRequest,
  ScheduleView,
  Trial,
} from './scheduleProtocol.ts'

let plan: Plan | null = null
let current: Schedule | null = null
let version = 0

const say = (reply: ScheduleReply): void => self.postMessage(reply)

const viewOf = (s: Schedule, computeMs: number): ScheduleView => ({
  start: s.start,
  finish: s.finish,
  earlyStart: s.early.start,
  lateStart: s.late.start,
  lateFinish: s.lateFinishShown,
  totalFloat: s.float.total,
  freeFloat: s.float.free,
  critical: s.critical,
  onLongestPath: s.onLongestPath,
  state: s.network.state,
  drives: drivesInPlan(s),
  projectStart: s.projectStart,
  projectFinish: s.projectFinish,
  warnings: s.warnings,
  computeMs,
})

/** Marks of driving links in the order of the plan's list; the network has its own. */
const drivesInPlan = ({ network, drives }: Schedule): Uint8Array => {
  const at = placesInPlan(network)
  const marks = new Uint8Array(network.plan.links.length)
  for (let k = 0; k < drives.length; k++) if (drives[k] === 1) marks[at[k]!] = 1
  return marks
}
/** Where each link of a network stands in the plan's list; edits of activities keep both lists, and so the places. */
const placesInPlan = ({ plan: { links: inPlan }, links }: Schedule['network']): Int32Array => {
  const known = places.get(links)
  if (known?.inPlan === inPlan) return known.at
  const position = new Map(inPlan.map((link, k) => [link.id, k]))
  const at = Int32Array.from(links, (link) => position.get(link.id)!)
  places.set(links, { inPlan, at })
  return at
}
const places = new WeakMap<readonly object[], { inPlan: readonly object[]; at: Int32Array }>()

/** A plan with its schedule, and what the page is told of it. */
interface Made {
  readonly plan: Plan
  readonly schedule: Schedule
  readonly view: ScheduleView
  readonly effect: EditEffect | null
}
/** @throws CalendarError where the plan cannot be scheduled */
const make = (next: Plan, change: Change | null): Made => {
  const began = performance.now()
  const made = change && current ? reschedule(current, next, change) : schedule(next)
  const computeMs = performance.now() - began
  return {
    plan: next,
    schedule: made,
    view: viewOf(made, computeMs),
    effect: current && effectOf(current, made),
  }
}

/** What was tried last on the plan that is in view: what is typed is foreseen, and then made, once. */
let tried: { readonly change: string; readonly on: Plan; readonly made: Made } | null = null
const foreseen = (change: Change): Made | null =>
  tried && tried.on === plan && tried.change === JSON.stringify(change) ? tried.made : null

const stand = ({ plan: next, schedule: made, view, effect }: Made, nextVersion: number): void => {
  plan = next
  current = made
  version = nextVersion
  say({ kind: 'scheduled', version, view, effect })
}
/** @param change - what made the next plan of the one before; null for a plan that comes whole */
const take = (next: Plan, nextVersion: number, change: Change | null): void => {
  try {
    stand(make(next, change), nextVersion)
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    plan = next
    current = null
    version = nextVersion
    const { message, activity, calendar } = error
    say({ kind: 'refused', version, message, activity, calendar })
  }
}
const takeChange = (change: Change, nextVersion: number): void => {
  if (!plan) return
  const made = foreseen(change)
  if (made) stand(made, nextVersion)
  else take(applyUnchecked(plan, change).plan, nextVersion, change)
}

const effectOf = (before: Schedule, after: Schedule): EditEffect => {
  const d = scheduleDifference(before, after)
  const { network } = after
  const onPath = (ids: readonly string[], { network, onLongestPath }: Schedule): number =>
    ids.filter((id) => onLongestPath[network.indexOf.get(id)!] === 1).length
  const touched = new Uint8Array(network.activities.length)
  for (const list of [d.changed, d.moved, d.added, d.lostFloat, d.gainedFloat])
    for (const id of list) touched[network.indexOf.get(id)!] = 1
  return {
    moved: d.moved.length,
    lostFloat: d.lostFloat.length,
    gainedFloat: d.gainedFloat.length,
    // What is new on it has joined it, and what was taken away with it has left.
    joinedLongestPath: d.joinedLongestPath.length + onPath(d.added, after),
    leftLongestPath: d.leftLongestPath.length + onPath(d.removed, before),
    touched,
  }
}

/** Schedules a change beside the plan, which stays as it is. */
const trialOf = (change: Change): Trial => {
  if (!plan) return { problem: 'no plan is in view' }
  try {
    const made = make(applyChange(plan, change).plan, change)
    tried = { change: JSON.stringify(change), on: plan, made }
    const moved = made.effect?.moved ?? made.schedule.network.activities.length
    return { finish: made.schedule.projectFinish, moved }
  } catch (error) {
    if (error instanceof PlanError) return { problem: error.issues[0]!.message }
    if (error instanceof CalendarError) return { problem: error.message }
    throw error
  }
}
/** By how much each link into and out of an activity falls short of driving, in working minutes of its successor; 0 for those that drive. */
const slackOfLinks = ({ network }: Schedule, id: string): Map<string, number> => {
  const i = network.indexOf.get(id)!
  const successors = new Set<number>([i])
  for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++)
    successors.add(network.linkTo[network.outLink[o]!]!)
  const slack = new Map<string, number>()
  for (const j of successors) {
    const { start, finish } = explain(current!, network.activities[j]!.id, { withSharers: false })
    for (const { link, behindBy, from } of [...start.candidates, ...finish.candidates])
      if (link !== null && (j === i || from === id))
        slack.set(link, Math.min(behindBy, slack.get(link) ?? Infinity))
  }
  return slack
}

/** What cannot be had because a calendar ends before it. */
const unlessCalendarEnds = <T>(make: () => T, otherwise: (message: string) => T): T => {
  try {
    return make()
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    return otherwise(error.message)
  }
}
const explained = (id: string): Explained =>
  current?.network.indexOf.has(id)
    ? unlessCalendarEnds<Explained>(
        () => explain(current!, id),
        (problem) => ({ problem }),
      )
    : null
const probed = (id: string): Probe | null => {
  if (
    current === null ||
    !current.network.indexOf.has(id) ||
    current.network.plan.project.direction !== 'forward'
  )
    return null
  const made = current
  return {
    experiment: unlessCalendarEnds<Experiment | null>(
      () => experiments(made, [id])[0]!,
      () => null,
    ),
    paths: unlessCalendarEnds<readonly FloatPath[]>(
      () => rankedPaths(made, id).slice(0, 3),
      () => [],
    ),
    slack: unlessCalendarEnds<ReadonlyMap<string, number>>(
      () => slackOfLinks(made, id),
      () => new Map(),
    ),
  }
}

/** The plan in view against another one. */
const compared = (plan: Plan): Comparison | { readonly problem: string } | null => {
  if (!current) return null
  const before = current
  const began = performance.now()
  return unlessCalendarEnds<Comparison | { readonly problem: string }>(
    () => {
      const other = schedule(plan)
      return {
        view: viewOf(other, performance.now() - began),
        difference: scheduleDifference(before, other),
        longestPath: inOrderOfStart(other, other.onLongestPath),
      }
    },
    (problem) => ({ problem }),
  )
}

const answerTo = (name: QuestionName, input: unknown): Answered => {
  if (!current) return { problem: 'the plan in view has no dates' }
  const made = current
  const ask = QUESTIONS[name] as (made: Schedule, input: unknown) => unknown
  return unlessCalendarEnds<Answered>(
    () => ({ value: ask(made, input) }),
    (problem) => ({ problem }),
  )
}

const WARM_FROM = 1000
const WARM_RUNS = 40
let warmed = false
/**
 * The engine compiles what it runs often: on a large plan the first edits would wait for that, so a few are tried beforehand, one a
 * task, and thrown away; every other one where it moves much, which goes another way than an edit that moves little.
 */
const warmUp = (runs: number): void => {
  if (!plan || !current || runs === 0) return
  const any = (runs * 7919) % plan.activities.length
  const onPath = current.onLongestPath.indexOf(1, any)
  const activity = plan.activities[runs % 2 === 1 && onPath >= 0 ? onPath : any]!
  const change: Change = {
    kind: 'set',
    list: 'activities',
    key: activity.id,
    set: { duration: activity.duration + 60 * runs },
  }
  try {
    make(applyUnchecked(plan, change).plan, change)
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
  }
  setTimeout(() => warmUp(runs - 1), 4)
}

self.onmessage = ({ data }: MessageEvent<ScheduleRequest>): void => {
  switch (data.kind) {
    case 'load':
      take(data.plan, data.version, null)
      if (!warmed && data.plan.activities.length >= WARM_FROM) {
        warmed = true
        setTimeout(() => warmUp(WARM_RUNS), 300)
      }
      return
    case 'change':
      return takeChange(data.change, data.version)
    case 'explain':
      return say({ kind: 'explained', requestId: data.requestId, explanation: explained(data.activity) })
    case 'probe':
      return say({ kind: 'probed', requestId: data.requestId, probe: probed(data.activity) })
    case 'try':
      return say({ kind: 'tried', requestId: data.requestId, trials: data.changes.map(trialOf) })
    case 'ask':
      return say({ kind: 'answered', requestId: data.requestId, answer: answerTo(data.name, data.input) })
    case 'read-list': {
      const { plan: into, sheets, group } = data.list
      const target = into ?? plan
      return say({
        kind: 'list-read',
        requestId: data.requestId,
        reading: target && readSheets(target, sheets, { group, random: Math.random }),
      })
    }
    case 'compare':
      return say({ kind: 'compared', requestId: data.requestId, comparison: compared(data.plan) })
  }
}
