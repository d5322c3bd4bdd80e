import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  isForecastPast,
  lineageOf,
  type LookRequest,
  type ReplayLook,
  type Run,
  type RunInFull,
  type RunProgress,
  type RunResult,
  type SimulationInput,
  type SimulationPartial,
  type SimulationRequest,
  type SimulationResult,
} from '@geodrome/core'
import { api } from '../api/client.ts'
import { usePlanStore } from './planStore.ts'

const POLL_MS = 1500

export type SimulationRun = Run<'simulation'>
type OwedRun = Run<'owed'>
type Owed = RunResult<'owed'>['owed']
const isUnderWay = ({ state }: Run): boolean => state === 'running' || state === 'queued'

/** Simulations of the open plan: started, watched while they grow, stopped, kept. */
export const useForecastStore = defineStore('forecast', () => {
  const plans = usePlanStore()
  const runs = shallowRef<readonly SimulationRun[]>([])
  /** What came of runs, by their id; each is asked for when it is first looked at. */
  const results = shallowRef<ReadonlyMap<string, SimulationResult>>(new Map())
  const asked = new Set<string>()
  const running = shallowRef<{
    id: string
    input: SimulationRequest
    done: number
    total: number
    partial: SimulationPartial | null
    startedAt: number
  } | null>(null)
  /** Days owed, of runs that have been asked: those of the open plan, newest first. */
  const owedRuns = shallowRef<readonly OwedRun[]>([])
  const owedResults = shallowRef<ReadonlyMap<string, Owed>>(new Map())
  /** What is being found of them. */
  const owing = shallowRef<{ run: OwedRun; done: number; owed: Owed } | null>(null)
  /** One iteration of a run, as it is looked at. */
  const replay = shallowRef<{ readonly run: SimulationRun; readonly at: ReplayLook } | null>(null)
  const failure = ref('')
  const lastMs = ref<number | null>(null)
  const waiting = new Map<string, (result: SimulationResult | null) => void>()

  const finished = computed(() => runs.value.filter((run) => run.state === 'done'))
  const latestOf = (scenario: string | null): SimulationRun | null =>
    finished.value.find((run) => run.input.scenario === scenario) ?? null
  /** The latest run of what is in view; of the plan as it was, the latest until then. */
  const latest = computed(() => {
    const { kept } = plans
    return kept === null
      ? latestOf(plans.scenarioId)
      : (finished.value.find(({ input, revision }) => input.scenario === null && revision <= kept.revision) ??
          null)
  })
  /** What came of a run; null as long as it is not here. */
  const resultOf = (run: SimulationRun | null): SimulationResult | null => {
    if (run === null) return null
    if (!results.value.has(run.id)) fetchResult(run)
    return results.value.get(run.id) ?? null
  }
  const latestResult = computed(() => resultOf(latest.value))
  /** Whether what was changed since a run, stored or waiting, could move its answer. Of changes so old that they are not here, it is taken to. */
  const isStale = ({ revision, input }: SimulationRun): boolean => {
    const first = plans.log[0]?.revision ?? plans.revision + 1
    if (revision < first - 1) return true
    const { kept } = plans
    const since = plans.log.filter((entry) => entry.revision > revision)
    return isForecastPast(
      kept === null ? [...since, ...plans.pending] : since.filter((entry) => entry.revision <= kept.revision),
      plans.plan === null ? [] : lineageOf(plans.plan, input.scenario),
    )
  }

  const keepResult = (id: string, result: SimulationResult | null): void => {
    asked.add(id)
    if (result !== null) results.value = new Map([...results.value, [id, result]])
  }
  const fetchResult = ({ id, planId }: SimulationRun): void => {
    if (asked.has(id)) return
    asked.add(id)
    api.run(planId, id).then(
      (run) => keepResult(id, (run as RunInFull<'simulation'>).result),
      (error: unknown) => {
        asked.delete(id)
        failure.value = (error as Error).message
      },
    )
  }

  const load = async (planId: string): Promise<void> => {
    const all = await api.runs(planId)
    if (plans.planId !== planId) return
    runs.value = all.filter((run): run is SimulationRun => run.kind === 'simulation')
    owedRuns.value = all.filter((run): run is OwedRun => run.kind === 'owed')
    const busy = runs.value.find(isUnderWay)
    if (busy) follow(busy)
  }

  const follow = (run: SimulationRun): void => {
    running.value = {
      id: run.id,
      input: run.input,
      done: run.done,
      total: run.total,
      partial: null,
      startedAt: performance.now(),
    }
    poll(run)
  }
  const isFollowed = (id: string): boolean => running.value?.id === id || owing.value?.run.id === id
  const grow = (progress: Pick<RunProgress, 'id' | 'kind' | 'done' | 'partial'>): void => {
    const { id, done } = progress
    if (running.value?.id === id) {
      const { partial } = progress as RunProgress<'simulation'>
      running.value = { ...running.value, done, partial: partial ?? running.value.partial }
    }
    if (owing.value?.run.id === id) {
      const { partial } = progress as RunProgress<'owed'>
      owing.value = { ...owing.value, done, owed: partial?.owed ?? owing.value.owed }
    }
  }
  /** Events of the server that runs it tell of progress; this is for a run of another, and for a stream that broke. */
  const poll = (run: Run): void => {
    setTimeout(() => {
      if (!isFollowed(run.id)) return
      api.run(run.planId, run.id).then(
        (now) => {
          if (!isUnderWay(now)) return settle(now)
          if (now.done > (running.value?.id === run.id ? running.value.done : 0)) grow(now)
          poll(run)
        },
        () => poll(run),
      )
    }, POLL_MS)
  }

  const settleOwed = ({ result, partial: _, ...run }: RunInFull<'owed'>): void => {
    if (owing.value?.run.id === run.id) owing.value = null
    if (run.planId !== plans.planId) return
    if (run.state === 'failed') failure.value = run.error ?? 'the run failed'
    if (result) owedResults.value = new Map([...owedResults.value, [run.id, result.owed]])
    owedRuns.value = [run, ...owedRuns.value.filter((other) => other.id !== run.id)]
  }
  const settle = (ended: RunInFull): void =>
    ended.kind === 'owed'
      ? settleOwed(ended as RunInFull<'owed'>)
      : settleSimulation(ended as RunInFull<'simulation'>)

  const settleSimulation = ({ result, partial: _, ...run }: RunInFull<'simulation'>): void => {
    if (running.value?.id === run.id) {
      lastMs.value = performance.now() - running.value.startedAt
      running.value = null
    }
    if (run.planId !== plans.planId) return
    if (run.state === 'failed') failure.value = run.error ?? 'the run failed'
    keepResult(run.id, result)
    runs.value = [run, ...runs.value.filter((other) => other.id !== run.id)]
    waiting.get(run.id)?.(run.state === 'done' ? result : null)
    waiting.delete(run.id)
  }

  plans.onRun((progress: RunProgress) => {
    if (!isFollowed(progress.id)) return
    if (progress.state === 'running') return grow(progress)
    void api.run(progress.planId, progress.id).then(settle)
  })

  /** Starts a run once every change is stored. @returns its result; null if it was stopped or failed */
  const start = async (input: SimulationRequest): Promise<SimulationResult | null> => {
    failure.value = ''
    if (plans.kept !== null) {
      failure.value =
        'the plan as it was is in view, and a run is of the plan as it is; go back to the plan first'
      return null
    }
    try {
      const run = (await api.startRun(plans.planId!, 'simulation', input)) as SimulationRun
      follow(run)
      return await new Promise((resolve) => waiting.set(run.id, resolve))
    } catch (error) {
      failure.value = (error as Error).message
      return null
    }
  }
  /** The days owed that were found for a run at a percentile; null where they were not, or are not here yet. */
  const owedOf = (of: SimulationRun, percent: number): Owed | null => {
    const meant = owedKey(of.revision, { ...of.input, percent })
    if (owing.value && owedKey(owing.value.run.revision, owing.value.run.input) === meant)
      return owing.value.owed
    const found = owedRuns.value.find(
      (run) => run.state === 'done' && owedKey(run.revision, run.input) === meant,
    )
    if (!found) return null
    if (!owedResults.value.has(found.id) && !asked.has(found.id)) {
      asked.add(found.id)
      api.run(found.planId, found.id).then(
        (run) => settleOwed(run as RunInFull<'owed'>),
        (error: unknown) => {
          asked.delete(found.id)
          failure.value = (error as Error).message
        },
      )
    }
    return owedResults.value.get(found.id) ?? null
  }
  /** Begins to find them. */
  const askOwed = async (of: SimulationRun, percent: number): Promise<void> => {
    const { drivers } = resultOf(of) ?? { drivers: [] }
    if (drivers.length === 0) return
    failure.value = ''
    try {
      const run = (await api.startRun(
        of.planId,
        'owed',
        { ...of.input, percent, drivers },
        of.revision,
      )) as OwedRun
      owing.value = { run, done: 0, owed: [] }
      poll(run)
    } catch (error) {
      failure.value = (error as Error).message
    }
  }
  const cancelOwed = async (): Promise<void> => {
    if (owing.value) settle(await api.cancelRun(plans.planId!, owing.value.run.id))
  }

  /** Looks at one iteration, by its number or as that at a percentile of the finish. @throws Error where there is none */
  const lookAtIteration = async (of: SimulationRun, which: LookRequest<'replay'>): Promise<void> => {
    const at = await api.look(of.planId, of.id, 'replay', which)
    if (of.planId === plans.planId) replay.value = { run: of, at }
  }

  /** By a name a run is kept however many come after it; an empty one takes it. @throws Error where it is not stored */
  const rename = async (of: SimulationRun, name: string): Promise<void> => {
    const named = await api.nameRun(of.planId, of.id, name)
    runs.value = runs.value.map((run) => (run.id === of.id ? { ...run, name: named.name } : run))
  }
  /** @throws Error where it is not dropped */
  const drop = async (of: SimulationRun): Promise<void> => {
    await api.dropRun(of.planId, of.id)
    runs.value = runs.value.filter((run) => run.id !== of.id)
    if (replay.value?.run.id === of.id) replay.value = null
  }
  const cancel = async (): Promise<void> => {
    if (running.value) settle(await api.cancelRun(plans.planId!, running.value.id))
  }

  watch(
    () => [plans.planId, plans.status] as const,
    ([id, status]) => {
      if (id === null) {
        runs.value = []
        results.value = new Map()
        asked.clear()
        running.value = null
        owedRuns.value = []
        owedResults.value = new Map()
        owing.value = null
        replay.value = null
      } else if (status === 'open')
        void load(id).catch((error: unknown) => (failure.value = (error as Error).message))
    },
    { immediate: true },
  )
  return {
    runs,
    finished,
    running,
    failure,
    lastMs,
    latest,
    latestResult,
    latestOf,
    resultOf,
    isStale,
    start,
    cancel,
    owing,
    owedOf,
    askOwed,
    cancelOwed,
    replay,
    lookAtIteration,
    rename,
    drop,
  }
})

/** What days owed are of: the same question to the same plan has the same answer, whatever its drivers. */
const owedKey = (
  revision: number,
  { iterations, batch, seed, sampling, risks, scenario, percent }: OwedAsked,
): string => JSON.stringify([revision, iterations, batch ?? 0, seed, sampling, risks, scenario, percent])
type OwedAsked = SimulationInput & { readonly percent: number }
