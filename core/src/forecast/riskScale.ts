import type { Change } from '../plan/change.ts'
import type { DayLengths } from '../plan/durations.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Plan, Risk } from '../plan/schema.ts'

/** A word for how likely a risk is. */
export interface ChanceStep {
  readonly name: string
  /** Share of iterations, 0 to 1. */
  readonly value: number
}
/** A word for how far a risk reaches, in days of the calendar of what it falls on. */
export interface DelayStep {
  readonly name: string
  readonly low: number
  readonly likely: number
  readonly high: number
}
/** Words that stand for figures in the risk register. */
export interface RiskScale {
  readonly chances: readonly ChanceStep[]
  readonly delays: readonly DelayStep[]
}

/** What a plan that says nothing of it has; each plan may have others. */
export const HOUSE_SCALE: RiskScale = {
  chances: [
    { name: 'rare', value: 0.05 },
    { name: 'unlikely', value: 0.2 },
    { name: 'possible', value: 0.4 },
    { name: 'likely', value: 0.65 },
    { name: 'nearly certain', value: 0.9 },
  ],
  delays: [
    { name: 'slight', low: 0.5, likely: 1, high: 2 },
    { name: 'small', low: 1, likely: 2, high: 4 },
    { name: 'medium', low: 2, likely: 5, high: 8 },
    { name: 'large', low: 5, likely: 10, high: 16 },
    { name: 'severe', low: 10, likely: 20, high: 40 },
  ],
}

export const riskScaleOf = ({ project }: Pick<Plan, 'project'>): RiskScale => project.riskScale ?? HOUSE_SCALE

const isSame = (a: number, b: number): boolean => Math.abs(a - b) < 1e-9

/** The word for a chance; null where it is none of the scale's. */
export const chanceStep = ({ chances }: RiskScale, share: number): ChanceStep | null =>
  chances.find(({ value }) => isSame(value, share)) ?? null

type Range = Pick<DelayStep, 'low' | 'likely' | 'high'>

/** Working minutes of a step of delays, on a calendar. */
export const delayMinutes = (
  { low, likely, high }: Range,
  { dayMinutes }: Pick<DayLengths, 'dayMinutes'>,
): Range => ({
  low: Math.round(low * dayMinutes),
  likely: Math.round(likely * dayMinutes),
  high: Math.round(high * dayMinutes),
})

/** The word for a delay in working minutes; null where it is none of the scale's. */
export const delayStep = (
  { delays }: RiskScale,
  delay: Range,
  lengths: Pick<DayLengths, 'dayMinutes'>,
): DelayStep | null =>
  delays.find((step) => {
    const { low, likely, high } = delayMinutes(step, lengths)
    return low === delay.low && likely === delay.likely && high === delay.high
  }) ?? null

/** The step whose name, or the only one whose beginning, somebody typed. */
export const namedStep = <T extends { readonly name: string }>(
  steps: readonly T[],
  typed: string,
): T | null => {
  const words = typed.trim().toLowerCase().replace(/\s+/g, ' ')
  if (words === '') return null
  const exact = steps.find(({ name }) => name.toLowerCase() === words)
  if (exact) return exact
  const begun = steps.filter(({ name }) => name.toLowerCase().startsWith(words))
  return begun.length === 1 ? begun[0]! : null
}

/** A change of a scale, and how many figures of the register go along with their words. */
export interface ScaleChange {
  readonly change: Change
  readonly moves: number
}

/**
 * Other words or figures at a step of the scale of chances: risks, and mitigations, that were as likely as that word go on being so.
 * @param at - position; at the end of the scale it is added
 * @param step - null: the step goes, the figures stay
 */
export const setChanceStep = (plan: Plan, at: number, step: ChanceStep | null): ScaleChange => {
  const scale = riskScaleOf(plan)
  const was = scale.chances[at]
  const moved =
    was && step && !isSame(was.value, step.value)
      ? plan.risks.flatMap((risk): Change[] => {
          const set: Record<string, unknown> = {}
          if (isSame(risk.probability, was.value)) set.probability = step.value
          if (risk.mitigation && isSame(risk.mitigation.probability, was.value))
            set.mitigation = { ...risk.mitigation, probability: step.value }
          return Object.keys(set).length === 0 ? [] : [{ kind: 'set', list: 'risks', key: risk.id, set }]
        })
      : []
  return changeOf({ ...scale, chances: put(scale.chances, at, step) }, moved)
}

/** The same of the scale of delays. */
export const setDelayStep = (plan: Plan, at: number, step: DelayStep | null): ScaleChange => {
  const scale = riskScaleOf(plan)
  const was = scale.delays[at]
  const moved =
    was &&
    step &&
    !(isSame(was.low, step.low) && isSame(was.likely, step.likely) && isSame(was.high, step.high))
      ? plan.risks.flatMap((risk): Change[] => {
          const impacts = impactsWith(plan, risk, was, step)
          return impacts === null ? [] : [{ kind: 'set', list: 'risks', key: risk.id, set: { impacts } }]
        })
      : []
  return changeOf({ ...scale, delays: put(scale.delays, at, step) }, moved)
}

/** The impacts of a risk with those that were as far as one step as far as another; null where none was. */
const impactsWith = (plan: Plan, risk: Risk, was: DelayStep, step: DelayStep): Risk['impacts'] | null => {
  let isMoved = false
  const impacts = risk.impacts.map((impact) => {
    const activity = plan.activities.find(({ id }) => id === impact.activity)
    if (!activity) return impact
    const lengths = lengthsOf(plan, calendarOf(plan.project, activity))
    if (delayStep({ chances: [], delays: [was] }, impact.delay, lengths) === null) return impact
    isMoved = true
    return { ...impact, delay: { ...impact.delay, ...delayMinutes(step, lengths) } }
  })
  return isMoved ? impacts : null
}

const put = <T>(steps: readonly T[], at: number, step: T | null): T[] => {
  const next = [...steps]
  next.splice(at, 1, ...(step === null ? [] : [step]))
  return next
}

const changeOf = (riskScale: RiskScale, moved: readonly Change[]): ScaleChange => ({
  change: { kind: 'all', changes: [{ kind: 'project', set: { riskScale } }, ...moved] },
  moves: moved.length,
})
