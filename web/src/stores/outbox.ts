import { delMany, entries, set } from 'idb-keyval'
import { toRaw } from 'vue'
import type { KeptChanges, Outbox } from '../session/sessionPorts.ts'
import { account } from './account.ts'
import { clientId, previousClientId } from './identity.ts'

/** Whoever signs in in this browser has outboxes of their own: what waits is sent by who made it. */
const prefix = (planId: string): string => `${mine()}${planId} `
const mine = (): string => (account.value === null ? 'outbox ' : `outbox of ${account.value.id} `)
const lockOf = (client: string): string => `geodrome-tab ${client}`

// Held as long as this tab lives: another tab tells by it whether an outbox has lost its owner.
void navigator.locks?.request(lockOf(clientId), () => new Promise(() => undefined))

/** Whether the outbox of a client is this tab's, of before a reload too, or of a tab that is gone. */
const isLeftBehind = async (client: string): Promise<boolean> =>
  client === clientId ||
  client === previousClientId ||
  !navigator.locks ||
  navigator.locks.request(lockOf(client), { ifAvailable: true }, (lock) => lock !== null)

/**
 * Unsent changes of a plan, kept in IndexedDB so that they survive a reload while the server is away. Each tab has an outbox of
 * its own; one left behind is taken over. Taking over twice does no harm: a change that is sent twice is applied once.
 */
export const outbox: Outbox = {
  async read(planId) {
    const all = (await entries<string, KeptChanges>()).filter(([key]) => key.startsWith(prefix(planId)))
    const taken: [string, KeptChanges][] = []
    for (const entry of all) if (await isLeftBehind(entry[0].slice(prefix(planId).length))) taken.push(entry)
    const kept: KeptChanges = {
      pending: taken.flatMap(([, k]) => k.pending),
      setAside: taken.flatMap(([, k]) => k.setAside),
    }
    await outbox.write(planId, kept)
    await delMany(taken.map(([key]) => key).filter((key) => key !== prefix(planId) + clientId))
    return kept
  },
  write: (planId, kept) =>
    set(prefix(planId) + clientId, {
      pending: kept.pending.map((item) => toRaw(item)),
      setAside: kept.setAside.map((item) => toRaw(item)),
    }),
}

/** How many changes of each plan wait in this browser to be sent or decided about, by plan; none where it keeps nothing. */
export const waitingByPlan = async (): Promise<ReadonlyMap<string, number>> => {
  const counts = new Map<string, number>()
  try {
    for (const [key, { pending, setAside }] of await entries<string, KeptChanges>()) {
      const planId = key.startsWith(mine()) ? /^(\S+) \S+$/.exec(key.slice(mine().length))?.[1] : undefined
      const count = pending.length + setAside.length
      if (planId !== undefined && count > 0) counts.set(planId, (counts.get(planId) ?? 0) + count)
    }
  } catch {
    // A browser that keeps nothing has nothing waiting.
  }
  return counts
}
