import type { Bias } from './check.ts'

/** Which forecast errs, and which way: "A forecast comes out too early", "PERT may err either way". */
export const biasWords = ({ of, direction }: Bias): string =>
  direction === 'either way'
    ? `${of ?? 'A forecast'} may err either way`
    : `${of ?? 'A forecast'} comes out ${direction}`
