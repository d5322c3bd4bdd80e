import type { ThreePoint } from '@geodrome/core'

/** The shape of an estimate with what its ends are, as one choice; a lognormal's ends are percentiles whatever is said. */
const WAYS = [
  ['pert', 'extremes', 'beta (PERT)'],
  ['pert', 'p10p90', 'beta, 10–90 %'],
  ['triangular', 'extremes', 'triangular'],
  ['triangular', 'p10p90', 'triangular, 10–90 %'],
  ['uniform', 'extremes', 'uniform'],
  ['uniform', 'p10p90', 'uniform, 10–90 %'],
  ['lognormal', 'p10p90', 'lognormal, 10–90 %'],
  ['fixed', 'extremes', 'fixed at likely'],
] as const
type Way = Pick<ThreePoint, 'shape' | 'ends'>

export const WAY_CHOICES = WAYS.map(([shape, ends, label]) => ({ value: `${shape} ${ends}`, label }))
export const wayOf = ({ shape, ends }: Way): string =>
  WAYS.filter((way) => way[0] === shape).length === 1
    ? `${shape} ${WAYS.find((way) => way[0] === shape)![1]}`
    : `${shape} ${ends}`
export const wayNamed = (value: string): Way => {
  const [shape, ends] = WAYS.find(([one, other]) => `${one} ${other}` === value)!
  return { shape, ends }
}

/** Shapes alone, of what is a factor and has extremes. */
export const SHAPES = WAYS.filter(([shape, ends]) => ends === 'extremes' || shape === 'lognormal').map(
  ([shape, , label]) => ({ value: shape, label }),
)
