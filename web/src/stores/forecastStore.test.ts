import { createPinia, setActivePinia } from 'pinia'
import { nextTick, ref, type Ref } from 'vue'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { LoggedChange, Run, RunInFull as AnyRun, RunProgress, SimulationResult } from '@geodrome/core'

type RunInFull = AnyRun<'simulation'>
/** What the store sees of the open plan, and a server whose runs a test sets. */
interface OpenPlan {
  planId: string | null
  status: string
  scenarioId: string | null
  kept: { revision: number } | null
  revision: number
  log: LoggedChange[]
  pending: unknown[]
}
let plan: Ref<OpenPlan>
let tell: (progress: RunProgress) => void
const server = { runs: new Map<string, RunInFull>(), asked: [] as string[] }

vi.mock('./planStore.ts', () => ({
  usePlanStore: () =>
    new Proxy(
      {},
      {
        get: (_, name) =>
          name === 'onRun'
            ? (listener: typeof tell) => void (tell = listener)
            : plan.value[name as keyof OpenPlan],
      },
    ),
}))
vi.mock('../api/client.ts', () => ({
  api: {
    runs: (planId: string) =>
      Promise.resolve(
        [...server.runs.values()]
          .filter((run) => run.planId === planId)
          .map(({ result: _r, partial: _p, ...run }) => run),
      ),
    run: (_planId: string, id: string) => {
      server.asked.push(id)
      const run = server.runs.get(id)
      return run ? Promise.resolve(run) : Promise.reject(new Error(`there is no run "${id}"`))
    },
    startRun: (planId: string, _kind: string, input: Run['input']) => {
      const run = aRun('new', { planId, input, state: 'queued', done: 0, result: null })
      server.runs.set('new', run)
      return Promise.resolve(run)
    },
    cancelRun: (_planId: string, id: string) => {
      const run: RunInFull = { ...server.runs.get(id)!, state: 'cancelled' }
      server.runs.set(id, run)
      return Promise.resolve(run)
    },
  },
}))
const { useForecastStore } = await import('./forecastStore.ts')

const resultAt = (p80: string): SimulationResult => ({ percentiles: { '80': p80 } }) as never
const aRun = (id: string, more: Partial<RunInFull> = {}): RunInFull => ({
  id,
  planId: 'p',
  kind: 'simulation',
  input: { iterations: 100, seed: 1, sampling: 'lhs', risks: true, scenario: null },
  revision: 3,
  state: 'done',
  done: 100,
  total: 100,
  error: null,
  name: null,
  createdAt: '2027-01-01T00:00:00Z',
  partial: null,
  result: resultAt('2027-05-01'),
  ...more,
})
const inScenario = (scenario: string): RunInFull['input'] => ({ ...aRun('').input, scenario })
const settled = (): Promise<unknown> => vi.advanceTimersByTimeAsync(0)
const open = async () => {
  const store = useForecastStore()
  await settled()
  return store
}

beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  server.runs.clear()
  server.asked.length = 0
  plan = ref({ planId: 'p', status: 'open', scenarioId: null, kept: null, revision: 3, log: [], pending: [] })
})
afterEach(() => vi.useRealTimers())

it('asks for what came of a run when it is first looked at, and once', async () => {
  server.runs.set('b', aRun('b', { result: resultAt('2027-06-01'), input: inScenario('s1') }))
  server.runs.set('a', aRun('a'))
  const store = await open()
  expect(server.asked).toEqual([])
  expect(store.latestResult).toBeNull()
  await settled()
  expect(store.latestResult?.percentiles['80']).toBe('2027-05-01')
  expect(store.resultOf(store.latestOf('s1'))).toBeNull()
  await settled()
  expect(store.resultOf(store.latestOf('s1'))?.percentiles['80']).toBe('2027-06-01')
  expect(server.asked).toEqual(['a', 'b'])
})

it('says why what came of a run cannot be had, and asks again when it is looked at again', async () => {
  server.runs.set('a', aRun('a'))
  const store = await open()
  server.runs.clear()
  expect(store.resultOf(store.latest)).toBeNull()
  await settled()
  expect(store.failure).toBe('there is no run "a"')
  server.runs.set('a', aRun('a'))
  expect(store.resultOf(store.latest)).toBeNull()
  await settled()
  expect(store.resultOf(store.latest)).not.toBeNull()
})

