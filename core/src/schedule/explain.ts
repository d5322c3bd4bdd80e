import { addWork, lastMinuteFrom, nextWork, settle, settleBack, shiftWork, subWork, unshiftWork, workBetween } from '../time/arithmetic.ts'
import type { Calendar } from '../time/calendar.ts'
import { formatInstant, instantOf, type Instant } from '../time/instant.ts'
import type { Constraint } from '../plan/schema.ts'
import { exactInstant } from '../network/limits.ts'
import { countsFromStart, Kind, limitsFinish, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import { linkAllows } from './backwardPass.ts'
import { heldByStartLinks, isPinned } from './forwardPass.ts'
import type { Schedule } from './schedule.ts'
import { sharersOfFloat } from './sharedFloat.ts'

export type StepOp = 'date' | 'add-work' | 'sub-work' | 'next-work' | 'settle'

/** One line of the arithmetic: what was done, on which calendar, and the instant after it. */
export interface Step {
  readonly op: StepOp
  /** Calendar id; null for a date that is taken as it stands. */
  readonly calendar: string | null
  /** Working minutes added or taken off; 0 for the others. */
  readonly minutes: number
  readonly at: string
}

export type CandidateKind = 'link' | 'constraint' | 'project-start' | 'status-date' | 'actual' | 'required-finish'

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

/** In the mirror of time, what is added is taken off, and the next work is the last by then. */
const MIRRORED_OP: Readonly<Record<StepOp, StepOp>> = {
  date: 'date',
  'add-work': 'sub-work',
  'sub-work': 'add-work',
  'next-work': 'settle',
  settle: 'settle',
}

/** An instant of a network as text; those of a mirror are turned back. */
const written = (network: Network, at: Instant): string => formatInstant(network.isMirror ? -at : at)

/** Builds the steps of a candidate, doing each one as it is written down. */
class Ladder {
  readonly steps: Step[] = []
  readonly network: Network
  at: Instant
  constructor(network: Network, date: Instant) {
    this.network = network
    this.at = date
    this.write('date', null, 0)
  }
  private write(op: StepOp, calendar: Calendar | null, minutes: number): this {
    const isMirror = this.network.isMirror
    this.steps.push({ op: isMirror ? MIRRORED_OP[op] : op, calendar: calendar?.id ?? null, minutes, at: written(this.network, this.at) })
    return this
  }
  to(at: Instant, op: StepOp, calendar: Calendar, minutes = 0): this {
    this.at = at
    return this.write(op, calendar, minutes)
  }
  lag(calendar: Calendar, lag: number): this {
    if (lag === 0) return this
    return this.to(shiftWork(calendar, this.at, lag), lag > 0 ? 'add-work' : 'sub-work', calendar, Math.abs(lag))
  }
  addWork(calendar: Calendar, minutes: number): this {
    return minutes === 0 ? this : this.to(addWork(calendar, this.at, minutes), 'add-work', calendar, minutes)
  }
  subWork(calendar: Calendar, minutes: number): this {
    return minutes === 0 ? this : this.to(subWork(calendar, this.at, minutes), 'sub-work', calendar, minutes)
  }
  nextWork(calendar: Calendar): this {
    return this.to(nextWork(calendar, this.at), 'next-work', calendar)
  }
  settle(calendar: Calendar): this {
    return this.to(settle(calendar, this.at), 'settle', calendar)
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
 * recompute to the scheduled dates: the early ones, or those placed as late as possible where the plan is scheduled backward.
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
    start: { at: formatInstant(schedule.early.start[i]!), candidates: startCandidates(schedule, i) },
    finish: { at: formatInstant(schedule.early.finish[i]!), candidates: finishCandidates(schedule, i) },
    float: {
      total: total === NONE ? null : total,
      free: free === NONE ? null : free,
      candidates: total === NONE ? [] : floatCandidates(schedule, i),
      sharedWith: total === NONE || !withSharers ? [] : sharersOfFloat(schedule, i),
    },
  }
}

/** A plan scheduled backward is explained in its mirror: what decides the finish there decides the start here. */
const explainBackward = (schedule: Schedule, mirror: Schedule, i: number, withSharers: boolean): Explanation => {
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
    finish: { at: formatInstant(schedule.finish[i]!), candidates: isOpen ? startCandidates(mirror, i) : actual(schedule.finish[i]!) },
    float: {
      total: minutes(float.total[i]!),
      free: minutes(float.free[i]!),
      candidates: isOpen ? floatCandidates(mirror, i) : [],
      sharedWith: isOpen && withSharers ? sharersOfFloat(mirror, i) : [],
    },
  }
}

