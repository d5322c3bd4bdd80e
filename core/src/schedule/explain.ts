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

/** Builds the steps of a candidate, doing each one as it is written down. */
class Ladder {
  readonly steps: Step[] = []
  at: Instant
  constructor(date: Instant) {
    this.at = date
    this.write('date', null, 0)
  }
  private write(op: StepOp, calendar: Calendar | null, minutes: number): this {
    this.steps.push({ op, calendar: calendar?.id ?? null, minutes, at: formatInstant(this.at) })
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
 * recompute to the scheduled dates. Early dates are explained (for backward plans: what the early dates are measured by).
 * @param id - an activity of the plan
 * @param options - `withSharers: false` leaves out who shares the float, the only part that needs more than a look around
 * @throws RangeError if the plan has no such activity
 */
export const explain = (schedule: Schedule, id: string, { withSharers = true } = {}): Explanation => {
  const { network } = schedule
  const i = network.indexOf.get(id)
  if (i === undefined) throw new RangeError(`explain: no activity "${id}"`)
  if (network.kind[i] === Kind.Hammock) return explainHammock(schedule, i)
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

/** What bears on where the remaining work begins, before its last steps. */
const limitLadders = (schedule: Schedule, i: number): { source: Source; ladder: Ladder; onFinish: boolean }[] => {
  const { network, early } = schedule
  const activity = network.activities[i]!
  const calendar = network.calendar[i]!
  const found: { source: Source; ladder: Ladder; onFinish: boolean }[] = []
  const pinned = isPinned(network, i)
  if (network.state[i] === State.Started)
    found.push({ source: { kind: 'actual' }, ladder: new Ladder(network.actualStart[i]!), onFinish: false })
  else if (!pinned)
    found.push({ source: { kind: 'project-start' }, ladder: new Ladder(network.projectStart), onFinish: false })
  if (network.statusDate !== null && !pinned)
    found.push({ source: { kind: 'status-date' }, ladder: new Ladder(network.statusDate), onFinish: false })
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    const code = network.linkCode[k]!
    if (!limitsFinish(code) && !heldByStartLinks(network, i)) continue
    const from = network.linkFrom[k]!
    const base = countsFromStart(code) ? early.start[from]! : early.finish[from]!
    found.push({
      source: { kind: 'link', link: network.links[k]!.id, from: network.activities[from]!.id },
      ladder: new Ladder(base).lag(network.linkCalendar[k]!, network.linkLag[k]!),
      onFinish: limitsFinish(code),
    })
  }
  for (const constraint of activity.constraints) {
    const isStart = constraint.edge === 'start'
    if (isStart && network.state[i] === State.Started) continue
    if (constraint.rule === 'not-after' && !constraint.overrides) continue
    const ladder = new Ladder(instantOf(constraint.date, constraint.edge))
    if (constraint.rule === 'exactly') ladder.to(exactInstant(constraint, calendar), isStart ? 'next-work' : 'settle', calendar)
    found.push({ source: { kind: 'constraint', constraint }, ladder, onFinish: !isStart })
  }
  return found
}

const candidate = (source: Source, ladder: Ladder, wins: boolean, behindBy: number): Candidate => ({
  kind: source.kind,
  link: source.link ?? null,
  from: source.from ?? null,
  constraint: source.constraint ?? null,
  steps: ladder.steps,
  at: formatInstant(ladder.at),
  wins,
  behindBy,
})

/** Candidates in the order: deciding ones first, then those next in line. */
const ranked = (candidates: Candidate[]): Candidate[] =>
  candidates.sort((a, b) => Number(b.wins) - Number(a.wins) || a.behindBy - b.behindBy)

const actualCandidate = (at: Instant): Candidate => candidate({ kind: 'actual' }, new Ladder(at), true, 0)

const startCandidates = (schedule: Schedule, i: number): Candidate[] => {
  const { network, early } = schedule
  if (network.state[i] !== State.NotStarted) return [actualCandidate(network.actualStart[i]!)]
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
  if (network.state[i] === State.Finished) return [actualCandidate(network.actualFinish[i]!)]
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
      const ladder = new Ladder(limit)
      if (lag !== 0) ladder.to(unshiftWork(on, limit, lag), lag > 0 ? 'sub-work' : 'add-work', on, Math.abs(lag))
      const source: Source = { kind: 'link', link: network.links[k]!.id, from: network.activities[to]!.id }
      if (fromStart) ofStart(source, ladder)
      else ofFinish(source, ladder)
    }
  for (const constraint of network.activities[i]!.constraints) {
    if (constraint.rule === 'not-before' || (constraint.edge === 'start' && network.state[i] === State.Started)) continue
    const exact = constraint.rule === 'exactly'
    if (pinned && !(exact && constraint.overrides)) continue
    const ladder = new Ladder(instantOf(constraint.date, constraint.edge))
    if (exact) ladder.to(exactInstant(constraint, calendar), constraint.edge === 'start' ? 'next-work' : 'settle', calendar)
    if (constraint.edge === 'start') ofStart({ kind: 'constraint', constraint }, ladder)
    else ofFinish({ kind: 'constraint', constraint }, ladder)
  }
  if (!pinned) ofFinish({ kind: 'required-finish' }, new Ladder(schedule.target))
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
      return [candidate({ kind: type === 'SS' ? 'project-start' : 'required-finish' }, new Ladder(at), true, 0)]
    return ranked(
      links.map((link) => {
        const other = network.indexOf.get(link.from)!
        const ladder = new Ladder(type === 'SS' ? schedule.start[other]! : schedule.finish[other]!).lag(calendar, link.lag)
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
