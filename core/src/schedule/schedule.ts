import { prevWork } from '../time/arithmetic.ts'
import { formatInstant, instantOf, type Instant } from '../time/instant.ts'
import { Kind, NONE, State, UNLIMITED, type Network, type ScheduleWarning } from '../network/network.ts'
import { compileNetwork } from '../network/compileNetwork.ts'
import { mirrorNetwork } from '../network/mirror.ts'
import type { Plan } from '../plan/schema.ts'
import { backwardPass, emptyLateDates, type LateDates } from './backwardPass.ts'
import { linkDrives, longestPath } from './drivingLinks.ts'
import { emptyFloats, computeFloats, type Floats } from './floats.ts'
import { emptyEarlyDates, forwardPass, latestFinish, type EarlyDates } from './forwardPass.ts'
import { compileHammocks, hangHammock } from './hammocks.ts'
import { lateShiftOf, placeBackward, placeLate } from './placement.ts'
import { targetOf } from './target.ts'

/** The schedule of a plan: typed arrays by the activity's position in the plan; NONE where there is no such value. */
export interface Schedule {
  readonly network: Network
  /** The dates at which activities are placed and shown. */
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly early: EarlyDates
  readonly late: LateDates
  readonly float: Floats
  /** Late finish as shown: at the end of work, or the early finish where the working count is equal. */
  readonly lateFinishShown: Int32Array
  readonly critical: Uint8Array
  readonly onLongestPath: Uint8Array
  /** 1 for links that drive, by position in the network; found when first asked for. */
  readonly drives: Uint8Array
  readonly projectStart: Instant
  readonly projectFinish: Instant
  /** What late dates are measured against: the required finish, else the network's own. */
  readonly target: Instant
  readonly warnings: readonly ScheduleWarning[]
  /** For a plan scheduled backward: the same in the mirror of time, where it is a forward one; explanations are read off it. */
  readonly mirror: Schedule | null
}

/** A schedule whose driving links are found when they are first asked for. A class, so that all schedules have one shape: see networkOf. */
class LazySchedule implements Schedule {
  readonly network: Network
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly early: EarlyDates
  readonly late: LateDates
  readonly float: Floats
  readonly lateFinishShown: Int32Array
  readonly critical: Uint8Array
  readonly onLongestPath: Uint8Array
  readonly projectStart: Instant
  readonly projectFinish: Instant
  readonly target: Instant
  readonly warnings: readonly ScheduleWarning[]
  readonly mirror: Schedule | null
  private foundDrives: Uint8Array | null = null
  private readonly findDrives: () => Uint8Array

  constructor(parts: Omit<Schedule, 'drives'>, findDrives: () => Uint8Array) {
    this.network = parts.network
    this.start = parts.start
    this.finish = parts.finish
    this.early = parts.early
    this.late = parts.late
    this.float = parts.float
    this.lateFinishShown = parts.lateFinishShown
    this.critical = parts.critical
    this.onLongestPath = parts.onLongestPath
    this.projectStart = parts.projectStart
    this.projectFinish = parts.projectFinish
    this.target = parts.target
    this.warnings = parts.warnings
    this.mirror = parts.mirror
    this.findDrives = findDrives
  }
  get drives(): Uint8Array {
    return (this.foundDrives ??= this.findDrives())
  }
}

/**
 * Schedules a plan: early and late dates, floats, criticality, longest path. Pure; O(n + m).
 * @param plan - a plan that passed {@link validatePlan}
 * @throws CalendarError where a calendar runs out of working time
 */
export const schedule = (plan: Plan): Schedule => scheduleNetwork(compileNetwork(plan))

export const scheduleNetwork = (network: Network): Schedule =>
  network.plan.project.direction === 'backward' ? scheduleBackward(network) : scheduleForward(network)

const scheduleForward = (network: Network): Schedule => {
  const n = network.order.length
  const early = emptyEarlyDates(n)
  forwardPass(network, network.remaining, early)
  const networkFinish = latestFinish(network, early)
  const target = targetOf(network, networkFinish)
  const late = emptyLateDates(n)
  backwardPass(network, network.remaining, target, late)
  const onLongestPath = longestPath(
    network,
    (k) => linkDrives(network, network.remaining, early, k),
    early,
    networkFinish,
  )
  return finishSchedule(network, early, late, {
    networkFinish,
    target,
    drives: () => drivingLinks(network, early),
    onLongestPath,
  })
}

