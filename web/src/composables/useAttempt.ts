import { ref, type Ref } from 'vue'
import { PlanError } from '@geodrome/core'

export interface Attempt {
  /** Why the last try was refused, in the user's terms; empty if it was not. */
  readonly problem: Ref<string>
  /** Tries an edit; a plan's refusal is kept as the problem. @returns whether it was taken */
  attempt(edit: () => void): boolean
  /** Tries what asks the server; its refusal is kept as the problem, too. */
  attemptLater(ask: () => Promise<unknown>): void
}

/** Edits that the plan may refuse: nothing is changed then, and the reason stands where the edit was made. */
export const useAttempt = (): Attempt => {
  const problem = ref('')
  return {
    problem,
    attempt(edit) {
      try {
        edit()
        problem.value = ''
        return true
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        problem.value = error.issues[0]!.message
        return false
      }
    },
    attemptLater(ask) {
      problem.value = ''
      ask().catch((error: unknown) => (problem.value = (error as Error).message))
    },
  }
}
