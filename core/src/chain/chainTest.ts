import { instantOf } from '../time/instant.ts'
import type { Activity, AgreedChain, ChainSettings, Plan } from '../plan/schema.ts'
import { estimatesOf } from '../forecast/whichEstimate.ts'
import { percentileSorted, shareAtOrBelow } from '../forecast/percentile.ts'
import { drawAgain } from '../forecast/simulate/iterate.ts'
import { simulationModel, type SimulationOptions } from '../forecast/simulate/model.ts'
import { bufferEnd } from './bufferEnds.ts'
import { currentChain } from './currentChain.ts'
import { isChainWork } from './focused.ts'

/** Whether a buffer is enough, in a run of the network with what may vary. */
export interface BufferTest {
  readonly id: string
  /** Share of the iterations in which what it protects ends within it. */
  readonly enough: number
  /** Size that gives the asked confidence, working minutes of the buffers' calendar. */
  readonly minutesFor: number
}

/** Without an estimate work takes what it is focused on, likely, and what is safe at most. */
const withEstimates = (focused: Plan, given: Plan): Plan => {
  const held = estimatesOf(given)
  return {
    ...focused,
    spreads: [],
    activities: focused.activities.map((activity, i): Activity => {
      const before = given.activities[i]
      if (before?.id !== activity.id || !isChainWork(before)) return activity
      const found = held(before)
      if (found.from !== 'none') return { ...activity, estimate: found.estimate }
      const { duration } = activity
      return {
        ...activity,
        estimate: {
          low: duration,
          likely: duration,
          high: Math.max(duration, before.duration),
          shape: 'pert',
          ends: 'extremes',
        },
      }
    }),
  }
}

/**
 * The agreed network run with drawn durations, as it goes on from now (semantics2.md section 16, step 9): one result per agreed buffer, in
 * their order. The project's says how often the promised finish is kept.
 * @throws LevelError, CalendarError
 */
export const chainTest = (
  given: Plan,
  settings: ChainSettings,
  agreed: AgreedChain,
  options: SimulationOptions,
): BufferTest[] => {
  const plan = withEstimates(currentChain(given, settings, agreed).plan, given)
  const model = simulationModel(plan, options)
  const { network, iterations } = model
  const hours = network.calendars.get(settings.calendar ?? plan.project.calendar)
  const ends = agreed.buffers.map(() => new Int32Array(iterations))
  const endOf = agreed.buffers.map((buffer) => bufferEnd(network, agreed, buffer))
  drawAgain(model, 0, iterations, (k, _, { early }) =>
    endOf.forEach((end, b) => (ends[b]![k] = end(early) ?? instantOf(agreed.buffers[b]!.start, 'start'))),
  )
  return agreed.buffers.map(({ id, start, finish }, b): BufferTest => {
    const sorted = ends[b]!.sort()
    const end = percentileSorted(sorted, 100 * settings.confidence)
    const begin = instantOf(start, 'start')
    return {
      id,
      enough: shareAtOrBelow(sorted, instantOf(finish, 'finish')),
      minutesFor: Math.max(0, hours.countBefore(end) - hours.countBefore(begin)),
    }
  })
}
