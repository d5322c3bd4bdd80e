// Two revisions of one network
export { compareRevisions, type RevisionComparison } from './compareRevisions.ts'
export { DIFFERENCE_KINDS, type Difference, type DifferenceKind } from './difference.ts'
export { matchRevisions, type Matched, type Matching } from './matchRevisions.ts'
export { comparisonReport, type ComparisonReport } from './comparisonReport.ts'
export { runDifferences, type ComparedRun, type RunDifference } from './runDifferences.ts'
