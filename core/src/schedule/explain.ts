import { lastMinuteFrom, settleBack, unshiftWork, workBetween } from '../time/arithmetic.ts'
import { formatInstant, type Instant } from '../time/instant.ts'
import type { Constraint } from '../plan/schema.ts'
import { exactInstant, limitInstant } from '../network/compileLimits.ts'
import {
  countsFromStart,
  Kind,
  limitsFinish,
  NONE,
  State,
  UNLIMITED,
  type Network,
} from '../network/network.ts'
import { linkAllows } from './backwardPass.ts'
import { heldByStartLinks, isPinned } from './forwardPass.ts'
import { Ladder, written, type Step } from './ladder.ts'
import { lateShift, type Schedule } from './schedule.ts'
import { sharersOfFloat } from './sharedFloat.ts'

export type CandidateKind =
  'link' | 'constraint' | 'project-start' | 'status-date' | 'actual' | 'required-finish'

/** One thing that bears on a date: where it comes from, the arithmetic, where it leads, whether it decides. */
export interface Candidate {
  readonly kind: CandidateKind
  /** Link id, for links. */
  readonly link: string | null
  /** The activity at the other end of the link. */
  readonly from: string | null
  /** The constraint as written, for constraints. */
  readonly constraint: Constraint | null
  readonly steps: readonly Step[]
  readonly at: string
  readonly wins: boolean
  /** Working minutes of the activity's calendar by which it falls short of the deciding one. */
  readonly behindBy: number
}

export interface Explanation {
  readonly activity: string
  readonly start: { readonly at: string; readonly candidates: readonly Candidate[] }
  readonly finish: { readonly at: string; readonly candidates: readonly Candidate[] }
  readonly float: {
    readonly total: number | null
    readonly free: number | null
    readonly candidates: readonly Candidate[]
    /** Activities that lose float when it is spent here. */
    readonly sharedWith: readonly string[]
  }
}

interface Source {
  readonly kind: CandidateKind
  readonly link?: string
  readonly from?: string
  readonly constraint?: Constraint
}

/**
 * Why an activity starts, finishes and floats as it does: every candidate, not only the one that decides, each with steps that
 * recompute to the scheduled dates. Those of an activity that is placed late end with the step that places it.
 * @param id - an activity of the plan
 * @param options - `withSharers: false` leaves out who shares the float, the only part that needs more than a look around
 * @throws RangeError if the plan has no such activity
 */
export const explain = (schedule: Schedule, id: string, { withSharers = true } = {}): Explanation => {
  const { network } = schedule
  const i = network.indexOf.get(id)
  if (i === undefined) throw new RangeError(`explain: no activity "${id}"`)
  if (network.kind[i] === Kind.Hammock) return explainHammock(schedule, i)
  if (schedule.mirror) return explainBackward(schedule, schedule.mirror, i, withSharers)
  const total = schedule.float.total[i]!
  const free = schedule.float.free[i]!
  return {
    activity: id,
    start: { at: formatInstant(schedule.start[i]!), candidates: startCandidates(schedule, i) },
    finish: { at: formatInstant(schedule.finish[i]!), candidates: finishCandidates(schedule, i) },
    float: {
      total: total === NONE ? null : total,
      free: free === NONE ? null : free,
      candidates: total === NONE ? [] : floatCandidates(schedule, i),
      sharedWith: total === NONE || !withSharers ? [] : sharersOfFloat(schedule, i),
    },
  }
}

/** A plan scheduled backward is explained in its mirror: what decides the finish there decides the start here. */
const explainBackward = (
  schedule: Schedule,
  mirror: Schedule,
  i: number,
  withSharers: boolean,
): Explanation => {
  const { network, float } = schedule
  const minutes = (value: number): number | null => (value === NONE ? null : value)
  const isOpen = network.state[i] !== State.Finished
  const actual = (at: Instant): Candidate[] => [actualCandidate(network, at)]
  const isStarted = network.state[i] === State.Started
  return {
    activity: network.activities[i]!.id,
    start: {
      at: formatInstant(schedule.start[i]!),
      candidates: isOpen && !isStarted ? finishCandidates(mirror, i) : actual(schedule.start[i]!),
    },
    finish: {
      at: formatInstant(schedule.finish[i]!),
      candidates: isOpen ? startCandidates(mirror, i) : actual(schedule.finish[i]!),
    },
    float: {
      total: minutes(float.total[i]!),
      free: minutes(float.free[i]!),
      candidates: isOpen ? floatCandidates(mirror, i) : [],
      sharedWith: isOpen && withSharers ? sharersOfFloat(mirror, i) : [],
    },
  }
}

