import { computed, shallowRef, watch, type ShallowRef } from 'vue'
import { usePlanStore } from '../stores/planStore.ts'
import type { QuestionAnswer, QuestionInput, QuestionName } from '../workers/questions.ts'

export interface Asked<N extends QuestionName> {
  /** null while it is not known. */
  readonly answer: ShallowRef<QuestionAnswer<N> | null>
  /** Why there is none; empty where there is, or will be. */
  readonly problem: ShallowRef<string>
}

/**
 * An answer about the plan in view, asked again whenever that or what is asked changes; one question is under way at a time. An answer
 * stands until the next is there, and goes where none can be had or the list of activities is another.
 * @param input - null where nothing is asked
 */
export const useQuestion = <N extends QuestionName>(
  name: N,
  input: () => QuestionInput<N> | null,
): Asked<N> => {
  const plans = usePlanStore()
  const answer = shallowRef(null) as ShallowRef<QuestionAnswer<N> | null>
  const problem = shallowRef('')
  let turn = 0
  let isAsking = false
  let positions = plans.byId
  /** As text: it says whether something else is asked, and what is sent has nothing reactive in it. */
  const meant = computed(() => JSON.stringify(input()))
  const ask = async (): Promise<void> => {
    const wanted = JSON.parse(meant.value) as QuestionInput<N> | null
    turn++
    // Answers name activities by their position: where one came, went or moved, the old one is about others.
    if (positions !== plans.byId) answer.value = null
    if (plans.view === null || wanted === null) {
      answer.value = null
      return
    }
    if (isAsking) return
    isAsking = true
    const asked = turn
    const of = plans.byId
    try {
      const found = await plans.question(name, wanted)
      if (of === plans.byId) {
        answer.value = found
        positions = of
      }
      problem.value = ''
    } catch (error) {
      answer.value = null
      problem.value = (error as Error).message
    }
    isAsking = false
    if (turn !== asked) void ask()
  }
  watch([() => plans.view, meant], ask, { immediate: true })
  return { answer, problem }
}
