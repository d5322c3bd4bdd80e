import { computed, shallowRef, watch, type ShallowRef } from 'vue'
import type { LookAnswer, LookKind, LookRequest, Run } from '@geodrome/core'
import { api } from '../api/client.ts'

export interface Looked<K extends LookKind> {
  /** Null while it is not known. */
  readonly answer: ShallowRef<LookAnswer<K> | null>
  /** Why there is none; empty where there is, or will be. */
  readonly problem: ShallowRef<string>
  readonly isAsking: ShallowRef<boolean>
}

/**
 * What a run answers, asked again whenever the run or the question is another. An answer stands until the next is there, and goes where
 * none can be had or the run is another.
 * @param asked - null where nothing is asked
 */
export const useLook = <K extends LookKind>(
  kind: K,
  asked: () => { readonly run: Pick<Run, 'id' | 'planId'>; readonly question: LookRequest<K> } | null,
): Looked<K> => {
  const answer = shallowRef(null) as ShallowRef<LookAnswer<K> | null>
  const problem = shallowRef('')
  const isAsking = shallowRef(false)
  let turn = 0
  let of = ''
  /** As text: it says whether something else is asked. */
  const meant = computed(() => {
    const now = asked()
    return now && JSON.stringify([now.run.planId, now.run.id, now.question])
  })
  const ask = async (): Promise<void> => {
    const mine = ++turn
    const now = meant.value
    isAsking.value = now !== null
    if (now === null) {
      answer.value = null
      problem.value = ''
      return
    }
    const [plan, run, question] = JSON.parse(now) as [string, string, LookRequest<K>]
    if (of !== run) answer.value = null
    of = run
    try {
      const found = await api.look(plan, run, kind, question)
      if (mine !== turn) return
      answer.value = found
      problem.value = ''
    } catch (error) {
      if (mine !== turn) return
      answer.value = null
      problem.value = (error as Error).message
    }
    isAsking.value = false
  }
  watch(meant, ask, { immediate: true })
  return { answer, problem, isAsking }
}
