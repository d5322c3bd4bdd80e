// The review of a plan, and its checks
export { CHECKS, review, type Review } from './review.ts'
export type { Check, Effect, Finding, Repair, Severity, Topic } from './check.ts'
