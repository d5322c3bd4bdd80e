import { instantOf } from '../time/instant.ts'
import type { Plan } from '../plan/schema.ts'
import { State } from '../network/network.ts'

/** What became of a promise, or will: `late` where the network pushes its finish beyond it, `wish` on work that has not begun. */
export type PromiseState = 'kept' | 'missed' | 'late' | 'wish' | 'past' | 'open'
export interface PromiseLine {
  readonly activity: number
  readonly by: string
  readonly finish: string
  readonly state: PromiseState
}

/**
 * Every promise of a plan on its dates. Who promised is whoever is named with it, else the owner of the activity. Kept: finished not
 * after the promise's instant.
 */
export const promisesOf = (
  plan: Plan,
  { state, finish }: { readonly state: Uint8Array; readonly finish: Int32Array },
): PromiseLine[] => {
  const { statusDate } = plan.project
  const status = statusDate === null ? null : instantOf(statusDate, 'start')
  return plan.activities.flatMap(({ promise, owner }, activity): PromiseLine[] => {
    if (promise === null) return []
    const due = instantOf(promise.finish, 'finish')
    const became = ((): PromiseState => {
      if (state[activity] === State.Finished) return finish[activity]! <= due ? 'kept' : 'missed'
      if (state[activity] !== State.Started) return 'wish'
      if (status !== null && due <= status) return 'past'
      return finish[activity]! > due ? 'late' : 'open'
    })()
    return [{ activity, by: promise.by || owner || 'Nobody named', finish: promise.finish, state: became }]
  })
}
