import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads'
import {
  ITERATIONS_TOGETHER,
  iterationTable,
  runIterations,
  simulationModel,
  type IterationTable,
} from '@geodrome/core'
import { generatePlan } from './generate.ts'

/** A run on two threads that share its table, as the server does it; the threads are there and have the plan. */
const THREADS = 2
/** As the server cuts a run into ranges. */
const RANGE_NUMBERS = 1_500_000
interface Size {
  readonly activities: number
  readonly iterations: number
}
interface Range {
  readonly table: IterationTable
  readonly from: number
  readonly to: number
}
const modelOf = ({ activities, iterations }: Size): ReturnType<typeof simulationModel> =>
  simulationModel(generatePlan(activities), { iterations, seed: 1, sampling: 'lhs', risks: true })

if (!isMainThread) {
  const model = modelOf(workerData as Size)
  parentPort!.on('message', ({ table, from, to }: Range) => {
    runIterations(model, table, from, to)
    parentPort!.postMessage(null)
  })
  parentPort!.postMessage(null)
}

const answered = (thread: Worker): Promise<void> =>
  new Promise((done) => thread.once('message', () => done()))

/** @returns milliseconds of each of several runs, the first ones warm the threads and are left out */
export const onTwoThreads = async (size: Size, rounds: number): Promise<number[]> => {
  const threads = Array.from(
    { length: THREADS },
    () => new Worker(new URL(import.meta.url), { workerData: size }),
  )
  await Promise.all(threads.map(answered))
  const model = modelOf(size)
  const wanted = Math.min(size.iterations / 10, RANGE_NUMBERS / size.activities)
  const width = Math.max(1, Math.round(wanted / ITERATIONS_TOGETHER)) * ITERATIONS_TOGETHER
  const times: number[] = []
  for (let round = 0; round < rounds + 3; round++) {
    const began = performance.now()
    const table = iterationTable(model, (bytes) => new SharedArrayBuffer(bytes))
    let next = 0
    const lane = async (thread: Worker): Promise<void> => {
      while (next < size.iterations) {
        const from = next
        next = Math.min(size.iterations, next + width)
        thread.postMessage({ table, from, to: next } satisfies Range)
        await answered(thread)
      }
    }
    await Promise.all(threads.map(lane))
    times.push(performance.now() - began)
  }
  await Promise.all(threads.map((thread) => thread.terminate()))
  return times.slice(3).sort((a, b) => a - b)
}
