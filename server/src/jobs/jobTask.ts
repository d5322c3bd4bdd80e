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
    | { readonly name: 'seek'; readonly memory: Int32Array; readonly range: UnitRange }
    | { readonly name: 'sought'; readonly memory: Int32Array; readonly done: number }
    | { readonly name: 'look'; readonly memory: unknown; readonly kind: LookKind; readonly question: unknown }
}

/** A plan as bytes that every worker can read without a copy. */
export const sharedJson = (plan: Plan): SharedArrayBuffer => {
  const bytes = Buffer.from(JSON.stringify(plan), 'utf8')
  const shared = new SharedArrayBuffer(bytes.length)
  Buffer.from(shared).set(bytes)
  return shared
}

/** What was made ready for the jobs that were lately worked on, as many as run beside each other. */
const READY_KEPT = 4
const ready = new Map<string, unknown>()

/** @param make - what is made ready once for all steps of a job that need it */
const readyFor = <T>({ job, plan }: JobTask, what: string, make: (plan: Plan) => T): T => {
  const key = `${job} ${what}`
  if (!ready.has(key)) {
    ready.set(key, make(JSON.parse(Buffer.from(new Uint8Array(plan)).toString('utf8')) as Plan))
    if (ready.size > READY_KEPT) ready.delete(ready.keys().next().value!)
  }
  return ready.get(key) as T
}

export default (task: JobTask): unknown => {
  const kind = JOB_KINDS[task.kind]
  const { step, input } = task
  if (step.name === 'seek' || step.name === 'sought') {
    const seeking = readyFor(task, 'seek', (plan) => kind.seek!.run(plan, input))
    if (step.name === 'seek') return seeking.range(step.memory, step.range)
    const { memory, done } = step
    return { found: seeking.found(memory, done), partial: seeking.partial(memory, done) }
  }
  const model = readyFor(task, 'model', (plan) => kind.prepare(plan, input))
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
