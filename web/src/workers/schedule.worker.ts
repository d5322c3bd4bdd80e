import {
  applyUnchecked,
  CalendarError,
  experiments,
  explain,
  inOrderOfStart,
  rankedPaths,
  reschedule,
  schedule,
  scheduleDifference,
  type Change,
  type Plan,
  type Schedule,
  type ScheduleDifference,
} from '@geodrome/core'
import type { ScheduleReply, ScheduleRequest, ScheduleView } from './scheduleProtocol.ts'

let plan: Plan | null = null
let current: Schedule | null = null
let version = 0

const say = (reply: ScheduleReply): void => self.postMessage(reply)

const viewOf = (s: Schedule, computeMs: number): ScheduleView => ({
  start: s.start,
  finish: s.finish,
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
  let position = positions.get(network.plan.links)
  if (!position) positions.set(network.plan.links, (position = new Map(network.plan.links.map((link, k) => [link.id, k]))))
  const marks = new Uint8Array(network.plan.links.length)
  for (let k = 0; k < drives.length; k++) if (drives[k] === 1) marks[position.get(network.links[k]!.id)!] = 1
  return marks
}
const positions = new WeakMap<readonly object[], Map<string, number>>()

/** @param change - what made the next plan of the one before; null for a plan that comes whole */
const take = (next: Plan, nextVersion: number, change: Change | null): void => {
  version = nextVersion
  plan = next
  const began = performance.now()
  let made: Schedule
  try {
    made = change && current ? reschedule(current, next, change) : schedule(next)
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    current = null
    return say({ kind: 'refused', version, message: error.message })
  }
  const computeMs = performance.now() - began
  const difference: ScheduleDifference | null = current ? scheduleDifference(current, made) : null
  current = made
  say({ kind: 'scheduled', version, view: viewOf(made, computeMs), difference })
}

/** By how much each link into and out of an activity falls short of driving, in working minutes of its successor; 0 for those that drive. */
const slackOfLinks = ({ network }: Schedule, id: string): Map<string, number> => {
  const i = network.indexOf.get(id)!
  const successors = new Set<number>([i])
  for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) successors.add(network.linkTo[network.outLink[o]!]!)
  const slack = new Map<string, number>()
  for (const j of successors) {
    const { start, finish } = explain(current!, network.activities[j]!.id, { withSharers: false })
    for (const { link, behindBy, from } of [...start.candidates, ...finish.candidates])
      if (link !== null && (j === i || from === id)) slack.set(link, Math.min(behindBy, slack.get(link) ?? Infinity))
  }
  return slack
}

const WARM_FROM = 1000
const WARM_RUNS = 40
let warmed = false
/**
 * The engine compiles what it runs often: on a large plan the first edits would wait for that, so a few are tried beforehand, one a
 * task, and thrown away.
 */
const warmUp = (runs: number): void => {
  if (!plan || !current || runs === 0) return
  const activity = plan.activities[(runs * 7919) % plan.activities.length]!
  const change: Change = { kind: 'set', list: 'activities', key: activity.id, set: { duration: activity.duration + 60 } }
  try {
    scheduleDifference(current, reschedule(current, applyUnchecked(plan, change).plan, change))
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
      if (plan) take(applyUnchecked(plan, data.change).plan, data.version, data.change)
      return
    case 'explain': {
      const known = current?.network.indexOf.has(data.activity) ?? false
      return say({ kind: 'explained', requestId: data.requestId, explanation: known ? explain(current!, data.activity) : null })
    }
    case 'probe': {
      const isKnown = current !== null && current.network.indexOf.has(data.activity) && current.network.plan.project.direction === 'forward'
      const probe = isKnown
        ? { experiment: experiments(current!, [data.activity])[0]!, paths: rankedPaths(current!, data.activity).slice(0, 3), slack: slackOfLinks(current!, data.activity) }
        : null
      return say({ kind: 'probed', requestId: data.requestId, probe })
    }
    case 'compare': {
      if (!current) return say({ kind: 'compared', requestId: data.requestId, comparison: null })
      const began = performance.now()
      const other = schedule(data.plan)
      const comparison = {
        view: viewOf(other, performance.now() - began),
        difference: scheduleDifference(current, other),
        longestPath: inOrderOfStart(other, other.onLongestPath),
      }
      return say({ kind: 'compared', requestId: data.requestId, comparison })
    }
  }
}
