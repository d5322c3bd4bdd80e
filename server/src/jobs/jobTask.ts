import type { LookKind, Plan, RunInput, RunKind } from '@geodrome/core'
import { JOB_KINDS } from './jobKinds.ts'
import type { UnitRange } from './jobKind.ts'

/** What runs inside a worker thread: one step of a job of any kind. */
export interface JobTask {
  readonly job: string
  readonly kind: RunKind
  /** The plan as JSON in shared memory, see {@link sharedJson}. */
  readonly plan: SharedArrayBuffer
  readonly input: RunInput
  readonly step:
    | { readonly name: 'memory' }
    | { readonly name: 'run'; readonly memory: unknown; readonly range: UnitRange }
    | { readonly name: 'partial'; readonly memory: unknown; readonly ranges: readonly UnitRange[] }
    | { readonly name: 'summary'; readonly memory: unknown }
    | { readonly name: 'look'; readonly memory: unknown; readonly kind: LookKind; readonly question: unknown }
}

/** A plan as bytes that every worker can read without a copy. */
export const sharedJson = (plan: Plan): SharedArrayBuffer => {
  const bytes = Buffer.from(JSON.stringify(plan), 'utf8')
  const shared = new SharedArrayBuffer(bytes.length)
  Buffer.from(shared).set(bytes)
  return shared
}

/** Models of the jobs that were lately worked on, as many as run beside each other. */
const MODELS_KEPT = 4
const models = new Map<string, unknown>()

const modelOf = ({ job, kind, plan, input }: JobTask): unknown => {
  if (!models.has(job)) {
    const read = JSON.parse(Buffer.from(new Uint8Array(plan)).toString('utf8')) as Plan
    models.set(job, JOB_KINDS[kind].prepare(read, input))
    if (models.size > MODELS_KEPT) models.delete(models.keys().next().value!)
  }
  return models.get(job)
}

export default (task: JobTask): unknown => {
  const kind = JOB_KINDS[task.kind]
  const model = modelOf(task)
  const { step } = task
  switch (step.name) {
    case 'memory':
      return kind.memory(model)
    case 'run':
      return kind.run(model, step.memory, step.range)
    case 'partial':
      return kind.partial(model, step.memory, step.ranges)
    case 'summary':
      return kind.summary(model, step.memory)
    case 'look':
      return kind.look?.(model, step.memory, step.kind, step.question)
  }
}
