import type { Bias, Finding } from './check.ts'
import { checkOf } from './registry.ts'
import type { Review } from './review.ts'

/** What would distort a forecast: a kind of finding, how often, and which way the forecast errs for it. */
export interface Distortion {
  readonly check: string
  readonly title: string
  readonly count: number
  readonly bias: Bias
  /** Whether any of them moves the answer. */
  readonly isHeavy: boolean
}

export interface Fitness {
  /** `fit`: nothing found distorts a forecast; `with care`: something does, but does not move the answer; `not fit`: something moves it. */
  readonly verdict: 'fit' | 'with care' | 'not fit'
  readonly distortions: readonly Distortion[]
  /** Accepted findings distort as much as open ones; they are counted, and named apart. */
  readonly accepted: readonly Distortion[]
}

/** Whether a network can be forecast, and what to expect of the forecast if it is made all the same. */
export const fitness = ({ findings, accepted }: Pick<Review, 'findings' | 'accepted'>): Fitness => {
  const distortions = distortionsOf(findings)
  return {
    verdict: verdictOf(distortions),
    distortions,
    accepted: distortionsOf(accepted.map((a) => a.finding)),
  }
}
const verdictOf = (distortions: readonly Distortion[]): Fitness['verdict'] =>
  distortions.some((d) => d.isHeavy) ? 'not fit' : distortions.length > 0 ? 'with care' : 'fit'

/** The same for simulation: what only PERT leaves out does not bend it. */
export const fitnessOfSimulation = ({ distortions, accepted }: Fitness): Fitness => {
  const bends = ({ bias }: Distortion): boolean => bias.of === undefined
  const left = distortions.filter(bends)
  return { verdict: verdictOf(left), distortions: left, accepted: accepted.filter(bends) }
}

const distortionsOf = (findings: readonly Finding[]): Distortion[] => {
  const byCheck = new Map<string, Distortion>()
  for (const { check, severity } of findings) {
    const known = checkOf(check)
    if (!known?.bias) continue
    const before = byCheck.get(check)
    byCheck.set(check, {
      check,
      title: known.title,
      bias: known.bias,
      count: (before?.count ?? 0) + 1,
      isHeavy: (before?.isHeavy ?? false) || severity === 'moves-answer',
    })
  }
  return [...byCheck.values()].sort((a, b) => Number(b.isHeavy) - Number(a.isHeavy))
}
