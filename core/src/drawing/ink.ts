import { NONE } from '../network/network.ts'

/** Less float, more ink: how full a capsule is drawn. */
export type Ink = 'solid' | 'hatch' | 'outline' | 'stone' | 'short'

export const inkOf = (
  totalFloat: number,
  state: number,
  limits: { readonly criticalFloat: number; readonly nearCriticalFloat: number },
): Ink => {
  if (state === 2) return 'stone'
  if (totalFloat === NONE) return 'outline'
  if (totalFloat < 0) return 'short'
  if (totalFloat <= limits.criticalFloat) return 'solid'
  return totalFloat <= limits.nearCriticalFloat ? 'hatch' : 'outline'
}