/** The constraints that bear in the direction of the network, with the instant at which each stands there. */
const activeConstraints = (
  network: Network,
  i: number,
): { constraint: Constraint; at: Instant; exact: Instant; onFinish: boolean }[] => {
  // Constraints are written in the time of the plan, and stand on the plan's own calendars.
  const calendar = network.isMirror ? network.calendars.get(network.calendar[i]!.id) : network.calendar[i]!
  const turn = (at: Instant): Instant => (network.isMirror ? -at : at)
  return network.activities[i]!.constraints.map((constraint) => ({
    constraint,
    at: turn(limitInstant(constraint, calendar)),
    exact: turn(constraint.rule === 'exactly' ? exactInstant(constraint, calendar) : 0),
    onFinish: (constraint.edge === 'finish') !== network.isMirror,
  }))
}
/** The rule of a constraint in the direction of the network: a not-after is a not-before in the mirror. */
const ruleIn = (network: Network, { rule }: Constraint): Constraint['rule'] =>
  !network.isMirror || rule === 'exactly' ? rule : rule === 'not-before' ? 'not-after' : 'not-before'

/** Something that bears on where the remaining work begins, before its last steps. */
interface Limit {
  readonly source: Source
  readonly ladder: Ladder
  readonly onFinish: boolean
  /** Whether it is an overriding date, at which the edge stands as it is. */
  readonly holds: boolean
}

const limitsOn = (schedule: Schedule, i: number): Limit[] => {
  const { network, early } = schedule
  const calendar = network.calendar[i]!
  const found: Limit[] = []
  const asks = (source: Source, ladder: Ladder, onFinish = false, holds = false): void =>
    void found.push({ source, ladder, onFinish, holds })
  const pinned = isPinned(network, i)
  if (network.state[i] === State.Started)
    asks({ kind: 'actual' }, new Ladder(network, network.actualStart[i]!))
  else if (!pinned)
    asks(
      { kind: network.isMirror ? 'required-finish' : 'project-start' },
      new Ladder(network, network.projectStart),
    )
  if (network.statusDate !== null && !pinned)
    asks({ kind: 'status-date' }, new Ladder(network, network.statusDate))
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    const code = network.linkCode[k]!
    if (!limitsFinish(code) && !heldByStartLinks(network, i)) continue
    const from = network.linkFrom[k]!
    const base = countsFromStart(code) ? early.start[from]! : early.finish[from]!
    const source: Source = { kind: 'link', link: network.links[k]!.id, from: network.activities[from]!.id }
    asks(
      source,
      new Ladder(network, base).lag(network.linkCalendar[k]!, network.linkLag[k]!),
      limitsFinish(code),
    )
  }
  for (const { constraint, at, exact, onFinish } of activeConstraints(network, i)) {
    if (!onFinish && network.state[i] === State.Started) continue
    const ladder = new Ladder(network, at)
    if (constraint.rule === 'exactly') ladder.to(exact, onFinish ? 'settle' : 'next-work', calendar)
    else if (ruleIn(network, constraint) === 'not-after') {
      // Only a date that overrides takes anything off an early date; the mirror leaves that out.
      if (!constraint.overrides || network.isMirror) continue
      ladder.backTo(calendar, constraint.edge)
    }
    asks({ kind: 'constraint', constraint }, ladder, onFinish, constraint.overrides)
  }
  return found
}

const candidate = (source: Source, ladder: Ladder, wins: boolean, behindBy: number): Candidate => ({
  kind: source.kind,
  link: source.link ?? null,
  from: source.from ?? null,
  constraint: source.constraint ?? null,
  steps: ladder.steps,
  at: written(ladder.network, ladder.at),
  wins,
  behindBy,
})

