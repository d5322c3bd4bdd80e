import { get, set } from 'idb-keyval'
import { toRaw } from 'vue'
import type { Change } from '@geodrome/core'

/** A change that was made here and is not yet known to be stored. */
export interface PendingChange {
  readonly uid: string
  readonly client: string
  readonly author: string
  readonly base: number
  readonly change: Change
  readonly undoes: string | null
  /** What it did, in words, for the lists in which it may appear. */
  readonly label: string
}
/** A change that the server refused: kept until its author decides. */
export interface SetAside extends PendingChange {
  readonly reason: string
  readonly theirs: readonly { readonly author: string; readonly label: string }[]
}

interface Stored {
  readonly pending: readonly PendingChange[]
  readonly setAside: readonly SetAside[]
}

const key = (planId: string): string => `outbox ${planId}`

/** Unsent changes of a plan, kept in IndexedDB so that they survive a reload while the server is away. */
export const readOutbox = async (planId: string): Promise<Stored> => (await get<Stored>(key(planId))) ?? { pending: [], setAside: [] }

export const writeOutbox = (planId: string, stored: Stored): Promise<void> =>
  set(key(planId), { pending: stored.pending.map((p) => toRaw(p)), setAside: stored.setAside.map((s) => toRaw(s)) })
