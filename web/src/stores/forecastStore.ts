import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  isForecastPast,
  type Run,
  type RunInFull,
  type RunProgress,
  type SimulationPartial,
  type SimulationRequest,
  type SimulationResult,
} from '@geodrome/core'
import { api } from '../api/client.ts'
import { usePlanStore } from './planStore.ts'

const POLL_MS = 1500

type SimulationRun = Run<'simulation'>
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
  const failure = ref('')
  const lastMs = ref<number | null>(null)
  const waiting = new Map<string, (result: SimulationResult | null) => void>()

  const finished = computed(() => runs.value.filter((run) => run.state === 'done'))
  const latestOf = (scenario: string | null): SimulationRun | null =>
    finished.value.find((run) => run.input.scenario === scenario) ?? null
  /** The latest run of what is in view. */
  const latest = computed(() => latestOf(plans.scenarioId))
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
    return isForecastPast(
      [...plans.log.filter((entry) => entry.revision > revision), ...plans.pending],
      input.scenario,
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
      (run) => keepResult(id, run.result),
      (error: unknown) => {
        asked.delete(id)
        failure.value = (error as Error).message
      },
    )
  }

  const load = async (planId: string): Promise<void> => {
    const all = await api.runs(planId)
    if (plans.planId !== planId) return
    runs.value = all.filter((run) => run.kind === 'simulation')
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
  const grow = ({ id, done, partial }: Pick<RunProgress, 'id' | 'done' | 'partial'>): void => {
    if (running.value?.id !== id) return
    running.value = { ...running.value, done, partial: partial ?? running.value.partial }
  }
  /** Events of the server that runs it tell of progress; this is for a run of another, and for a stream that broke. */
  const poll = (run: SimulationRun): void => {
    setTimeout(() => {
      if (running.value?.id !== run.id) return
      api.run(run.planId, run.id).then(
        (now) => {
          if (!isUnderWay(now)) return settle(now)
          if (now.done > (running.value?.done ?? 0)) grow(now)
          poll(run)
        },
        () => poll(run),
      )
    }, POLL_MS)
  }

  const settle = ({ result, partial: _, ...run }: RunInFull): void => {
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
    if (running.value?.id !== progress.id) return
    if (progress.state === 'running') return grow(progress)
    void api.run(progress.planId, progress.id).then(settle)
  })

  /** Starts a run once every change is stored. @returns its result; null if it was stopped or failed */
  const start = async (input: SimulationRequest): Promise<SimulationResult | null> => {
    failure.value = ''
    try {
      const run = await api.startRun(plans.planId!, 'simulation', input)
      follow(run)
      return await new Promise((resolve) => waiting.set(run.id, resolve))
    } catch (error) {
      failure.value = (error as Error).message
      return null
    }
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
  }
})
