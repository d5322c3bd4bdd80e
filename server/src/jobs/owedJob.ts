import {
  ITERATIONS_TOGETHER,
  owedNumbers,
  owedOf,
  owedRun,
  runOwed,
  tableNumbers,
  type OwedRun,
} from '@geodrome/core'
import { jobKind } from './jobKind.ts'
import { inScenario } from './simulationJob.ts'

interface Prepared {
  readonly run: OwedRun
  readonly percent: number
}

/** Days owed: iterations of all its runs at once are the units, their finishes the memory; so all figures grow together. */
export const owedJob = jobKind<'owed', Prepared, Int32Array>({
  total: ({ iterations }) => iterations,
  subject: (plan, { scenario }) => inScenario(plan, scenario),
  weight: (_, { drivers, iterations }) => tableNumbers(drivers.length + 1, iterations),
  together: ITERATIONS_TOGETHER,
  prepare: (plan, { percent, drivers, ...options }) => ({ run: owedRun(plan, options, drivers), percent }),
  memory: ({ run }) =>
    new Int32Array(new SharedArrayBuffer(4 * owedNumbers(run.drivers.length, run.iterations))),
  run: ({ run }, finish, { from, to }) => runOwed(run, finish, from, to),
  partial: ({ run, percent }, finish, ranges) => ({ owed: owedOf(run, finish, percent, ranges) }),
  summary: ({ run, percent }, finish) => ({ owed: owedOf(run, finish, percent) }),
})