/** The constraints that bear in the direction of the network, with the instant at which each stands there. */
const bearingConstraints = (network: Network, i: number): { constraint: Constraint; at: Instant; exact: Instant; onFinish: boolean }[] => {
  // Constraints are written in the time of the plan, and stand on the plan's own calendars.
  const calendar = network.isMirror ? network.calendars.get(network.calendar[i]!.id) : network.calendar[i]!
  const turn = (at: Instant): Instant => (network.isMirror ? -at : at)
  return network.activities[i]!.constraints.map((constraint) => ({
    constraint,
    at: turn(instantOf(constraint.date, constraint.edge)),
    exact: turn(constraint.rule === 'exactly' ? exactInstant(constraint, calendar) : 0),
    onFinish: (constraint.edge === 'finish') !== network.isMirror,
  }))
}
/** The rule of a constraint in the direction of the network: a not-after is a not-before in the mirror. */
const ruleIn = (network: Network, { rule }: Constraint): Constraint['rule'] =>
  !network.isMirror || rule === 'exactly' ? rule : rule === 'not-before' ? 'not-after' : 'not-before'

/** What bears on where the remaining work begins, before its last steps. */
const limitLadders = (schedule: Schedule, i: number): { source: Source; ladder: Ladder; onFinish: boolean }[] => {
  const { network, early } = schedule
  const calendar = network.calendar[i]!
  const found: { source: Source; ladder: Ladder; onFinish: boolean }[] = []
  const pinned = isPinned(network, i)
  if (network.state[i] === State.Started)
    found.push({ source: { kind: 'actual' }, ladder: new Ladder(network, network.actualStart[i]!), onFinish: false })
  else if (!pinned)
    found.push({ source: { kind: network.isMirror ? 'required-finish' : 'project-start' }, ladder: new Ladder(network, network.projectStart), onFinish: false })
  if (network.statusDate !== null && !pinned)
    found.push({ source: { kind: 'status-date' }, ladder: new Ladder(network, network.statusDate), onFinish: false })
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    const code = network.linkCode[k]!
    if (!limitsFinish(code) && !heldByStartLinks(network, i)) continue
    const from = network.linkFrom[k]!
    const base = countsFromStart(code) ? early.start[from]! : early.finish[from]!
    found.push({
      source: { kind: 'link', link: network.links[k]!.id, from: network.activities[from]!.id },
      ladder: new Ladder(network, base).lag(network.linkCalendar[k]!, network.linkLag[k]!),
      onFinish: limitsFinish(code),
    })
  }
  for (const { constraint, at, exact, onFinish } of bearingConstraints(network, i)) {
    if (!onFinish && network.state[i] === State.Started) continue
    if (ruleIn(network, constraint) === 'not-after' && !(constraint.overrides && !network.isMirror)) continue
    const ladder = new Ladder(network, at)
    if (constraint.rule === 'exactly') ladder.to(exact, onFinish ? 'settle' : 'next-work', calendar)
    found.push({ source: { kind: 'constraint', constraint }, ladder, onFinish })
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

const actualCandidate = (network: Network, at: Instant): Candidate => candidate({ kind: 'actual' }, new Ladder(network, at), true, 0)

const startCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, early } = schedule
  if (network.state[i] !== State.NotStarted) return [actualCandidate(network, network.actualStart[i]!)]
  const calendar = network.calendar[i]!
  const at = early.start[i]!
  return ranked(
    limitLadders(schedule, i).map(({ source, ladder, onFinish }) => {
      const brought = toBegin(network, i, ladder, onFinish)
      const wins = brought.at === at && (source.kind === 'constraint' || !isPinned(network, i))
      return candidate(source, brought, wins, workBetween(calendar, brought.at, at))
    }),
  )
}

