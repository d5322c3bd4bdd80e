import { newLink } from '../../plan/links.ts'
import type { Activity, Link, Plan, Risk } from '../../plan/schema.ts'

/** Work of a risk as an activity of the network, there only in the iterations in which the risk happens. */
export interface RiskWork {
  readonly risk: Risk
  readonly work: NonNullable<Risk['work']>[number]
  /** Id of the activity that stands for it. */
  readonly id: string
}

/** Ids that no activity of a plan has. */
const idOf = (risk: Risk, k: number): string => `\u0000${risk.id}\u0000${k}`

/** What a risk brings, with the ids that stand for it in a network. */
export const worksOf = (risk: Risk): RiskWork[] =>
  (risk.work ?? []).map((work, k): RiskWork => ({ risk, work, id: idOf(risk, k) }))

/**
 * The plan with the work of its risks as activities at the end of the list, each between the two that it stands between by plain FS, on the
 * calendar of the first.
 */
export const withRiskWork = (plan: Plan): { readonly plan: Plan; readonly works: readonly RiskWork[] } => {
  const works = plan.risks.flatMap(worksOf)
  if (works.length === 0) return { plan, works }
  const byId = new Map(plan.activities.map((activity) => [activity.id, activity]))
  const activities = works.map(({ risk, work, id }): Activity => {
    // Like the work it comes after, but nothing of that work's own.
    const after = byId.get(work.after)!
    const progress = { ...after.progress, actualStart: null, actualFinish: null, remaining: null, percent: 0 }
    return {
      ...after,
      id,
      code: risk.code || risk.id,
      name: risk.name,
      kind: 'work',
      duration: work.duration.likely,
      place: 'early',
      constraints: [],
      progress: { ...progress, suspended: [] },
      promise: null,
    }
  })
  const links = works.flatMap(({ work, id }): Link[] => [
    newLink({ id: `${id}\u0000in`, from: work.after, to: id, type: 'FS', lag: 0 }),
    newLink({ id: `${id}\u0000out`, from: id, to: work.before, type: 'FS', lag: 0 }),
  ])
  return {
    plan: { ...plan, activities: [...plan.activities, ...activities], links: [...plan.links, ...links] },
    works,
  }
}
