import { formatInstant, type Instant } from '../../time/instant.ts'
import { workBetween } from '../../time/arithmetic.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { Kind, NONE } from '../../network/network.ts'
import type { Levelled } from './level.ts'

/** A levelled plan as the command line writes it (semantics2.md section 18). */
export interface LevelReport {
  readonly finish: string
  readonly bound: string
  /** The earliest finish that is not proven impossible, and what stands in the way of an earlier one beyond the bound. */
  readonly proven: {
    readonly finish: string
    readonly because: {
      readonly from: string
      readonly to: string
      /** Null: work of which no two can be done at once. */
      readonly resource: string | null
      readonly activities: readonly string[]
      /** Minutes that they need of it at least, and that there are. */
      readonly needed: number
      readonly there: number
    } | null
    /** Whether every way to an earlier finish was tried or ruled out. */
    readonly searched: boolean
  }
  readonly unresolved: readonly {
    readonly activity: string
    readonly resource: string
    readonly reason: string
  }[]
  readonly activities: Readonly<Record<string, LevelledActivity>>
  /** Not-after dates and the required finish that are not kept, and were before. */
  readonly exceeded: readonly {
    readonly activity: string | null
    readonly limit: string
    readonly finish: string
  }[]
}
interface LevelledActivity {
  readonly start: string
  readonly finish: string
  /** Of the start, in days of the project calendar. */
  readonly movedBy: number
  readonly because: readonly {
    readonly resource: string
    readonly from: string
    readonly to: string
    readonly heldBy: readonly string[]
  }[]
  readonly pieces: readonly (readonly [string, string])[]
}

const provenReport = ({
  proven: { finish, because, isSearched },
  resources,
  before,
}: Levelled): LevelReport['proven'] => ({
  finish: formatInstant(finish),
  searched: isSearched,
  because: because && {
    from: formatInstant(because.from),
    to: formatInstant(because.to),
    resource: because.resource === null ? null : resources[because.resource]!.id,
    activities: because.activities.map((i) => before.network.activities[i]!.id),
    needed: because.needed,
    there: because.there,
  },
})

/** Dates of work that pauses are those of its pieces. */
export const levelReport = (made: Levelled): LevelReport => {
  const { before, after, resources } = made
  const { activities } = before.network
  const idOf = (i: number): string => activities[i]!.id
  return {
    finish: formatInstant(after.projectFinish),
    bound: formatInstant(made.bound.finish),
    proven: provenReport(made),
    unresolved: [
      ...made.unresolved.map(({ activity, resource, why }) => ({
        activity: idOf(activity),
        resource: resources[resource]!.id,
        reason: REASONS[why],
      })),
      ...made.without.map(({ activity, resource }) => ({
        activity,
        resource,
        reason: 'its calendar has no hour in common with the resource’s',
      })),
    ],
    activities: Object.fromEntries(
      activities.map(({ id }, i): [string, LevelledActivity] => {
        const pieces = made.pieces.get(i) ?? []
        return [
          id,
          {
            start: formatInstant(after.start[i]!),
            finish: formatInstant(after.finish[i]!),
            movedBy: movedDays(made, i),
            because: (made.waited.get(i) ?? []).map((wait) => ({
              resource: resources[wait.resource]!.id,
              from: formatInstant(wait.from),
              to: formatInstant(wait.to),
              heldBy: wait.heldBy.map(idOf),
            })),
            pieces: pieces.map(([from, to]) => [formatInstant(from), formatInstant(to)] as const),
          },
        ]
      }),
    ),
    exceeded: exceededBy(made).map(({ activity, limit, finish }) => ({
      activity: activity === null ? null : idOf(activity),
      limit: formatInstant(limit),
      finish: formatInstant(finish),
    })),
  }
}

/** In words that need no figure; the figures stand beside them. */
const REASONS = {
  'never-enough': 'it needs more than is ever available again; it stands by its links and limits',
  stands: 'it is under way or its date overrides: it stands, and more is asked for than there is',
  'float-used': 'it would have to wait beyond its float; it stands by its links and limits',
} as const

/** How much later an activity starts, in days of the project calendar. */
export const movedDays = ({ before, after }: Pick<Levelled, 'before' | 'after'>, i: number): number => {
  const { plan, calendars } = before.network
  const calendar = calendars.get(plan.project.calendar)
  const moved = workBetween(calendar, before.start[i]!, after.start[i]!)
  return moved / lengthsOf(plan, plan.project.calendar).dayMinutes
}

/** A limit that the levelled dates break and the dates before kept; `activity` null: the required finish. */
export interface Exceeded {
  readonly activity: number | null
  readonly limit: Instant
  readonly finish: Instant
}
export const exceededBy = ({ before, after }: Pick<Levelled, 'before' | 'after'>): Exceeded[] => {
  const found: Exceeded[] = []
  const { network } = before
  for (let i = 0; i < network.activities.length; i++) {
    if (network.kind[i] === Kind.Hammock) continue
    const [startLimit, finishLimit] = [network.startCeiling[i]!, network.finishCeiling[i]!]
    if (after.start[i]! > startLimit && before.start[i]! <= startLimit)
      found.push({ activity: i, limit: startLimit, finish: after.start[i]! })
    if (after.finish[i]! > finishLimit && before.finish[i]! <= finishLimit)
      found.push({ activity: i, limit: finishLimit, finish: after.finish[i]! })
  }
  const isAsked = network.plan.project.requiredFinish !== null && before.target !== NONE
  if (isAsked && after.projectFinish > before.target && before.projectFinish <= before.target)
    found.push({ activity: null, limit: before.target, finish: after.projectFinish })
  return found
}