/** Candidates in the order: deciding ones first, then those next in line. */
const ranked = (candidates: Candidate[]): Candidate[] =>
  candidates.sort((a, b) => Number(b.wins) - Number(a.wins) || a.behindBy - b.behindBy)

const actualCandidate = (network: Network, at: Instant): Candidate =>
  candidate({ kind: 'actual' }, new Ladder(network, at), true, 0)

const startCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, early } = schedule
  if (network.state[i] !== State.NotStarted) return [actualCandidate(network, network.actualStart[i]!)]
  const calendar = network.calendar[i]!
  const limits = limitsOn(schedule, i)
    .filter(({ holds, onFinish }) => !(holds && onFinish && network.startPin[i] !== NONE))
    .map((limit) => {
      const { ladder, onFinish, holds } = limit
      if (!holds) toBegin(network, i, ladder, onFinish)
      else if (onFinish) ladder.subWork(calendar, network.remaining[i]!)
      return limit
    })
  return decided(schedule, i, limits, early.start[i]!, (ladder, shift) => {
    ladder.placedLate(calendar, shift)
    if (!isFinishPoint(network, i)) ladder.nextWork(calendar)
  })
}

/**
 * Who decides where an edge stands early, and by how much the others fall short; what holds it from beyond has nothing to say.
 * @param placeLate - brings a deciding ladder on to where the edge is placed by its float
 */
const decided = (
  schedule: Schedule,
  i: number,
  limits: Limit[],
  at: Instant,
  placeLate: (ladder: Ladder, shift: number) => void,
): Candidate[] => {
  const { network } = schedule
  const calendar = network.calendar[i]!
  const pinned = isPinned(network, i)
  const shift = lateShift(schedule, i)
  return ranked(
    limits
      .filter(({ holds, ladder }) => !holds || ladder.at <= at)
      .map(({ source, ladder, holds }) => {
        const wins = ladder.at === at && (holds || !pinned)
        const behindBy = workBetween(calendar, ladder.at, at)
        if (wins && shift > 0) placeLate(ladder, shift)
        return candidate(source, ladder, wins, behindBy)
      }),
  )
}

const isFinishPoint = (network: Network, i: number): boolean =>
  network.remaining[i] === 0 && network.kind[i] === Kind.AtFinish

/** Brings a limit to the beginning of the remaining work. */
const toBegin = (network: Network, i: number, ladder: Ladder, onFinish: boolean): Ladder => {
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  if (isFinishPoint(network, i)) return ladder.settle(calendar)
  if (onFinish && remaining > 0) ladder.subWork(calendar, remaining)
  return ladder.nextWork(calendar)
}

const finishCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, early } = schedule
  if (network.state[i] === State.Finished) return [actualCandidate(network, network.actualFinish[i]!)]
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  const limits = limitsOn(schedule, i)
    .filter(({ holds, onFinish }) => !(holds && !onFinish && network.finishPin[i] !== NONE))
    .map((limit) => {
      const { ladder, onFinish, holds } = limit
      if (!onFinish) (holds ? ladder : toBegin(network, i, ladder, false)).addWork(calendar, remaining)
      else if (!holds && remaining > 0) ladder.settle(calendar)
      else if (!holds) toBegin(network, i, ladder, true)
      return limit
    })
  return decided(schedule, i, limits, early.finish[i]!, (ladder, shift) => {
    ladder.placedLate(calendar, shift)
    if (remaining === 0 && !isFinishPoint(network, i)) ladder.nextWork(calendar)
  })
}

