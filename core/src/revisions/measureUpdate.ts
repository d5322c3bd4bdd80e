import { applyChange } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import { PlanError } from '../plan/issue.ts'
import type { Activity, Plan } from '../plan/schema.ts'
import { unpromised } from '../network/compileRemaining.ts'
import { reschedule } from '../schedule/reschedule.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { shiftWork, workBetween } from '../time/arithmetic.ts'
import { CalendarError } from '../time/calendar.ts'
import { formatInstant, instantOf } from '../time/instant.ts'

/** What an update does to the finish. */
export interface MeasuredUpdate {
  /** The plan with all of the update in it. */
  readonly whole: Schedule
  /** Finish with all of it. */
  readonly finish: number
  /** Finish after each part on top of those before it; the last is that of the whole. */
  readonly finishes: readonly number[]
}

/**
 * An update measured as a whole, and in its parts one on top of the other: what was reported of each activity first, in the order in
 * which they are given, then the status date, behind which everything waits that was not reported. Alone, a status date blames an
 * update for all work that it reports, and each report is praised for that again.
 *
 * While the status date is still the earlier one, work under way counts what is left of it from there, so that it ends when it will.
 * @param statusDate - of the later revision
 * @param reports - changes of progress and promises, in the order in which they are to count
 * @returns null where the update cannot stand in the earlier revision without its other differences
 */
export const measureUpdate = (
  before: Plan,
  schedule: Schedule,
  statusDate: string | null,
  reports: readonly Change[],
): MeasuredUpdate | null => {
  const movesStatus = statusDate !== before.project.statusDate
  const status: Change = { kind: 'project', set: { statusDate } }
  try {
    const whole = scheduled(before, schedule, { kind: 'all', changes: [status, ...reports] })
    let at = started(before, schedule, statusDate, reports)
    const finishes = reports.map((report) => {
      at = scheduled(at.network.plan, at, movesStatus ? untilStatus(at.network.plan, whole, report) : report)
      return at.projectFinish
    })
    if (movesStatus) finishes.push(whole.projectFinish)
    return { whole, finish: whole.projectFinish, finishes }
  } catch (error) {
    if (error instanceof PlanError || error instanceof CalendarError) return null
    throw error
  }
}

const scheduled = (plan: Plan, schedule: Schedule, change: Change): Schedule =>
  reschedule(schedule, applyChange(plan, change).plan, change)

/** The earlier revision with a status date to report against: its own, else its start, at which nothing has happened yet. */
const started = (
  before: Plan,
  schedule: Schedule,
  statusDate: string | null,
  reports: readonly Change[],
): Schedule =>
  before.project.statusDate === null && statusDate !== null && reports.length > 0
    ? scheduled(before, schedule, { kind: 'project', set: { statusDate: before.project.start } })
    : schedule

/** A report of work under way, with what is left of it at the later status date counted from the earlier one. */
const untilStatus = (plan: Plan, whole: Schedule, report: Change): Change => {
  if (report.kind !== 'set' || report.list !== 'activities') return report
  const i = whole.network.indexOf.get(report.key)
  const later = i === undefined ? undefined : whole.network.activities[i]
  const { statusDate } = whole.network.plan.project
  const progress = report.set.progress as Activity['progress'] | undefined
  if (!later || !progress || progress.actualStart === null || progress.actualFinish !== null) return report
  if (statusDate === null) return report
  const calendar = whole.network.calendar[i!]!
  const start = instantOf(progress.actualStart, 'start')
  const ends = shiftWork(calendar, Math.max(start, instantOf(statusDate, 'start')), unpromised(later))
  const from = Math.max(start, instantOf(plan.project.statusDate ?? formatInstant(start), 'start'))
  const remaining = Math.max(1, workBetween(calendar, from, ends))
  return { ...report, set: { ...report.set, progress: { ...progress, remaining } } }
}
