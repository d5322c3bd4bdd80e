import { pointer, type PlanIssue } from './issue.ts'
import { MAX_ACTIVITIES } from './schema.ts'

/** Items that a list of a file may hold: beyond any plan, and few enough to be looked at one by one. */
const MOST: Readonly<Record<string, number>> = {
  calendars: 5_000,
  groups: 50_000,
  activities: MAX_ACTIVITIES,
  links: 5 * MAX_ACTIVITIES,
  resources: 20_000,
  assignments: 500_000,
  risks: 20_000,
  baselines: 500,
  acceptances: MAX_ACTIVITIES,
  scenarios: 2_000,
  reviews: 5_000,
  views: 500,
  events: 20_000,
  spreads: 20_000,
  factors: 20_000,
  weather: 5_000,
  damages: 2_000,
  periods: 5_000,
}
/** Named days of all calendars together. */
const MOST_NAMED_DAYS = 200_000

/** Lists beyond any plan, seen before their items are looked at. */
export const overlongLists = (json: unknown): PlanIssue[] => {
  if (typeof json !== 'object' || json === null || Array.isArray(json)) return []
  const file = json as Record<string, unknown>
  const issues = Object.entries(MOST).flatMap(([list, most]): PlanIssue[] => {
    const items = Object.hasOwn(file, list) ? file[list] : null
    if (!Array.isArray(items) || items.length <= most) return []
    return [
      {
        pointer: pointer(list),
        code: 'too-large',
        message: `more than ${most} ${list}; ${list === 'activities' ? 'split the plan' : 'leave some out'}`,
      },
    ]
  })
  const calendars = Array.isArray(file.calendars) ? (file.calendars as unknown[]) : []
  const named = calendars.reduce<number>((sum, calendar) => {
    const days = (calendar as { exceptions?: unknown } | null)?.exceptions
    return sum + (Array.isArray(days) ? days.length : 0)
  }, 0)
  if (named > MOST_NAMED_DAYS)
    issues.push({
      pointer: '/calendars',
      code: 'too-large',
      message: `more than ${MOST_NAMED_DAYS} named days in the calendars; let calendars share those of a parent`,
    })
  return issues
}