const drivingLinks = (network: Network, early: EarlyDates): Uint8Array => {
  const drives = new Uint8Array(network.links.length)
  for (let k = 0; k < drives.length; k++) drives[k] = linkDrives(network, network.remaining, early, k) ? 1 : 0
  return drives
}

/** Backward: the mirror's forward pass places everything late; its adjoint against the project's start gives early dates. */
const scheduleBackward = (network: Network): Schedule => {
  const n = network.order.length
  const mirror = mirrorNetwork(network)
  const placed = emptyEarlyDates(n)
  forwardPass(mirror, mirror.remaining, placed)
  const earliest = emptyLateDates(n)
  backwardPass(mirror, mirror.remaining, -network.projectStart, earliest)

  const mirrorDrives = drivingLinks(mirror, placed)
  const mirrorFinish = latestFinish(mirror, placed)
  const onLongestPath = longestPath(mirror, (k) => mirrorDrives[k] === 1, placed, mirrorFinish)
  const mirrored = finishSchedule(mirror, placed, earliest, {
    networkFinish: mirrorFinish,
    target: -network.projectStart,
    drives: () => mirrorDrives,
    onLongestPath,
  })

  const early = emptyEarlyDates(n)
  const late = emptyLateDates(n)
  for (let i = 0; i < n; i++) {
    if (network.kind[i] === Kind.Hammock) continue
    early.begin[i] = -earliest.finish[i]!
    early.start[i] = network.state[i] === State.NotStarted ? early.begin[i]! : network.actualStart[i]!
    early.finish[i] = -earliest.start[i]!
    const calendar = network.calendar[i]!
    early.beginCount[i] = calendar.countBefore(early.finish[i]!) - network.remaining[i]!
    late.beginCount[i] = calendar.countBefore(-placed.start[i]!) - network.remaining[i]!
    late.start[i] = late.startLimit[i] = -placed.finish[i]!
    late.finish[i] = late.finishLimit[i] = -placed.start[i]!
    if (network.state[i] === State.Finished) {
      early.begin[i] = early.finish[i]!
      late.startLimit[i] = late.finishLimit[i] = UNLIMITED
    }
  }
  // Position k of the mirror is the link at network.outLink[k]: bring the marks back to the network's order.
  const drives = new Uint8Array(network.links.length)
  for (let k = 0; k < drives.length; k++) drives[network.outLink[k]!] = mirrorDrives[k]!
  const networkFinish = late.finish.reduce((latest, at) => Math.max(latest, at), NONE)
  return finishSchedule(network, early, late, {
    networkFinish: networkFinish === NONE ? network.projectStart : networkFinish,
    target: instantOf(network.plan.project.finish!, 'finish'),
    drives: () => drives,
    onLongestPath,
    mirror: mirrored,
  })
}

export interface Passes {
  readonly networkFinish: Instant
  readonly target: Instant
  /** Called at most once, when somebody asks. */
  readonly drives: () => Uint8Array
  readonly onLongestPath: Uint8Array
  /** The same in the mirror of time, of a plan scheduled backward. */
  readonly mirror?: Schedule
}

const finishSchedule = (network: Network, early: EarlyDates, late: LateDates, passes: Passes): Schedule => {
  const float = emptyFloats(network.order.length)
  computeFloats(network, network.remaining, early, late, latestFinish(network, early), float)
  return settleSchedule(network, early, late, float, passes)
}

/** What follows from dates and floats: where activities are placed and shown, hammocks, criticality, warnings. */
export const settleSchedule = (
  network: Network,
  early: EarlyDates,
  late: LateDates,
  float: Floats,
  passes: Passes,
): Schedule => {
  const { plan } = network
  const n = network.order.length
  const isBackward = plan.project.direction === 'backward' && !network.isMirror

  const { remaining } = network
  const start = early.start.slice()
  const finish = early.finish.slice()
  if (passes.mirror) placeBackward(network, passes.mirror.early, start, finish)
  else placeLate(network, remaining, early, float, start, finish)
  const lateFinishShown = late.finish.slice()
  const critical = new Uint8Array(n)
  const warnings = [...network.warnings]
  const { criticalFloat } = plan.project
  const { total: totals } = float
  for (let i = 0; i < n; i++) {
    const total = totals[i]!
    if (total === NONE) continue
    if (total <= criticalFloat) critical[i] = 1
    if (total === 0) {
      lateFinishShown[i] = early.finish[i]!
      if (!isBackward) warnOfGap(network, early, passes.target, i, warnings)
    }
    // The late finish of work is an end of work already; that of a point may be a start of work.
    else if (remaining[i] === 0) lateFinishShown[i] = prevWork(network.calendar[i]!, late.finish[i]!)
  }
  warnOfNoLateDates(network, late, warnings)
  if (!network.isMirror) hangHammocks(network, start, finish, passes.networkFinish, warnings)
  warnOfPromises(network, finish, warnings)
  const parts = {
    network,
    start,
    finish,
    early,
    late,
    float,
    lateFinishShown,
    critical,
    onLongestPath: passes.onLongestPath,
    projectStart: earliestStart(network, start),
    projectFinish: passes.networkFinish,
    target: passes.target,
    warnings,
    mirror: passes.mirror ?? null,
  }
  return new LazySchedule(parts, passes.drives)
}

