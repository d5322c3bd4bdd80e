import { useRoute, useRouter } from 'vue-router'
import type { Keeper } from '@geodrome/core'
import { usePlanStore } from '../stores/planStore.ts'

/** Ways from what kept a plan (a baseline, a period) to what changed since, or until the next of its kind. */
export const useKeptPlans = (): {
  changedSince(list: Keeper, key: string): void
  changedUntil(list: Keeper, key: string, next: string): void
} => {
  const plans = usePlanStore()
  const router = useRouter()
  const route = useRoute()
  const compare = (query: Record<string, string>): void =>
    void router.push({ name: 'review', params: { id: route.params.id, part: 'revisions' }, query })
  return {
    changedSince(list, key) {
      plans.viewScenario(null)
      compare({ with: `${list}/${key}` })
    },
    changedUntil(list, key, next) {
      void plans
        .viewKept(list, key)
        .then((isOpen) => isOpen && compare({ with: `${list}/${next}`, is: 'after' }))
    },
  }
}
