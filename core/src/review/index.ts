// The review of a plan, and its checks
export { review, ranked, weightOf, type Review, type ReviewOptions } from './review.ts'
export { CHECKS, checkOf } from './registry.ts'
export { verdictsOf, type Verdicts } from './verdicts.ts'
export {
  TOPICS,
  type Bias,
  type Check,
  type Effect,
  type Finding,
  type Repair,
  type Severity,
  type Topic,
} from './check.ts'
export { limitProblem, limitsOf, PRESETS, type LimitRule, type Limits, type Preset } from './limits.ts'
export { limitWords } from './limitWords.ts'
export type { Facts } from './fingerprint.ts'
export { measureEffects, finishMovesBy } from './effects.ts'
export { biasWords } from './biasWords.ts'
export { EFFECT_SOURCE, effectWords, movesWords } from './effectWords.ts'
// Accepting with a reason
export { accept, withdrawAcceptance, type Accepted, type Reopened } from './acceptance.ts'
// Repairs, looked at before they are made
export { foresee, type Foresight } from './foresight.ts'
export { repairAll, type RepairedAll } from './repairAll.ts'
// Proof that delays arrive, the public assessment, and whether to forecast
export {
  INTEGRITY_DELAY_DAYS,
  integrityCandidates,
  integrityTest,
  type IntegrityTest,
  type Swallow,
} from './integrity.ts'
export {
  fourteenPoints,
  POINT_LIMITS,
  pointLimitProblem,
  type FourteenPoints,
  type Point,
} from './fourteenPoint.ts'
export { fitness, fitnessOfSimulation, type Distortion, type Fitness } from './fitness.ts'
// The shape of the network
export { networkShape, type NetworkShape } from './shape.ts'
// Reviews that are kept, and what changed since
export { keepReview, trendSince, type Trend } from './record.ts'
