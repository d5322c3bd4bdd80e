import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { IntegrityTest, Plan } from '@geodrome/core'
import { ReviewClient } from '../workers/reviewClient.ts'
import type { ReviewAnswers, ReviewAsk, ReviewView } from '../workers/reviewProtocol.ts'
import { authorName } from './identity.ts'
import { usePlanStore } from './planStore.ts'

/** Long enough for the schedule to have been painted. */
const HAND_OVER_MS = 150

/** The review of the plan in view, made in a worker of its own after each edit. What it changes goes through the plan store. */
export const useReviewStore = defineStore('review', () => {
  const plans = usePlanStore()
  const view = shallowRef<ReviewView | null>(null)
  const open = computed(() => view.value?.open ?? 0)
  /** What the sheet stands at; kept while one is away in the network, so that the way back leads to the same place. */
  const chosen = ref<{ readonly check: string; readonly fingerprint: string } | null>(null)
  const unfolded = ref<ReadonlySet<string>>(new Set())
  const tests = shallowRef<readonly IntegrityTest[]>([])
  const testing = ref<{ done: number; total: number } | null>(null)
  /** The plan that the tests were made on. */
  const testedPlan = shallowRef<Plan | null>(null)

  let client: ReviewClient | null = null
  /** A whole plan waits for a quiet moment: handing it over takes as long as painting it. */
  let waiting: ReturnType<typeof setTimeout> | null = null
  const stopWaiting = (): void => {
    if (waiting !== null) clearTimeout(waiting)
    waiting = null
  }
  const handOver = (): void => {
    waiting = null
    if (!plans.plan) return
    client ??= new ReviewClient({
      reviewed: (next) => (view.value = next),
      tested: (found, done, total) => {
        tests.value = found
        testing.value = done < total ? { done, total } : null
      },
    })
    client.load(plans.plan)
  }
  plans.follow({
    load() {
      stopWaiting()
      waiting = setTimeout(handOver, HAND_OVER_MS)
      testing.value = null
    },
    change(change) {
      // A plan that waits is handed over with the change in it.
      if (waiting === null) client?.change(change)
      testing.value = null
    },
    closed() {
      stopWaiting()
      client?.stop()
      client = null
      view.value = null
      chosen.value = null
      unfolded.value = new Set()
      tests.value = []
      testing.value = null
      testedPlan.value = null
    },
  })

  /** What is asked for is of the plan in view, not of the one before it that the worker still has. */
  const beReady = (): void => {
    if (waiting === null) return
    stopWaiting()
    handOver()
  }
  const ask = <K extends ReviewAsk['kind']>(
    question: Extract<ReviewAsk, { kind: K }>,
  ): Promise<ReviewAnswers[K] | null> => {
    // Asked with every selection, and again after each review: it can wait.
    if (question.kind !== 'about') beReady()
    return client?.ask<K>(question) ?? Promise.resolve(null)
  }
  const now = (): string => new Date().toISOString().slice(0, 16)

  /** Accepts findings, or all of a check, with a reason. @throws PlanError */
  const acceptFindings = async (
    fingerprints: readonly string[] | { check: string },
    reason: string,
  ): Promise<void> => {
    const change = await ask<'accept'>({
      kind: 'accept',
      fingerprints,
      reason,
      by: authorName.value,
      at: now(),
    })
    if (change) plans.edit(change)
  }
  /** Keeps the review as it stands, to compare later ones with. @throws PlanError */
  const keep = async (note: string): Promise<void> => {
    const change = await ask<'keep'>({ kind: 'keep', by: authorName.value, at: now(), note })
    if (change) plans.editPlan(change)
  }
  const test = (activities: readonly string[] | 'all' | null): void => {
    testing.value = activities === null ? null : { done: 0, total: 1 }
    if (activities !== null) {
      tests.value = []
      testedPlan.value = plans.plan
      beReady()
    }
    client?.test(activities)
  }
  return { view, open, chosen, unfolded, tests, testing, testedPlan, ask, acceptFindings, keep, test }
})
