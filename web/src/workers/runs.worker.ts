import { runDifferences, type ComparedRun, type RunDifference } from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

/** What differs between two runs, and what each difference does to a percentile of the earlier; one after the other. */
export interface RunsQuestion {
  readonly before: ComparedRun
  readonly after: ComparedRun
  readonly percent: number
}

serveLongWork<RunsQuestion, RunDifference>(({ before, after, percent }, say) => {
  for (const difference of runDifferences(before, after, percent)) say(difference)
})
