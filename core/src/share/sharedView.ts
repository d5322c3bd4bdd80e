import { NONE, State } from '../network/network.ts'
import type { Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { dateWords, instantWords } from '../words/dates.ts'
import { moneyWords } from '../words/amounts.ts'
import type { ShareAsked } from '../wire/index.ts'

/** What a link is made for: who looks needs to know no more. */
export type SharedChoice = Pick<ShareAsked, 'shows' | 'owner'>

interface SharedRow {
  /** Position in the plan. */
  readonly index: number
  /** Of the group that it stands in; null where groups are not shown. */
  readonly group: string | null
  readonly code: string
  readonly name: string
  readonly state: 'done' | 'under way' | 'to come'
  readonly start: string
  readonly finish: string
  /** The latest finish that still costs nothing: the end of the plan does not move. Empty where there is none, and of what is done. */
  readonly latest: string
  /** Whether it is planned later than that. */
  readonly isLate: boolean
  /** Of a payment: "in 540,000 EUR". */
  readonly payment: string
}
/** A plan as those see it who got a link: in words, and nothing but what was chosen. */
export interface SharedView {
  readonly title: string
  readonly shows: SharedChoice['shows']
  readonly owner: string | null
  readonly asOf: string
  /** Planned finish of the whole; null where one party's work is shown. */
  readonly finish: string | null
  readonly rows: readonly SharedRow[]
}

/** Which activities a link shows; a hammock is no work of anybody. */
export const isShown = (
  { kind, owner, payment }: Pick<Plan['activities'][number], 'kind' | 'owner' | 'payment'>,
  choice: SharedChoice,
): boolean => {
  if (kind === 'hammock') return false
  switch (choice.shows) {
    case 'all':
      return true
    case 'party':
      return owner !== null && owner.trim() === choice.owner
    case 'milestones':
      return kind === 'milestone' || payment !== null
  }
}

/** What a link shows of a plan, in the order of starts. */
export const sharedView = (made: Schedule, choice: SharedChoice): SharedView => {
  const { network, start, finish, lateFinishShown } = made
  const { plan } = network
  const { project } = plan
  const groups = new Map(plan.groups.map(({ id, name, code }) => [id, name || code]))
  const rows = plan.activities
    .map((activity, index) => ({ activity, index }))
    .filter(({ activity }) => isShown(activity, choice))
    .sort((a, b) => start[a.index]! - start[b.index]! || a.index - b.index)
    .map(({ activity, index }): SharedRow => {
      const state = network.state[index]!
      const isPoint = activity.kind === 'milestone'
      const latest = lateFinishShown[index]!
      const isOpen = state !== State.Finished && latest !== NONE
      const { payment } = activity
      return {
        index,
        group:
          choice.shows === 'all' && activity.group !== null ? (groups.get(activity.group) ?? null) : null,
        code: activity.code,
        name: activity.name,
        state: state === State.Finished ? 'done' : state === State.Started ? 'under way' : 'to come',
        start: isPoint ? '' : instantWords(start[index]!, 'start', { time: false }),
        finish: instantWords(finish[index]!, isPoint && activity.edge !== 'finish' ? 'start' : 'finish', {
          time: false,
        }),
        latest: isOpen ? instantWords(latest, 'finish', { time: false }) : '',
        isLate: isOpen && latest < finish[index]!,
        payment:
          choice.shows !== 'party' && payment
            ? `${payment.direction} ${moneyWords(payment.amount, project.currency)}`
            : '',
      }
    })
  return {
    title: project.name || project.code,
    shows: choice.shows,
    owner: choice.shows === 'party' ? choice.owner : null,
    asOf:
      project.statusDate === null
        ? 'as planned'
        : `as of ${dateWords(project.statusDate, 'start', { year: true })}`,
    finish:
      choice.shows === 'party' || plan.activities.length === 0
        ? null
        : instantWords(made.projectFinish, 'finish', { time: false, year: true }),
    rows,
  }
}
