export { chainReport, type ChainReport } from './chainReport.ts'
export { chainSettings, focusedDuration, isChainWork } from './focused.ts'
// Agreed, lived with, tested
export { agreement } from './agree.ts'
export { currentChain, thresholdAt, type BufferState, type CurrentChain, type Use } from './currentChain.ts'
export { feverPoints, type FeverPoint } from './fever.ts'
export { chainTest, type BufferTest } from './chainTest.ts'
export { chainChanges } from './chainChanges.ts'
// Of several plans
export { drumOf, stagger, type DrumWork, type Staggered, type StaggeredPlan } from './stagger.ts'
