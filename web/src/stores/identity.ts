import { useLocalStorage } from '@vueuse/core'

/** Who edits here: a name is asked for since there are no accounts; it goes with every change. */
export const authorName = useLocalStorage('geodrome-author', 'Analyst')

/** This page load. Two tabs are two clients, a duplicated one included: what one changes is news to the other. */
export const clientId = crypto.randomUUID()

const KEY = 'geodrome-client'
/** The client that this tab was before it was loaded again; null in a new tab. */
export const previousClientId = sessionStorage.getItem(KEY)
sessionStorage.setItem(KEY, clientId)
