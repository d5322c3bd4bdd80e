import { useLocalStorage } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import type { Answer, Answers } from '@geodrome/core'

/** An update that is being written: kept in this browser until it becomes a period, or is put away. */
interface UpdateDraft {
  readonly statusDate: string | null
  readonly answers: Answers
  /** Activities that somebody added to what is asked. */
  readonly added: readonly string[]
}
const NOTHING: UpdateDraft = { statusDate: null, answers: {}, added: [] }

export interface DraftOfUpdate {
  readonly draft: ComputedRef<UpdateDraft>
  setStatus(date: string): void
  /** Says more of an activity; what was said of it before stays unless it is said anew. */
  say(activity: string, answer: Answer): void
  /** Takes back all that was said of an activity. */
  unsay(activity: string): void
  ask(activity: string): void
  clear(): void
}

/** The draft of a plan. @param plan - its id */
export const useUpdateDraft = (plan: string): DraftOfUpdate => {
  const kept = useLocalStorage<UpdateDraft>(`geodrome-update-${plan}`, NOTHING, {
    mergeDefaults: (stored, fallback) => ({ ...fallback, ...stored }),
  })
  const change = (part: Partial<UpdateDraft>): void => void (kept.value = { ...kept.value, ...part })
  return {
    draft: computed(() => kept.value),
    setStatus: (statusDate) => change({ statusDate }),
    say: (activity, answer) => {
      const { unchanged: _old, ...before } = kept.value.answers[activity] ?? {}
      // What is left is said in one way: as time or as a percentage.
      const { remaining: _time, percent: _share, ...rest } = before
      const isLeft = answer.remaining !== undefined || answer.percent !== undefined
      change({
        answers: {
          ...kept.value.answers,
          [activity]: answer.unchanged ? answer : { ...(isLeft ? rest : before), ...answer },
        },
      })
    },
    unsay: (activity) => {
      const { [activity]: _gone, ...answers } = kept.value.answers
      change({ answers })
    },
    ask: (activity) => change({ added: [...kept.value.added.filter((id) => id !== activity), activity] }),
    clear: () => void (kept.value = NOTHING),
  }
}
