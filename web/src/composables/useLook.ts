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
 * none can be had, or where the next is about something else.
 * @param asked - null where nothing is asked; `about`: of the same run and the same subject an answer may stand a while longer
 */
export const useLook = <K extends LookKind>(
  kind: K,
  asked: () => {
    readonly run: Pick<Run, 'id' | 'planId'>
    readonly question: LookRequest<K>
    readonly about?: string
  } | null,
): Looked<K> => {
  const answer = shallowRef(null) as ShallowRef<LookAnswer<K> | null>
  const problem = shallowRef('')
  const isAsking = shallowRef(false)
  let turn = 0
  let of = ''
  /** As text: it says whether something else is asked. */
  const meant = computed(() => {
    const now = asked()
    return now && JSON.stringify([now.run.planId, now.run.id, now.question, now.about ?? ''])
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
    const [plan, run, question, about] = JSON.parse(now) as [string, string, LookRequest<K>, string]
    if (of !== `${run} ${about}`) answer.value = null
    of = `${run} ${about}`
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
  // At once: nothing is drawn of the new question with the answer to the old one.
  watch(meant, ask, { immediate: true, flush: 'sync' })
  return { answer, problem, isAsking }
}
