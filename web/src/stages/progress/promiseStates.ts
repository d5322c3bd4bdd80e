import { instantOf, State, type Plan } from '@geodrome/core'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'

/** What became of a promise, or will: `late` where the network pushes its finish beyond it, `wish` on work that has not begun. */
export type PromiseState = 'kept' | 'missed' | 'late' | 'wish' | 'past' | 'open'
export interface PromiseLine {
  readonly id: string
  readonly index: number
  readonly code: string
  readonly name: string
  readonly by: string
  readonly finish: string
  readonly state: PromiseState
}

/** Every promise of a plan. Who promised is whoever is named with it, else the owner of the activity. */
export const promiseStates = (plan: Plan, view: ScheduleView): PromiseLine[] => {
  const { statusDate } = plan.project
  const status = statusDate === null ? null : instantOf(statusDate, 'start')
  return plan.activities.flatMap(({ id, code, name, promise, owner }, index): PromiseLine[] => {
    if (promise === null) return []
    const due = instantOf(promise.finish, 'finish')
    const state = ((): PromiseState => {
      if (view.state[index] === State.Finished) return view.finish[index]! <= due ? 'kept' : 'missed'
      if (view.state[index] !== State.Started) return 'wish'
      if (status !== null && due <= status) return 'past'
      return view.finish[index]! > due ? 'late' : 'open'
    })()
    return [
      { id, index, code, name, by: promise.by || owner || 'Nobody named', finish: promise.finish, state },
    ]
  })
}
