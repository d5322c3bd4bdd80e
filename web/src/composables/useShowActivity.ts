import { useRoute, useRouter } from 'vue-router'
import { useUiStore } from '../stores/uiStore.ts'

/** Goes to the network, where an activity is selected and in view. */
export const useShowActivity = (): ((id: string) => Promise<void>) => {
  const route = useRoute()
  const router = useRouter()
  const ui = useUiStore()
  return async (id) => {
    await router.push({ name: 'network', params: { id: route.params.id as string } })
    ui.select(id, { show: true })
  }
}
