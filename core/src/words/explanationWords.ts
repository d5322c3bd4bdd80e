import { fromEdge, toEdge } from '../plan/links.ts'
import { instantOf, MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import { PlanCalendars } from '../time/planCalendars.ts'
import { type DayLengths, lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Activity, LinkType, Plan } from '../plan/schema.ts'
import type { Candidate, Explanation } from '../schedule/explain.ts'
import type { Step } from '../schedule/ladder.ts'
import { constraintPhrase } from './constraintWords.ts'
import { dateWords, instantWords } from './dates.ts'
import { durationWords } from './durations.ts'
import type { Part, Sentence } from './parts.ts'

/** One rung of the ladder of arithmetic: what was done, and the instant after it. */
export interface Rung {
  readonly label: Sentence
  readonly at: string
}
/** A candidate that does not decide, and by how much it falls short. */
export interface RunnerUp {
  readonly label: Sentence
  readonly behind: string
}
export interface EdgeWords {
  readonly sentence: Sentence
  readonly ladder: readonly Rung[]
  readonly nextInLine: readonly RunnerUp[]
}
export interface ExplanationWords {
  readonly start: EdgeWords
  readonly finish: EdgeWords
  readonly float: EdgeWords
}

/** Words for an explanation: the one place where its data becomes sentences, for the Lens and the command line. */
export const explanationWords = (plan: Plan, explanation: Explanation): ExplanationWords => {
  const speaker = new Speaker(plan, explanation.activity)
  return {
    start: speaker.edge('start', explanation.start.at, explanation.start.candidates),
    finish: speaker.edge('finish', explanation.finish.at, explanation.finish.candidates),
    float: speaker.float(explanation),
  }
}

/** Elapsed minutes of a weekend with what is left of its days; longer is a window or a season of its own. */
const WEEKEND = 3 * MINUTES_PER_DAY

interface Wait {
  readonly calendar: string
  /** From when it could begin, to when it does. */
  readonly from: Instant
  readonly to: Instant
}

class Speaker {
  private readonly plan: Plan
  private readonly codes: Map<string, string>
  private readonly names: Map<string, string>
  private readonly own: DayLengths
  private readonly ownCalendar: string
  private readonly explained: Activity

  constructor(plan: Plan, activityId: string) {
    this.plan = plan
    this.codes = new Map(plan.activities.map((a) => [a.id, a.code]))
    this.names = new Map(plan.activities.map((a) => [a.id, a.name]))
    const activity = plan.activities.find((a) => a.id === activityId)!
    this.ownCalendar = calendarOf(plan.project, activity)
    this.own = this.lengths(this.ownCalendar)
    this.explained = activity
  }

  /** Placed dates come from predecessors, or, in a plan scheduled backward, from successors; float the other way round. */
  private get placing(): 'early' | 'late' {
    return this.plan.project.direction === 'backward' ? 'late' : 'early'
  }
  private get floating(): 'early' | 'late' {
    return this.placing === 'early' ? 'late' : 'early'
  }

  private lengths(calendar: string): DayLengths {
    return lengthsOf(this.plan, calendar)
  }
  private activity(id: string, withName = false): Part {
    const code = this.codes.get(id) ?? id
    return { activity: id, text: withName ? `${code} ${this.names.get(id) ?? ''}`.trim() : code }
  }
  private calendar(id: string): Part {
    const name = this.plan.calendars.find((c) => c.id === id)?.name
    return { calendar: id, text: name || (id === 'clock' ? 'round the clock' : id) }
  }
  private at(text: string, edge: 'start' | 'finish'): string {
    return instantWords(instantOf(text, 'start'), edge)
  }
  private isPlacedLate(id: string): boolean {
    return this.plan.activities.find((a) => a.id === id)?.place === 'late'
  }
  private linkOf(candidate: Candidate): { type: LinkType } {
    return this.plan.links.find((l) => l.id === candidate.link)!
  }

  /** Where a candidate comes from, as a noun: "H30 ends", "the project starts". */
  private source(candidate: Candidate, direction: 'early' | 'late'): Part[] {
    switch (candidate.kind) {
      case 'link': {
        const { type } = this.linkOf(candidate)
        const ends = fromEdge(type) === 'finish'
        if (direction === 'early')
          return [
            this.activity(candidate.from!),
            this.isPlacedLate(candidate.from!)
              ? ends
                ? ' can end'
                : ' can start'
              : ends
                ? ' ends'
                : ' starts',
          ]
        return [this.activity(candidate.from!), toEdge(type) === 'start' ? ' must start' : ' must end']
      }
      case 'constraint':
        return [constraintPhrase(candidate.constraint!)]
      case 'project-start':
        return ['the project starts']
      case 'status-date':
        return ['the status date']
      case 'actual':
        return ['it actually happened']
      case 'required-finish':
        return [this.plan.project.requiredFinish === null ? 'the project finishes' : 'the required finish']
    }
  }

  private rung(
    step: Step,
    candidate: Candidate,
    direction: 'early' | 'late',
    edge: 'start' | 'finish',
  ): Rung {
    const on = step.calendar
    const type = candidate.kind === 'link' ? this.linkOf(candidate).type : null
    // A date is worded like the edge of the activity that it belongs to.
    const dateEdge =
      type === null
        ? (candidate.constraint?.edge ?? edge)
        : direction === 'early'
          ? fromEdge(type) === 'finish'
            ? 'finish'
            : 'start'
          : toEdge(type) === 'start'
            ? 'start'
            : 'finish'
    switch (step.op) {
      case 'date':
        return { label: this.source(candidate, direction), at: this.at(step.at, dateEdge) }
      case 'add-work':
      case 'sub-work': {
        if (step.why === 'placed-late')
          return {
            label: ['as late as its float allows: + ', durationWords(step.minutes, this.own)],
            at: this.at(step.at, edge),
          }
        const sign = step.op === 'add-work' ? '+ ' : '− '
        return {
          label: [
            sign + durationWords(step.minutes, this.lengths(on!)),
            ', ',
            this.calendar(on!),
            ...(step.op === 'add-work' && edge === 'finish' && this.promiseInForce()
              ? [', by the promise']
              : []),
          ],
          at: this.at(step.at, step.op === 'add-work' ? 'finish' : 'start'),
        }
      }
      case 'next-work':
        return { label: ['next work, ', this.calendar(on!)], at: this.at(step.at, 'start') }
      case 'settle':
        return {
          label: [
            direction === 'early' ? 'settled in working time, ' : 'last work by then, ',
            this.calendar(on!),
          ],
          at: this.at(step.at, edge),
        }
    }
  }

  /** The rungs of a candidate; a step that leaves the instant where it was says nothing and is left out. */
  private ladder(candidate: Candidate, direction: 'early' | 'late', edge: 'start' | 'finish'): Rung[] {
    const { steps } = candidate
    // A date out of working time goes back to the last work by one minute, and on to its end by the same minute: one rung.
    const isBack =
      candidate.constraint?.overrides === true &&
      candidate.constraint.rule === 'not-after' &&
      direction === 'early' &&
      steps[1]?.op === 'sub-work' &&
      steps[1].minutes === 1
    const back = !isBack ? 0 : steps[2]?.op === 'add-work' && steps[2].minutes === 1 ? 2 : 1
    return steps
      .filter((step, k) => k === 0 || (k >= back && step.at !== steps[k - 1]!.at))
      .map((step) =>
        back > 0 && step === steps[back]
          ? {
              label: ['last work by then, ', this.calendar(step.calendar!)],
              at: this.at(step.at, candidate.constraint!.edge),
            }
          : this.rung(step, candidate, direction, edge),
      )
  }

  private nextInLine(candidates: readonly Candidate[], direction: 'early' | 'late'): RunnerUp[] {
    return candidates
      .filter((c) => !c.wins)
      .map((c) => ({
        label: this.source(c, direction),
        behind:
          c.behindBy < 0
            ? `${durationWords(-c.behindBy, this.own)} ${direction === 'early' ? 'later, not heeded' : 'tighter, not heeded'}`
            : direction === 'early'
              ? `${durationWords(c.behindBy, this.own)} earlier`
              : `${durationWords(c.behindBy, this.own)} looser`,
      }))
  }

  edge(edge: 'start' | 'finish', at: string, candidates: readonly Candidate[]): EdgeWords {
    const winners = this.lastFirst(candidates.filter((c) => c.wins))
    const winner = winners[0]
    const verb = edge === 'start' ? 'It starts ' : 'It finishes '
    const sentence: Part[] = [verb, { strong: this.at(at, edge) }]
    if (!winner)
      return {
        sentence: [...sentence, '.'],
        ladder: [],
        nextInLine: this.nextInLine(candidates, this.placing),
      }
    const shift = winner.steps.find((step) => step.why === 'placed-late')?.minutes
    const because = this.because(winners, edge)
    return {
      sentence: [
        ...sentence,
        ...(shift === undefined
          ? []
          : [
              `, placed ${durationWords(shift, this.own)} later than it could, as its float allows. It could not come before that`,
            ]),
        winner.kind === 'actual' && winner.steps.length === 1 ? ': ' : ' because ',
        ...because,
        '.',
      ],
      ladder: [
        ...this.ladder(winner, this.placing, edge),
        { label: [{ strong: edge === 'start' ? 'starts' : 'finishes' }], at: this.at(at, edge) },
      ],
      nextInLine: this.nextInLine(candidates, this.placing),
    }
  }

  /** Those that decide; where a calendar makes them equal, the one that it would wait for last comes first. */
  private lastFirst(winners: readonly Candidate[]): readonly Candidate[] {
    const waits = new Map(winners.map((c) => [c, this.waitOf(c)]))
    if ([...waits.values()].every((wait) => wait === null)) return winners
    const could = (c: Candidate): number => waits.get(c)?.from ?? instantOf(c.at, 'start')
    return [...winners].sort((a, b) => could(b) - could(a))
  }
  private because(winners: readonly Candidate[], edge: 'start' | 'finish'): Part[] {
    const wait = this.waitOf(winners[0]!)
    if (wait)
      return [
        this.calendar(wait.calendar),
        ` has no working time from ${instantWords(wait.from, 'finish')}, when it could begin, until ${edge === 'start' ? 'then' : instantWords(wait.to, 'start')}; `,
        ...this.reason(winners[0]!),
        ...(winners.length > 1 ? [', and what else it waits for by then'] : []),
      ]
    return winners.flatMap((c, k): Part[] => [
      ...(k === 0 ? [] : [k === winners.length - 1 ? ' and ' : ', ']),
      ...this.reason(c),
    ])
  }
  /** Of a candidate: where its calendar lets it wait for longer than a night or a weekend; null where it does not. */
  private waitOf({ steps }: Candidate): Wait | null {
    if (this.placing === 'late') return null
    for (let k = 1; k < steps.length; k++) {
      const { op, at, calendar } = steps[k]!
      if (op !== 'next-work' || calendar === null) continue
      const [from, to] = [instantOf(steps[k - 1]!.at, 'start'), instantOf(at, 'start')]
      if (to > from && (to - from > WEEKEND || this.isProjectDay(from, to))) return { calendar, from, to }
    }
    return null
  }
  /** Whether the project works a day between two instants. */
  private isProjectDay(from: Instant, to: Instant): boolean {
    const { project, calendars } = this.plan
    const calendar = new PlanCalendars(calendars, from).get(project.calendar)
    return calendar.countBefore(to) - calendar.countBefore(from) >= this.lengths(project.calendar).dayMinutes
  }

  /** The promise that says what is left of the work; null where another thing does. */
  private promiseInForce(): { readonly finish: string; readonly by: string } | null {
    const { promise, progress } = this.explained
    const { statusDate } = this.plan.project
    if (promise === null || progress.actualStart === null || progress.actualFinish !== null) return null
    return statusDate !== null && instantOf(promise.finish, 'finish') > instantOf(statusDate, 'start')
      ? promise
      : null
  }
  /** What the status date has to do with where it stands. */
  private fromStatus(): string {
    const promise = this.promiseInForce()
    if (promise)
      return `it is promised for ${dateWords(promise.finish, 'finish')}${promise.by === '' ? '' : ` by ${promise.by}`}`
    return this.explained.progress.actualStart === null
      ? 'what is not begun lies after the status date'
      : 'what is left of it is done from the status date on'
  }

  private reason(candidate: Candidate): Part[] {
    if (candidate.kind !== 'link') {
      if (candidate.kind === 'constraint')
        return [`of a constraint: ${constraintPhrase(candidate.constraint!)}`]
      if (candidate.kind === 'status-date') return [this.fromStatus()]
      if (candidate.kind === 'required-finish')
        return ['the project must be finished by ', dateWords(this.plan.project.finish ?? '', 'finish')]
      return candidate.kind === 'project-start'
        ? ['the project starts then']
        : this.source(candidate, this.placing)
    }
    const { type } = this.linkOf(candidate)
    if (this.placing === 'late') {
      const atStart = toEdge(type) === 'start'
      return [
        this.activity(candidate.from!, true),
        atStart ? ' must start by ' : ' must end by ',
        this.at(candidate.steps[0]!.at, atStart ? 'start' : 'finish'),
      ]
    }
    const ends = fromEdge(type) === 'finish'
    const verb = this.isPlacedLate(candidate.from!)
      ? ends
        ? ' can end '
        : ' can start '
      : ends
        ? ' ends '
        : ' starts '
    return [
      this.activity(candidate.from!, true),
      verb,
      this.at(candidate.steps[0]!.at, ends ? 'finish' : 'start'),
    ]
  }

  float({ float }: Explanation): EdgeWords {
    if (float.total === null)
      return {
        sentence: [this.whyNoFloat()],
        ladder: [],
        nextInLine: [],
      }
    const winner = float.candidates[0]
    const amount = durationWords(Math.abs(float.total), this.own)
    const others = float.sharedWith.length
    const shared = others === 0 ? '' : `, shared with ${others} other${others === 1 ? '' : 's'}`
    const opening: Part[] =
      float.total < 0
        ? ['It is ', { strong: `${amount} short` }, ` of float${shared}`]
        : float.total === 0
          ? ['It has ', { strong: 'no float' }, shared]
          : ['It has ', { strong: `${amount} of float` }, shared]
    return {
      sentence: winner
        ? [
            ...opening,
            ': ',
            ...this.source(winner, this.floating),
            this.floating === 'late' ? ' by ' : ' on ',
            this.at(
              winner.steps[0]!.at,
              winner.kind === 'link' && this.isStartLimit(winner) ? 'start' : 'finish',
            ),
            '.',
          ]
        : [...opening, '.'],
      ladder: winner ? this.ladder(winner, this.floating, 'finish') : [],
      nextInLine: this.nextInLine(float.candidates, this.floating),
    }
  }
  private whyNoFloat(): string {
    const { kind, progress } = this.explained
    if (kind === 'hammock') return 'It has no float: it hangs from others.'
    if (progress.actualFinish !== null) return 'It has no float: it is finished.'
    return 'It has no late dates, and so no float: a calendar, its own or of work that waits for it, has no working time so early that every constraint would be kept.'
  }
  private isStartLimit(candidate: Candidate): boolean {
    const { type } = this.linkOf(candidate)
    return toEdge(type) === 'start'
  }
}
