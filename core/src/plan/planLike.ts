import { copiesOfCalendars } from './calendarCopies.ts'
import type { Plan, Resource } from './schema.ts'

/** What a new plan takes from an earlier one, beside its calendars, currency, kept views, the parts of its report and its words for risks. */
export interface TakenFromPlan {
  readonly groups: boolean
  /** With their prices and calendars, and as much as there was of them at last. */
  readonly resources: boolean
  /** Limits of Review, floats that count as critical, weighting, house rule for names. */
  readonly limits: boolean
}

/** Facts of a new plan. */
export interface NewPlanFacts {
  readonly name: string
  readonly code: string
  readonly start: string
  readonly requiredFinish: string | null
}

/** A plan file without activities that begins with what an earlier plan has; nothing of it leads back to that plan but its calendars' origin. */
export const planLike = (
  { id, plan }: { readonly id: string; readonly plan: Plan },
  take: TakenFromPlan,
  facts: NewPlanFacts,
): object => {
  const { project, calendars, groups, views, resources } = plan
  const { report, riskScale, criticalFloat, nearCriticalFloat, outOfSequence, weighting, naming, review } =
    project
  return {
    format: 'geodrome-plan',
    version: 1,
    project: {
      ...facts,
      calendar: project.calendar,
      currency: project.currency,
      lagOn: project.lagOn,
      ...(report && { report }),
      ...(riskScale && { riskScale }),
      ...(take.limits && {
        criticalFloat,
        nearCriticalFloat,
        outOfSequence,
        weighting,
        ...(naming && { naming }),
        ...(review && { review }),
      }),
    },
    calendars: copiesOfCalendars({ planId: id, plan: project.name, calendars }),
    groups: take.groups ? groups : [],
    resources: take.resources ? resources.map(withoutDates) : [],
    views,
  }
}

/** A resource of which there is, from the beginning, what there was at last; steps of other years mean nothing in a new plan. */
const withoutDates = (resource: Resource): Resource => {
  const last = resource.available.findLast(({ amount }) => amount > 0) ?? resource.available.at(-1)
  return { ...resource, available: last === undefined ? [] : [{ from: null, amount: last.amount }] }
}