/** What each successor, constraint and the required finish let the finish be at the latest; steps run backwards in time. */
const floatCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, late } = schedule
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  const found: { source: Source; ladder: Ladder }[] = []
  const pinned = isPinned(network, i)
  const ofFinish = (source: Source, ladder: Ladder): void => {
    if (pinned) return void found.push({ source, ladder })
    if (remaining === 0 && network.kind[i] !== Kind.AtFinish)
      ladder.to(lastMinuteFrom(calendar, ladder.at), 'settle', calendar)
    else ladder.to(settleBack(calendar, ladder.at), 'settle', calendar)
    found.push({ source, ladder })
  }
  const ofStart = (source: Source, ladder: Ladder): void => {
    if (pinned) return void found.push({ source, ladder: ladder.addWork(calendar, remaining) })
    if (remaining === 0 && network.kind[i] === Kind.AtFinish)
      ladder.to(settleBack(calendar, ladder.at), 'settle', calendar)
    else ladder.to(lastMinuteFrom(calendar, ladder.at), 'settle', calendar).addWork(calendar, remaining)
    found.push({ source, ladder })
  }
  if (!pinned)
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
      const k = network.outLink[o]!
      const fromStart = countsFromStart(network.linkCode[k]!)
      if (fromStart && network.state[i] === State.Started) continue
      const allowed = linkAllows(network, late, k)
      if (allowed === UNLIMITED || allowed === NONE) continue
      const to = network.linkTo[k]!
      const limit = limitsFinish(network.linkCode[k]!) ? late.finishLimit[to]! : late.startLimit[to]!
      const lag = network.linkLag[k]!
      const on = network.linkCalendar[k]!
      const ladder = new Ladder(network, limit)
      if (lag !== 0)
        ladder.to(unshiftWork(on, limit, lag), lag > 0 ? 'sub-work' : 'add-work', on, Math.abs(lag))
      const source: Source = { kind: 'link', link: network.links[k]!.id, from: network.activities[to]!.id }
      if (fromStart) ofStart(source, ladder)
      else ofFinish(source, ladder)
    }
  for (const { constraint, at, exact, onFinish } of activeConstraints(network, i)) {
    if (ruleIn(network, constraint) === 'not-before' || (!onFinish && network.state[i] === State.Started))
      continue
    if (pinned && !(constraint.rule === 'exactly' && constraint.overrides)) continue
    if (pinned && !onFinish && network.finishPin[i] !== NONE) continue
    const ladder = new Ladder(network, at)
    if (constraint.rule === 'exactly') ladder.to(exact, onFinish ? 'settle' : 'next-work', calendar)
    if (onFinish) ofFinish({ kind: 'constraint', constraint }, ladder)
    else ofStart({ kind: 'constraint', constraint }, ladder)
  }
  if (!pinned)
    ofFinish(
      { kind: network.isMirror ? 'project-start' : 'required-finish' },
      new Ladder(network, schedule.target),
    )
  const lateCount = calendar.countBefore(late.finish[i]!)
  return ranked(
    found.map(({ source, ladder }) => {
      const behind = calendar.countBefore(ladder.at) - lateCount
      return candidate(source, ladder, behind === 0, behind)
    }),
  )
}

const explainHammock = (schedule: Schedule, i: number): Explanation => {
  const { network } = schedule
  const id = network.activities[i]!.id
  const side = (type: 'SS' | 'FF', at: Instant): Candidate[] => {
    const links = network.hammockLinks.filter((link) => link.to === id && link.type === type)
    const calendar = network.calendar[i]!
    if (links.length === 0)
      return [
        candidate(
          { kind: type === 'SS' ? 'project-start' : 'required-finish' },
          new Ladder(network, at),
          true,
          0,
        ),
      ]
    return ranked(
      links.map((link) => {
        const other = network.indexOf.get(link.from)!
        const ladder = new Ladder(
          network,
          type === 'SS' ? schedule.start[other]! : schedule.finish[other]!,
        ).lag(calendar, link.lag)
        const behind = Math.abs(workBetween(calendar, ladder.at, at))
        return candidate({ kind: 'link', link: link.id, from: link.from }, ladder, ladder.at === at, behind)
      }),
    )
  }
  const start = schedule.start[i]!
  const finish = schedule.finish[i]!
  return {
    activity: id,
    start: { at: formatInstant(start), candidates: side('SS', start) },
    finish: { at: formatInstant(finish), candidates: side('FF', finish) },
    float: { total: null, free: null, candidates: [], sharedWith: [] },
  }
}
