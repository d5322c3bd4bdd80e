import type { LookKind, Plan, RunInput, RunKind, RunPartial, RunResult } from '@geodrome/core'

/** A range of units of work: from … to − 1. */
export interface UnitRange {
  readonly from: number
  readonly to: number
}

/**
 * A kind of long work. A job is cut into ranges of units; any number of workers run them, in any order, into one memory that they
 * share. Everything but `total`, `subject` and `weight` runs in a worker thread.
 * @typeParam Model what is made ready once in each worker
 * @typeParam Memory what the ranges write into: typed arrays over shared memory
 */
export interface JobKind<K extends RunKind, Model, Memory> {
  /** Units of work, in which progress is counted. */
  total(input: RunInput<K>): number
  /** The plan that the job is about. @throws NotFoundError if what it asks for is not in the plan */
  subject(plan: Plan, input: RunInput<K>): Plan
  /** How much the job holds in memory, in numbers. @throws RangeError if that is more than there is room for */
  weight(plan: Plan, input: RunInput<K>): number
  /** Units that are quickest run together: ranges are of whole multiples. */
  readonly together: number
  prepare(plan: Plan, input: RunInput<K>): Model
  memory(model: Model): Memory
  run(model: Model, memory: Memory, range: UnitRange): void
  /** What is shown while it grows. @param ranges - what has been run so far, at least one */
  partial(model: Model, memory: Memory, ranges: readonly UnitRange[]): RunPartial<K>
  summary(model: Model, memory: Memory): RunResult<K>
  /** Of a kind whose jobs may find by themselves how many units they take. */
  readonly seek?: Seek<K>
  /** What is asked of a job that has ended, where anything is. @throws RangeError for what it does not have */
  look?(model: Model, memory: Memory, kind: LookKind, question: unknown): unknown
}

/** How a job finds how many units it takes: by something of each unit that takes little room, before all of it is kept. */
interface Seek<K extends RunKind> {
  isAsked(input: RunInput<K>): boolean
  /** The job with as many units as it may have. */
  most(plan: Plan, input: RunInput<K>): RunInput<K>
  /** Units that are run before it is looked at again whether they do. */
  next(done: number): number
  memory(input: RunInput<K>): Int32Array
  run(plan: Plan, input: RunInput<K>): SeekRun<K>
}
interface SeekRun<K extends RunKind> {
  range(memory: Int32Array, range: UnitRange): void
  /** What is shown while it grows. */
  partial(memory: Int32Array, done: number): RunPartial<K>
  /** The job with so many units where they do; null where they do not. */
  found(memory: Int32Array, done: number): RunInput<K> | null
}

/** A kind whose types are known to itself only: what it is given is what it made before. */
export type AnyJobKind = JobKind<RunKind, unknown, unknown>

export const jobKind = <K extends RunKind, Model, Memory>(kind: JobKind<K, Model, Memory>): AnyJobKind => kind
