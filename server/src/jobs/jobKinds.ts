import type { RunKind } from '@geodrome/core'
import type { AnyJobKind } from './jobKind.ts'
import { owedJob } from './owedJob.ts'
import { simulationJob } from './simulationJob.ts'

/** Every kind of run and what does it. */
export const JOB_KINDS: Readonly<Record<RunKind, AnyJobKind>> = {
  simulation: simulationJob,
  owed: owedJob,
}
