import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { account } from './account.ts'

const called = useLocalStorage('geodrome-author', 'Analyst')
/** Who edits here, which goes with every change: the account; where people do not sign in, what they call themselves. */
export const authorName = computed({
  get: () => account.value?.name ?? called.value,
  set: (name) => (called.value = name),
})

/** This page load. Two tabs are two clients, a duplicated one included: what one changes is news to the other. */
export const clientId = crypto.randomUUID()

const KEY = 'geodrome-client'
/** The client that this tab was before it was loaded again; null in a new tab. */
export const previousClientId = sessionStorage.getItem(KEY)
sessionStorage.setItem(KEY, clientId)
