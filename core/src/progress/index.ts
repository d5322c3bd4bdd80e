export { baselineOf, frozenBy, type Frozen } from './baselines.ts'
export { BASELINE_INKS, basisOf, freeze, type BaselineWords } from './freeze.ts'
export { goneSince, varianceOf, type Variance } from './variance.ts'
export { varianceReport, type VarianceReport } from './varianceReport.ts'
