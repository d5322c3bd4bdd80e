import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Review } from '@geodrome/core'
import { usePlanStore } from './planStore.ts'

const AFTER_EDIT_MS = 120

/** The review of the plan in view, run in the worker after each edit once the schedule has been painted. */
export const useReviewStore = defineStore('review', () => {
  const plans = usePlanStore()
  const review = shallowRef<Review | null>(null)
  const isRead = ref(false)
  const open = computed(() => review.value?.findings.length ?? 0)
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    () => plans.view,
    (view) => {
      clearTimeout(timer)
      if (!view) {
        review.value = null
        isRead.value = false
        return
      }
      timer = setTimeout(() => {
        void plans.review().then((found) => {
          review.value = found
          isRead.value = found !== null
        })
      }, AFTER_EDIT_MS)
    },
    { immediate: true },
  )
  return { review, isRead, open }
})
