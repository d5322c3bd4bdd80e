import type { Link, Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { sortByAcceptance, type Accepted, type Reopened } from './acceptance.ts'
import type { Check, Finding } from './check.ts'
import { ReviewContext } from './context.ts'
import { measureEffects } from './effects.ts'
import { fingerprintOf, shortPlace } from './fingerprint.ts'
import { limitsOf, type Limits, type Preset } from './limits.ts'
import { CHECKS } from './registry.ts'

export interface Review {
  /** What is open, by its effect, the greatest first. */
  readonly findings: readonly Finding[]
  readonly accepted: readonly Accepted[]
  /** Open findings that had been accepted on other facts, by fingerprint. */
  readonly reopened: Readonly<Record<string, Reopened>>
  /** Number of open findings by check, zeros included. */
  readonly counts: Readonly<Record<string, number>>
  readonly limits: Limits
}

export interface ReviewOptions {
  readonly preset?: Preset
  readonly checks?: readonly Check[]
  /** So many plans are scheduled at most to measure effects; the rest stay `unmeasured`. All by default. */
  readonly experiments?: number
  /** Links that were removed lately, in that order: an open end offers them again. */
  readonly removedLinks?: readonly Link[]
}

/** Runs every check; findings with the greatest effect on the finish first. Pure; see bench for its cost. */
export const review = (
  plan: Plan,
  scheduled: Schedule,
  { preset, checks = CHECKS, experiments, removedLinks }: ReviewOptions = {},
): Review => {
  const limits = limitsOf(CHECKS, plan, preset)
  const all = findAll(checks, new ReviewContext(plan, scheduled, limits, removedLinks))
  const { open, accepted, reopened } = sortByAcceptance(plan, all)
  const counts: Record<string, number> = {}
  for (const check of checks) counts[check.id] = 0
  for (const finding of open) counts[finding.check]!++
  return {
    findings: ranked(measureEffects(plan, scheduled, open, experiments)),
    accepted,
    reopened,
    counts,
    limits,
  }
}

const findAll = (checks: readonly Check[], context: ReviewContext): Finding[] => {
  const findings: Finding[] = []
  for (const check of checks)
    for (const found of check.find(context)) {
      const place = shortPlace(found.place)
      // What a check finds is its own and new: it is completed rather than copied.
      const finding = Object.assign(found, {
        place,
        check: check.id,
        topic: check.topic,
        effect: found.effect ?? ({ kind: found.without ? 'unmeasured' : 'unknown' } as const),
        fingerprint: fingerprintOf(place, found.facts),
      })
      findings.push(finding)
    }
  return findings
}

/** What moves the answer first, then by known effect; an unknown effect stands above none. Stable. */
export const ranked = (findings: readonly Finding[]): Finding[] =>
  [...findings].sort((a, b) => weightOf(b) - weightOf(a))

export const weightOf = ({ effect, severity }: Pick<Finding, 'effect' | 'severity'>): number => {
  const size = 'minutes' in effect ? Math.min(Math.abs(effect.minutes), TIER - 1) : 0
  return (severity === 'moves-answer' ? 10 * TIER : 0) + RANK[effect.kind] * TIER + size
}
const TIER = 1e8
/** What moves the finish stands above what misses a date of its own, that above what does not show yet. */
const RANK: Readonly<Record<Finding['effect']['kind'], number>> = {
  finish: 6,
  short: 6,
  missed: 5,
  hides: 4,
  float: 3,
  forecast: 3,
  day: 2,
  unmeasured: 1,
  unknown: 1,
  none: 0,
}