/** Brings a limit to the beginning of the remaining work. */
const toBegin = (network: Network, i: number, ladder: Ladder, onFinish: boolean): Ladder => {
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  if (remaining === 0 && network.kind[i] === Kind.AtFinish) return ladder.settle(calendar)
  if (onFinish && remaining > 0) ladder.subWork(calendar, remaining)
  return ladder.nextWork(calendar)
}

const finishCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, early } = schedule
  if (network.state[i] === State.Finished) return [actualCandidate(network, network.actualFinish[i]!)]
  const calendar = network.calendar[i]!
  const at = early.finish[i]!
  const remaining = network.remaining[i]!
  const found = limitLadders(schedule, i).flatMap(({ source, ladder, onFinish }) => {
    const decides = source.kind === 'constraint' || !isPinned(network, i)
    if (onFinish && remaining > 0) {
      const held = ladder.settle(calendar)
      return [candidate(source, held, decides && held.at === at, workBetween(calendar, held.at, at))]
    }
    const done = toBegin(network, i, ladder, onFinish).addWork(calendar, remaining)
    return [candidate(source, done, decides && done.at === at, workBetween(calendar, done.at, at))]
  })
  return ranked(found)
}

/** What each successor, constraint and the required finish let the finish be at the latest; steps run backwards in time. */
const floatCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, late } = schedule
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  const found: { source: Source; ladder: Ladder }[] = []
  const ofFinish = (source: Source, ladder: Ladder): void => {
    if (remaining === 0 && network.kind[i] !== Kind.AtFinish) ladder.to(lastMinuteFrom(calendar, ladder.at), 'settle', calendar)
    else ladder.to(settleBack(calendar, ladder.at), 'settle', calendar)
    found.push({ source, ladder })
  }
  const ofStart = (source: Source, ladder: Ladder): void => {
    if (remaining === 0 && network.kind[i] === Kind.AtFinish) ladder.to(settleBack(calendar, ladder.at), 'settle', calendar)
    else ladder.to(lastMinuteFrom(calendar, ladder.at), 'settle', calendar).addWork(calendar, remaining)
    found.push({ source, ladder })
  }
  const pinned = isPinned(network, i)
  if (!pinned)
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
      const k = network.outLink[o]!
      const fromStart = countsFromStart(network.linkCode[k]!)
      if (fromStart && network.state[i] === State.Started) continue
      if (linkAllows(network, late, k) === UNLIMITED) continue
      const to = network.linkTo[k]!
      const limit = limitsFinish(network.linkCode[k]!) ? late.finishLimit[to]! : late.startLimit[to]!
      const lag = network.linkLag[k]!
      const on = network.linkCalendar[k]!
      const ladder = new Ladder(network, limit)
      if (lag !== 0) ladder.to(unshiftWork(on, limit, lag), lag > 0 ? 'sub-work' : 'add-work', on, Math.abs(lag))
      const source: Source = { kind: 'link', link: network.links[k]!.id, from: network.activities[to]!.id }
      if (fromStart) ofStart(source, ladder)
      else ofFinish(source, ladder)
    }
  for (const { constraint, at, exact, onFinish } of bearingConstraints(network, i)) {
    if (ruleIn(network, constraint) === 'not-before' || (!onFinish && network.state[i] === State.Started)) continue
    if (pinned && !(constraint.rule === 'exactly' && constraint.overrides)) continue
    const ladder = new Ladder(network, at)
    if (constraint.rule === 'exactly') ladder.to(exact, onFinish ? 'settle' : 'next-work', calendar)
    if (onFinish) ofFinish({ kind: 'constraint', constraint }, ladder)
    else ofStart({ kind: 'constraint', constraint }, ladder)
  }
  if (!pinned) ofFinish({ kind: network.isMirror ? 'project-start' : 'required-finish' }, new Ladder(network, schedule.target))
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
      return [candidate({ kind: type === 'SS' ? 'project-start' : 'required-finish' }, new Ladder(network, at), true, 0)]
    return ranked(
      links.map((link) => {
        const other = network.indexOf.get(link.from)!
        const ladder = new Ladder(network, type === 'SS' ? schedule.start[other]! : schedule.finish[other]!).lag(calendar, link.lag)
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
