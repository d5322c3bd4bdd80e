import { instantOf } from '../time/instant.ts'
import type { Activity, AgreedChain, ChainSettings, Plan, UpdatePeriod } from '../plan/schema.ts'
import { datesOf, inOrder } from '../progress/periods.ts'
import { currentChain, type BufferState } from './currentChain.ts'

/** Where the buffers stood at a status date. */
export interface FeverPoint {
  /** Null: now, where nothing was closed since. */
  readonly period: Pick<UpdatePeriod, 'id' | 'name' | 'statusDate'> | null
  readonly statusDate: string
  readonly buffers: readonly BufferState[]
}

/**
 * The plan with the progress that a period knew: what had started and finished by its status date, and what it said was left. A percent
 * is of the focused duration, as under a chain every percent is.
 */
const planAsOf = (plan: Plan, period: UpdatePeriod): Plan => {
  const status = instantOf(period.statusDate, 'start')
  const dates = datesOf(period)
  const isBy = (date: string | null, edge: 'start' | 'finish'): boolean =>
    date !== null && instantOf(date, edge) <= status
  return {
    ...plan,
    project: { ...plan.project, statusDate: period.statusDate },
    activities: plan.activities.map((activity): Activity => {
      const { progress, duration } = activity
      if (!isBy(progress.actualStart, 'start'))
        return {
          ...activity,
          promise: null,
          progress: { ...progress, actualStart: null, actualFinish: null, remaining: null, percent: 0 },
        }
      if (isBy(progress.actualFinish, 'finish')) return activity
      const left = dates.get(activity.id)?.remaining ?? null
      const isByPercent = progress.actualFinish === null && progress.remaining === null
      return {
        ...activity,
        promise: null,
        progress:
          left === null
            ? { ...progress, actualFinish: null }
            : isByPercent && duration > 0
              ? { ...progress, actualFinish: null, remaining: null, percent: 100 * (1 - left / duration) }
              : { ...progress, actualFinish: null, remaining: left },
      }
    }),
  }
}

/**
 * The points of the fever picture, one per closed period since the chain was agreed, and where it stands now (semantics2.md section 16,
 * step 8).
 */
export const feverPoints = (plan: Plan, settings: ChainSettings, agreed: AgreedChain): FeverPoint[] => {
  const since = instantOf(agreed.at.slice(0, 10), 'start')
  const closed = inOrder(plan).filter(
    ({ statusDate, closed: at }) => at !== '' && instantOf(statusDate, 'start') >= since,
  )
  const points: FeverPoint[] = closed.map((period) => ({
    period: { id: period.id, name: period.name, statusDate: period.statusDate },
    statusDate: period.statusDate,
    buffers: currentChain(planAsOf(plan, period), settings, agreed).buffers,
  }))
  const last = closed.at(-1)?.statusDate
  const statusDate = plan.project.statusDate ?? plan.project.start
  if (last === undefined || statusDate > last)
    points.push({ period: null, statusDate, buffers: currentChain(plan, settings, agreed).buffers })
  return points
}
