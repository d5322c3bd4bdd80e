import { useLocalStorage } from '@vueuse/core'

/** Who edits here: a name is asked for since there are no accounts; it goes with every change. */
export const authorName = useLocalStorage('geodrome-author', 'Analyst')

/** This tab. Two tabs are two clients: what one changes is news to the other. */
export const clientId = crypto.randomUUID()