const earliestStart = (network: Network, start: Int32Array): Instant => {
  let earliest = UNLIMITED
  for (let i = 0; i < start.length; i++) if (start[i]! < earliest && start[i] !== NONE) earliest = start[i]!
  return earliest === UNLIMITED ? network.projectStart : earliest
}

/** Working minutes by which an activity is placed later than it could be; 0 for all that is not placed late. */
export const lateShift = ({ network, float }: Schedule, i: number): number => {
  const isBackward = network.plan.project.direction === 'backward'
  return isBackward || network.placedLate[i] === 0 || network.state[i] === State.Finished
    ? 0
    : lateShiftOf(float, i)
}

const hangHammocks = (
  network: Network,
  start: Int32Array,
  finish: Int32Array,
  projectFinish: Instant,
  warnings: ScheduleWarning[],
): void => {
  for (const hammock of compileHammocks(network)) {
    if (!hangHammock(hammock, start, finish, network.projectStart, projectFinish)) continue
    const { id, code } = network.activities[hammock.activity]!
    warnings.push({
      code: 'hammock-inverted',
      activity: id,
      message: `${code} would end before it begins; its length is 0`,
    })
  }
}

/** The last of those that a calendar leaves without late dates; what comes before them follows. */
const warnOfNoLateDates = (network: Network, late: LateDates, warnings: ScheduleWarning[]): void => {
  const isWithout = (i: number): boolean =>
    late.finish[i] === NONE && network.kind[i] !== Kind.Hammock && network.state[i] !== State.Finished
  for (let i = 0; i < network.order.length; i++) {
    if (!isWithout(i)) continue
    let isLast = true
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++)
      if (isWithout(network.linkTo[network.outLink[o]!]!)) isLast = false
    if (!isLast) continue
    const { id, code } = network.activities[i]!
    const { name, id: calendarId } = network.plan.calendars.find((c) => c.id === network.calendar[i]!.id) ?? {
      name: '',
      id: network.calendar[i]!.id,
    }
    warnings.push({
      code: 'no-late-dates',
      activity: id,
      message: `${code} has no late dates and no float: “${name || calendarId}” has no working time so early that its limits would be kept`,
    })
  }
}

/** A promise gives the remaining duration; links and limits can still push the finish beyond it. */
const warnOfPromises = (network: Network, finish: Int32Array, warnings: ScheduleWarning[]): void => {
  if (network.statusDate === null || network.isMirror) return
  for (let i = 0; i < network.order.length; i++) {
    if (network.state[i] !== State.Started) continue
    const { promise, code, id } = network.activities[i]!
    if (promise === null) continue
    const promised = instantOf(promise.finish, 'finish')
    if (promised > network.statusDate && finish[i]! > promised)
      warnings.push({
        code: 'promise-not-kept',
        activity: id,
        message: `${code} is pushed beyond its promise of ${formatInstant(promised)} by its links or limits`,
      })
  }
}

/** A finish beyond its limit by non-working time alone has no negative float; it is said instead. */
const warnOfGap = (
  network: Network,
  early: EarlyDates,
  target: Instant,
  i: number,
  warnings: ScheduleWarning[],
): void => {
  if (early.finish[i]! <= Math.min(network.finishCeiling[i]!, target)) return
  const { id, code } = network.activities[i]!
  warnings.push({
    code: 'finish-in-the-gap',
    activity: id,
    message: `${code} is held open beyond its limit by non-working time alone, so its float is 0`,
  })
}
