import { delMany, entries, set } from 'idb-keyval'
import { toRaw } from 'vue'
import type { Change } from '@geodrome/core'
import { clientId, previousClientId } from './identity.ts'

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

const prefix = (planId: string): string => `outbox ${planId} `
const lockOf = (client: string): string => `geodrome-tab ${client}`

// Held as long as this tab lives: another tab tells by it whether an outbox has lost its owner.
void navigator.locks?.request(lockOf(clientId), () => new Promise(() => undefined))

/** Whether the outbox of a client is this tab's from before a reload, or of a tab that is gone. */
const isLeftBehind = async (client: string): Promise<boolean> =>
  client === previousClientId ||
  !navigator.locks ||
  navigator.locks.request(lockOf(client), { ifAvailable: true }, (lock) => lock !== null)

/**
 * Unsent changes of a plan, kept in IndexedDB so that they survive a reload while the server is away. Each tab has an outbox of
 * its own; one left behind is taken over. Taking over twice does no harm: a change that is sent twice is applied once.
 */
export const readOutbox = async (planId: string): Promise<Stored> => {
  const all = (await entries<string, Stored>()).filter(([key]) => key.startsWith(prefix(planId)))
  const taken: [string, Stored][] = []
  for (const entry of all) if (await isLeftBehind(entry[0].slice(prefix(planId).length))) taken.push(entry)
  const stored: Stored = {
    pending: taken.flatMap(([, s]) => s.pending),
    setAside: taken.flatMap(([, s]) => s.setAside),
  }
  await writeOutbox(planId, stored)
  await delMany(taken.map(([key]) => key))
  return stored
}

export const writeOutbox = (planId: string, stored: Stored): Promise<void> =>
  set(prefix(planId) + clientId, {
    pending: stored.pending.map((p) => toRaw(p)),
    setAside: stored.setAside.map((s) => toRaw(s)),
  })
