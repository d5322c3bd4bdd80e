import { shallowRef, watch, type Ref } from 'vue'
import { api } from '../../api/client.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import FindingsWorker from '../../workers/findings.worker.ts?worker'
import type { Plan } from '@geodrome/core'

/** How many findings were open in a plan when an update was kept, or why that cannot be said. */
export type FindingsThen = { readonly open: number } | { readonly why: string }

/** What was kept does not change: each is counted once in a session. */
const counted = new Map<string, FindingsThen>()

/**
 * Open findings of the plan as it was after each update, one after the other.
 * @param plan - its id @param periods - ids
 */
export const useFindingsThen = (
  plan: () => string,
  periods: () => readonly string[],
): Ref<ReadonlyMap<string, FindingsThen>> => {
  const found = shallowRef<ReadonlyMap<string, FindingsThen>>(new Map())
  const { begin, end, failure } = useLongWork<Plan, number>(() => new FindingsWorker())
  let turn = 0

  const count = (then: Plan): Promise<FindingsThen> =>
    new Promise((resolve) => {
      const stop = watch(failure, (why) => {
        if (why === '') return
        stop()
        resolve({ why })
      })
      begin(then, (open) => {
        stop()
        resolve({ open })
      })
    })
  const look = async (): Promise<void> => {
    const mine = ++turn
    end()
    for (const id of periods()) {
      const key = `${plan()}/${id}`
      if (!counted.has(key)) {
        const said = await api.planWhenKept(plan(), 'periods', id).then(
          ({ plan: then }) => count(then),
          (error: unknown): FindingsThen => ({ why: (error as Error).message }),
        )
        if (mine !== turn) return
        if ('open' in said) counted.set(key, said)
        found.value = new Map([...found.value, [id, said]])
      } else found.value = new Map([...found.value, [id, counted.get(key)!]])
    }
  }
  watch(() => periods().join(' '), look, { immediate: true })
  return found
}
