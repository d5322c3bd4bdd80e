import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { SheetMapping } from '@geodrome/core'
import { api, OfflineError } from '../api/client.ts'

/**
 * How the columns of lists are read, by their heads and who sends them: kept on the server, so that a sender's next list is read as
 * the last one was, in whatever browser.
 */
export const useSheetMappings = defineStore('sheetMappings', () => {
  const known = shallowRef<readonly SheetMapping[]>([])
  /** Who sent the list that is being read; '' where nobody is named. */
  const sender = ref('')
  let loading: Promise<void> | null = null

  const load = (): Promise<void> =>
    (loading ??= api.sheetMappings().then(
      (list) => void (known.value = list),
      () => void (loading = null),
    ))
  const isFrom = (mapping: SheetMapping): boolean =>
    mapping.sender.toLowerCase() === sender.value.trim().toLowerCase()
  /** The mapping of the named sender; with no name, or none of theirs, the latest for such heads. */
  const of = (heads: string): SheetMapping | undefined => {
    const fitting = known.value.filter((m) => m.heads === heads)
    return fitting.find(isFrom) ?? fitting[0]
  }
  const keep = (heads: string, mapping: SheetMapping['mapping']): void => {
    const kept = { heads, sender: sender.value.trim(), mapping }
    known.value = [kept, ...known.value.filter((m) => m.heads !== heads || !isFrom(m))]
    // Where the server is away, it is known until the page is left; nothing of the plan depends on it.
    api.keepSheetMapping(kept).catch((error: unknown) => {
      if (!(error instanceof OfflineError)) throw error
    })
  }
  const senders = computed(() => [...new Set(known.value.map((m) => m.sender).filter(Boolean))].sort())
  return { sender, senders, load, of, keep }
})
