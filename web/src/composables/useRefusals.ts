import { reactive, watch } from 'vue'

/** What a reader of texts gives back. */
interface Reading {
  readonly ok: boolean
  readonly why?: string
}

/**
 * What was typed and is not understood: why, by field, until something else is typed there.
 * @param of - what the fields are of; of another nothing has been refused yet
 */
export const useRefusals = (
  of: () => unknown = () => null,
): {
  readonly why: ReadonlyMap<string, string>
  refuse(field: string, reason: string): void
  accept(field: string): void
  /** Keeps what was read, or says why it was not understood. */
  take(field: string, read: Reading, keep: () => void): void
} => {
  const why = reactive(new Map<string, string>())
  watch(of, () => why.clear())
  const refuse = (field: string, reason: string): void => void why.set(field, reason)
  const accept = (field: string): void => void why.delete(field)
  return {
    why,
    refuse,
    accept,
    take: (field, read, keep) => {
      if (!read.ok) return refuse(field, read.why ?? '')
      accept(field)
      keep()
    },
  }
}
