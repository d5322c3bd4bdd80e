import { owedOf, owedRun, owedUnits, runOwed, tableNumbers, type OwedRun } from '@geodrome/core'
import { jobKind, type UnitRange } from './jobKind.ts'
import { inScenario } from './simulationJob.ts'

interface Prepared {
  readonly run: OwedRun
  readonly percent: number
}

/** Days owed: iterations of the run with everything and of one without each driver are the units, their finishes the memory. */
export const owedJob = jobKind<'owed', Prepared, Int32Array>({
  total: ({ drivers, iterations }) => owedUnits(drivers.length, iterations),
  subject: (plan, { scenario }) => inScenario(plan, scenario),
  weight: (_, { drivers, iterations }) => tableNumbers(drivers.length + 1, iterations),
  prepare: (plan, { percent, drivers, ...options }) => ({ run: owedRun(plan, options, drivers), percent }),
  memory: ({ run }) =>
    new Int32Array(new SharedArrayBuffer(4 * owedUnits(run.drivers.length, run.iterations))),
  run: ({ run }, finish, { from, to }) => runOwed(run, finish, from, to),
  partial: ({ run, percent }, finish, ranges) => ({
    owed: owedOf(run, finish, percent, (slot) => isCovered(ranges, slot, run.iterations)),
  }),
  summary: ({ run, percent }, finish) => ({ owed: owedOf(run, finish, percent) }),
})

/** Whether all units of one run have been gone through. */
const isCovered = (ranges: readonly UnitRange[], slot: number, iterations: number): boolean => {
  const [begin, end] = [slot * iterations, (slot + 1) * iterations]
  const gone = ranges.reduce(
    (sum, { from, to }) => sum + Math.max(0, Math.min(to, end) - Math.max(from, begin)),
    0,
  )
  return gone === iterations
}
