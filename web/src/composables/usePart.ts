import { computed, type ComputedRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * Which part of a stage is shown. It stands in the address, so that it can be gone back to and sent; the first shown has the address of the
 * stage itself.
 * @param stage - its name in the router @param parts - by name, with their labels
 */
export const usePart = <P extends string>(
  stage: string,
  parts: readonly (readonly [name: P, label: string])[],
  first: P,
): { readonly part: ComputedRef<P>; readonly go: (to: P) => void } => {
  const route = useRoute()
  const router = useRouter()
  return {
    part: computed(() => parts.find(([name]) => name === route.params.part)?.[0] ?? first),
    go: (to) => void router.push({ name: stage, params: { ...route.params, part: to === first ? '' : to } }),
  }
}
