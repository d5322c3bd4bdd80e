import type { Plan } from '../plan/schema.ts'
import type { Check } from './check.ts'
import { CHECKS } from './registry.ts'
import type { Review } from './review.ts'

/** What became of the checks that found nothing that is open. */
export interface Verdicts {
  /** Nothing found, and nothing accepted. */
  readonly clean: readonly Check[]
  /** Nothing to look at, by what the plan has none of. */
  readonly untested: readonly { readonly lacks: string; readonly checks: readonly Check[] }[]
}

/** @param counts - open findings by check */
export const verdictsOf = (
  plan: Plan,
  { counts, accepted }: Pick<Review, 'counts' | 'accepted'>,
): Verdicts => {
  const acceptedOf = new Set(accepted.map(({ finding }) => finding.check))
  const clean: Check[] = []
  const untested = new Map<string, Check[]>()
  for (const check of CHECKS) {
    if (counts[check.id] !== 0 || acceptedOf.has(check.id)) continue
    const lacks = check.lacks?.(plan) ?? null
    if (lacks === null) clean.push(check)
    else untested.set(lacks, [...(untested.get(lacks) ?? []), check])
  }
  return { clean, untested: [...untested].map(([lacks, checks]) => ({ lacks, checks })) }
}
