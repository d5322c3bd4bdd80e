import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  isForecastPast,
  type JobProgress,
  type PartialResult,
  type Run,
  type RunRequest,
  type RunResult,
} from '@geodrome/core'
import { api } from '../api/client.ts'
import { usePlanStore } from './planStore.ts'

const POLL_MS = 1500

/** Forecast runs of the open plan: started, watched while they grow, stopped, kept. */
export const useForecastStore = defineStore('forecast', () => {
  const plans = usePlanStore()
  const runs = shallowRef<readonly Run[]>([])
  const running = shallowRef<{
    id: string
    input: RunRequest
    done: number
    total: number
    partial: PartialResult | null
    startedAt: number
  } | null>(null)
  const failure = ref('')
  const lastMs = ref<number | null>(null)
  const waiting = new Map<string, (result: RunResult | null) => void>()

  const finished = computed(() => runs.value.filter((run) => run.state === 'done' && run.result !== null))
  const latestOf = (scenario: string | null): Run | null =>
    finished.value.find((run) => run.input.scenario === scenario) ?? null
  /** The latest run of what is in view, and whether the plan has changed since. */
  const latest = computed(() => latestOf(plans.scenarioId))
  /** Whether what was changed since a run, stored or waiting, could move its answer. Of changes so old that they are not here, it is taken to. */
  const isStale = ({ result, input }: Run): boolean => {
    if (result === null) return false
    const first = plans.log[0]?.revision ?? plans.revision + 1
    if (result.revision < first - 1) return true
    return isForecastPast(
      [...plans.log.filter((entry) => entry.revision > result.revision), ...plans.pending],
      input.scenario,
    )
  }

  const load = async (): Promise<void> => {
    if (plans.planId === null) return
    runs.value = await api.runs(plans.planId)
    const busy = runs.value.find((run) => run.state === 'running' || run.state === 'queued')
    if (busy) follow(busy)
  }

  const follow = (run: Run): void => {
    running.value = {
      id: run.id,
      input: run.input,
      done: run.done,
      total: run.total,
      partial: null,
      startedAt: performance.now(),
    }
    poll(run.id)
  }
  /** Events tell of progress; this is for a stream that broke. */
  const poll = (id: string): void => {
    setTimeout(() => {
      if (running.value?.id !== id) return
      api.run(id).then(
        (run) => (run.state === 'running' || run.state === 'queued' ? poll(id) : settle(run)),
        () => poll(id),
      )
    }, POLL_MS)
  }

  const settle = (run: Run): void => {
    if (running.value?.id === run.id) {
      lastMs.value = performance.now() - running.value.startedAt
      running.value = null
    }
    if (run.state === 'failed') failure.value = run.error ?? 'the run failed'
    runs.value = [run, ...runs.value.filter((other) => other.id !== run.id)]
    waiting.get(run.id)?.(run.state === 'done' ? run.result : null)
    waiting.delete(run.id)
  }

  plans.onJob((progress: JobProgress) => {
    if (running.value?.id !== progress.id) return
    if (progress.state === 'running') {
      running.value = {
        ...running.value,
        done: progress.done,
        partial: progress.partial ?? running.value.partial,
      }
      return
    }
    void api.run(progress.id).then(settle)
  })

  /** Starts a run once every change is stored. @returns its result; null if it was stopped or failed */
  const start = async (input: RunRequest): Promise<RunResult | null> => {
    failure.value = ''
    try {
      const run = await api.startRun(plans.planId!, input)
      follow(run)
      return await new Promise((resolve) => waiting.set(run.id, resolve))
    } catch (error) {
      failure.value = (error as Error).message
      return null
    }
  }
  const cancel = async (): Promise<void> => {
    if (running.value) settle(await api.cancelRun(running.value.id))
  }

  watch(
    () => [plans.planId, plans.status] as const,
    ([id, status]) => {
      if (id === null) runs.value = []
      else if (status === 'open')
        void load().catch((error: unknown) => (failure.value = (error as Error).message))
    },
    { immediate: true },
  )
  return { runs, finished, running, failure, lastMs, latest, latestOf, isStale, start, cancel }
})
