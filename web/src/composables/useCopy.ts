import { ref, type Ref } from 'vue'

/** Copies a text for the user to paste elsewhere. */
export const useCopy = (): {
  readonly isCopied: Ref<boolean>
  /** @throws Error with what to do instead where the browser does not let the page copy */
  copy(text: string): Promise<void>
} => {
  const isCopied = ref(false)
  return {
    isCopied,
    async copy(text) {
      // On an address that is not secure a page may not copy.
      if (!(navigator as Partial<Navigator>).clipboard)
        throw new Error('the browser does not let this page copy; mark the address and copy it with Ctrl C')
      await navigator.clipboard.writeText(text)
      isCopied.value = true
    },
  }
}
