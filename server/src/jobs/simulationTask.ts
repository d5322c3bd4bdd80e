import {
  fiftyDots,
  instantOf,
  joinRanges,
  percentileSorted,
  formatInstant,
  schedule,
  shareAtOrBelow,
  runIterations,
  simulationModel,
  summarise,
  type IterationRange,
  type PartialResult,
  type RunResult,
  type Plan,
  type SimulationModel,
  type SimulationOptions,
} from '@geodrome/core'

/** What runs inside a worker thread: ranges of iterations, and the summary of all of them. */

export type SimulationTask =
  | {
      readonly kind: 'range'
      readonly key: string
      readonly plan: SharedArrayBuffer
      readonly options: SimulationOptions
      readonly from: number
      readonly to: number
    }
  | {
      readonly kind: 'summary'
      readonly key: string
      readonly plan: SharedArrayBuffer
      readonly options: SimulationOptions
      readonly ranges: readonly IterationRange[]
    }

/** A plan as bytes that every worker can read without a copy. */
export const shareableText = (text: string): SharedArrayBuffer => {
  const bytes = Buffer.from(text, 'utf8')
  const shared = new SharedArrayBuffer(bytes.length)
  Buffer.from(shared).set(bytes)
  return shared
}

let latest: { key: string; model: SimulationModel } | null = null

/** The model of a run is made once in each worker. */
const modelOf = (task: SimulationTask): SimulationModel => {
  if (latest?.key !== task.key) {
    const plan = JSON.parse(Buffer.from(new Uint8Array(task.plan)).toString('utf8')) as Plan
    latest = { key: task.key, model: simulationModel(plan, task.options) }
  }
  return latest.model
}

const requiredOf = ({ project }: Plan): number | null =>
  project.requiredFinish === null ? null : instantOf(project.requiredFinish, 'finish')

export default (task: SimulationTask): IterationRange | Omit<RunResult, 'revision' | 'scenario'> => {
  const model = modelOf(task)
  if (task.kind === 'range') return runIterations(model, task.from, task.to)
  const all = joinRanges(task.ranges)
  const sorted = all.finish.slice().sort()
  const required = requiredOf(model.network.plan)
  return {
    ...summarise(model, all),
    risks: task.options.risks,
    dots: fiftyDots(sorted),
    required: required === null ? null : formatInstant(required),
    requiredProbability: required === null ? null : shareAtOrBelow(sorted, required),
    finishes: Buffer.from(all.finish.buffer, all.finish.byteOffset, all.finish.byteLength).toString('base64'),
  }
}

export const plannedFinish = (plan: Plan): number => schedule(plan).projectFinish

/** @param finishes - of the iterations so far, at least one */
export const partialResult = (finishes: Int32Array, planned: number): PartialResult => {
  const sorted = finishes.slice().sort()
  return {
    dots: fiftyDots(sorted),
    percentiles: Object.fromEntries(
      [10, 20, 30, 40, 50, 60, 70, 80, 90].map((p) => [
        String(p),
        formatInstant(percentileSorted(sorted, p)),
      ]),
    ),
    plannedProbability: shareAtOrBelow(sorted, planned),
  }
}
