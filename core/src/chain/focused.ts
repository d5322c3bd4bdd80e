import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Activity, ChainSettings, Plan } from '../plan/schema.ts'

/** How the chain of a plan is made, with what it says nothing of filled in. */
export const chainSettings = ({ project }: Pick<Plan, 'project'>): ChainSettings =>
  project.chain ?? {
    cut: 0.5,
    sizing: 'half',
    confidence: 0.9,
    calendar: null,
    drum: null,
    thresholds: [
      [0.1, 0.6],
      [0.25, 0.85],
    ],
    buffers: {},
    agreed: null,
  }

/** Whether an activity is work that a chain counts: neither finished nor without length. */
export const isChainWork = ({ kind, duration, progress }: Activity): boolean =>
  kind === 'work' && duration > 0 && progress.actualFinish === null

/** Working minutes of the shorter estimate: its own, else what the cut leaves, at least one (semantics2.md section 16, step 1). */
export const focusedDuration = (activity: Activity, cut: number): number => {
  if (!isChainWork(activity)) return activity.duration
  return Math.max(1, activity.focused ?? Math.round((1 - cut) * activity.duration))
}

/**
 * The plan on focused durations, without what a chain takes the place of: the required finish and places late. Remaining durations and
 * percents are of focused durations already.
 */
export const focusedPlan = (plan: Plan, cut: number): Plan => ({
  ...plan,
  project: { ...plan.project, requiredFinish: null },
  activities: plan.activities.map((activity) => ({
    ...activity,
    place: 'early' as const,
    duration: focusedDuration(activity, cut),
  })),
})

/** What focusing takes off an activity, in days of its own calendar; never below 0. */
export const daysCut = (plan: Plan, activity: Activity, cut: number): number => {
  const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, activity))
  return Math.max(0, activity.duration - focusedDuration(activity, cut)) / dayMinutes
}
