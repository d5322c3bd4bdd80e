import { compileNetwork, explain, readPlan, review, runIterations, schedule, scheduleNetwork, simulationModel, applyChange } from '@geodrome/core'
import { generateFile, generatePlan } from './generate.ts'
import { measure, report } from './measure.ts'

/** Prints the figures of the architecture's table that exist so far, each beside its budget. `--scope part` runs the lines that contain it. */
const at = process.argv.indexOf('--scope')
const scope = at < 0 ? '' : process.argv[at + 1]!
const line = (what: string, budget: number, prepare: () => () => unknown, rounds?: number): void => {
  if (!what.includes(scope)) return
  report(what, measure(prepare(), rounds), budget)
}

console.log(`node ${process.version}, median of repeated runs (fastest … slowest)\n`)
for (const [n, pass, preparation] of [[10_000, 5, 6], [100_000, 40, 70]] as const) {
  const plan = generatePlan(n)
  const network = compileNetwork(plan)
  line(`schedule: both passes and floats, ${n.toLocaleString('en')} activities`, pass, () => () => scheduleNetwork(network))
  line(`schedule: preparation, ${n.toLocaleString('en')} activities`, preparation, () => () => compileNetwork(plan))
}
const plan = generatePlan(10_000)
const made = schedule(plan)
line('edit: change, check, prepare and schedule, 10,000 activities', 50, () => () => schedule(applyChange(plan, { kind: 'set', list: 'activities', key: 'a5000', set: { duration: 1000 } }).plan))
line('explanation of one activity, 10,000 activities', 2, () => () => explain(made, 'a5000'))
line('review, 10,000 activities', 60, () => () => review(plan, made), 5)
line('simulation: 200 activities × 10,000 iterations, one thread', 600, () => {
  const model = simulationModel(generatePlan(200), { iterations: 10_000, seed: 1, sampling: 'lhs', risks: true })
  return () => runIterations(model, 0, 10_000)
}, 3)
line('import: read a plan file of 10,000 activities', 3000, () => {
  const file = generateFile(10_000)
  return () => readPlan(file)
}, 5)
