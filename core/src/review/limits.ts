import type { Plan } from '../plan/schema.ts'

/** The measure beyond which something is found; everyone may set it otherwise. */
export interface LimitRule {
  readonly default: number
  readonly unit: 'days' | 'share' | 'count'
  /** Before and after the figure: "lags longer than", "of working time". */
  readonly label: string
  readonly min: number
  readonly max: number
  /** Why the default is what it is. */
  readonly reason: string
}

/** The limit of each check that has one, by its id, in the unit of its rule. */
export type Limits = Readonly<Record<string, number>>

/** Limits of the public 14-point assessment where they differ from the house's. */
const FOURTEEN_POINT: Limits = {
  'high-float': 44,
  'long-duration': 44,
  'long-lag': 0,
  'few-finish-starts': 0.9,
}
export const PRESETS = ['house', '14-point', 'own'] as const
export type Preset = (typeof PRESETS)[number]

/** The limits in force: the preset's, with the plan's own on top where it has some. Values out of range are left out. */
/** @param checks - what has limits, by id */
export const limitsOf = (
  checks: readonly { readonly id: string; readonly limit: LimitRule | null }[],
  plan: Plan,
  preset?: Preset,
): Limits => {
  const chosen = preset ?? plan.project.review?.preset ?? 'house'
  const own = chosen === 'own' ? (plan.project.review?.limits ?? {}) : {}
  const limits: Record<string, number> = {}
  for (const { id, limit } of checks) {
    if (!limit) continue
    const preferred = chosen === '14-point' ? FOURTEEN_POINT[id] : own[id]
    limits[id] =
      preferred !== undefined && limitProblem(limit, preferred) === null ? preferred : limit.default
  }
  return limits
}

/** Why a limit cannot be set to a value; null if it can. */
export const limitProblem = (rule: LimitRule, value: number): string | null => {
  const shown = rule.unit === 'share' ? 100 : 1
  if (!Number.isFinite(value)) return 'a limit is a number'
  if (rule.unit === 'count' && !Number.isInteger(value)) return 'a count is a whole number'
  if (value < rule.min || value > rule.max)
    return `give a figure from ${rule.min * shown} to ${rule.max * shown}`
  return null
}
