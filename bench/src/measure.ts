/** Median and spread of repeated timings, in milliseconds. */
export interface Timing {
  readonly median: number
  readonly low: number
  readonly high: number
}

export const measure = (run: () => unknown, rounds = 15): Timing => {
  // Warm until the engine has compiled what it will, as in a session that lasts.
  const warmUntil = performance.now() + 400
  do run()
  while (performance.now() < warmUntil)
  const times: number[] = []
  for (let k = 0; k < rounds; k++) {
    const began = performance.now()
    run()
    times.push(performance.now() - began)
  }
  times.sort((a, b) => a - b)
  return { median: times[rounds >> 1]!, low: times[0]!, high: times.at(-1)! }
}

/** Bytes that a run allocates for each of n items, over many runs between two collections; needs --expose-gc. */
export const allocation = (run: () => void, n: number, runs = 50): number => {
  const collect = (globalThis as { gc?: () => void }).gc
  if (!collect) throw new Error('run with --expose-gc')
  for (let k = 0; k < 50; k++) run()
  collect()
  const before = process.memoryUsage().heapUsed
  for (let k = 0; k < runs; k++) run()
  return Math.max(0, process.memoryUsage().heapUsed - before) / runs / n
}

const text = (ms: number): string => (ms < 10 ? ms.toFixed(2) : ms.toFixed(0))

/** One line of the report: what, measured, budget, and whether it is kept. */
/** @param budgetMs - null for what has none in the architecture's table */
export const report = (what: string, timing: Timing, budgetMs: number | null): void => {
  const figures = `${what.padEnd(62)} ${text(timing.median).padStart(8)} ms  (${text(timing.low)} … ${text(timing.high)})`
  const budget =
    budgetMs === null
      ? ''
      : `budget ${String(budgetMs).padStart(5)} ms  ${timing.median <= budgetMs ? 'kept' : 'OVER'}`
  console.log(`${figures.padEnd(104)}${budget}`)
}