it('grows by events, and by asking where they do not come; an older state never replaces a newer', async () => {
  const store = await open()
  const ended = store.start(inScenario('s1'))
  await settled()
  expect(store.running).toMatchObject({ id: 'new', done: 0 })
  const progress = { id: 'new', planId: 'p', kind: 'simulation', state: 'running', total: 100 } as const
  const dots = { dots: ['2027-05-01'] } as never
  tell({ ...progress, done: 40, partial: dots })
  tell({ ...progress, id: 'of another', done: 90, partial: null })
  expect(store.running).toMatchObject({ done: 40, partial: dots })
  server.runs.set('new', aRun('new', { input: inScenario('s1'), state: 'running', done: 30, result: null }))
  await vi.advanceTimersByTimeAsync(1600)
  expect(store.running).toMatchObject({ done: 40, partial: dots })
  server.runs.set('new', aRun('new', { input: inScenario('s1'), state: 'running', done: 70, result: null }))
  await vi.advanceTimersByTimeAsync(1600)
  expect(store.running).toMatchObject({ done: 70, partial: dots })
  server.runs.set('new', aRun('new', { input: inScenario('s1') }))
  await vi.advanceTimersByTimeAsync(1600)
  expect((await ended)?.percentiles['80']).toBe('2027-05-01')
  expect(store.running).toBeNull()
  expect(store.latestOf('s1')?.id).toBe('new')
  expect(server.asked).toHaveLength(3)
})

it('a run that failed says why; one that was stopped has no result', async () => {
  const store = await open()
  const failed = store.start(aRun('').input)
  await settled()
  server.runs.set('new', aRun('new', { state: 'failed', error: 'too tall', result: null }))
  tell({ id: 'new', planId: 'p', kind: 'simulation', state: 'failed', done: 0, total: 100, partial: null })
  expect(await failed).toBeNull()
  expect(store.failure).toBe('too tall')
  const stopped = store.start(aRun('').input)
  await settled()
  await store.cancel()
  expect(await stopped).toBeNull()
  expect(store.latest).toBeNull()
})

it('is past by what was changed since, as far as that can move it', async () => {
  const entry = (revision: number, change: object): LoggedChange =>
    ({ revision, uid: `u${revision}`, undoes: null, change }) as never
  const set = (set: object) => ({ kind: 'set', list: 'activities', key: 'x', set })
  const store = await open()
  const run = aRun('a')
  plan.value = { ...plan.value, revision: 4, log: [entry(4, set({ notes: 'said' }))] }
  expect(store.isStale(run)).toBe(false)
  plan.value = { ...plan.value, revision: 5, log: [...plan.value.log, entry(5, set({ duration: 5 }))] }
  expect(store.isStale(run)).toBe(true)
  expect(store.isStale({ ...run, revision: 5 })).toBe(false)
  // What was changed between is not here any more.
  plan.value = { ...plan.value, revision: 9, log: [entry(9, set({ notes: 'said' }))] }
  expect(store.isStale(run)).toBe(true)
})

it('of another plan nothing is left', async () => {
  server.runs.set('a', aRun('a', { state: 'running', result: null }))
  const store = await open()
  expect(store.running?.id).toBe('a')
  plan.value = { ...plan.value, planId: null, status: 'closed' }
  await nextTick()
  expect(store.runs).toEqual([])
  expect(store.running).toBeNull()
  server.runs.set('a', aRun('a'))
  await vi.advanceTimersByTimeAsync(5000)
  expect(store.runs).toEqual([])
  expect(server.asked).toEqual([])
})

it('of the plan as it was the latest run until then counts, and none is started', async () => {
  server.runs.set('new', aRun('new', { revision: 7 }))
  server.runs.set('old', aRun('old', { revision: 2 }))
  server.runs.set('other', aRun('other', { revision: 1, input: inScenario('s1') }))
  const store = await open()
  expect(store.latest?.id).toBe('new')
  plan.value = { ...plan.value, revision: 7, kept: { revision: 4 } }
  expect(store.latest?.id).toBe('old')
  expect(await store.start(inScenario('s1'))).toBeNull()
  expect(store.failure).toContain('go back to the plan first')
  plan.value = { ...plan.value, kept: { revision: 1 } }
  expect(store.latest).toBeNull()
})
