import { ref, readonly } from 'vue'
import { OfflineError } from '../api/client.ts'

const words = ref('')
/** What went wrong on this page that no screen has words for; empty while nothing did. */
export const trouble = readonly(words)

/** Says what nobody expected; what the developer needs goes to the console. That the server is away is said elsewhere. */
export const reportTrouble = (error: unknown): void => {
  window.reportError(error)
  if (!(error instanceof OfflineError))
    words.value = `Something on this page went wrong: ${error instanceof Error ? error.message : String(error)}. What you changed is kept.`
}
export const reportMissingPart = (): void => {
  words.value =
    'A part of this page could not be fetched: Geodrome was renewed since it was opened, or the server is away. What you changed is kept.'
}
export const forgetTrouble = (): void => {
  words.value = ''
}
