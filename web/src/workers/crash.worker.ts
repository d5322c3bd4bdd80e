import wasmUrl from 'highs/runtime?url'
import {
  applyChange,
  crash,
  crashChange,
  crashSteps,
  eventNetwork,
  loadSolver,
  needsSolver,
  pert,
  priceOf,
  type CrashPoint,
  type CrashResult,
  type Plan,
} from '@geodrome/core'
import type { CrashRequest, CrashStepView, CrashView } from './crashProtocol.ts'
import { serveLongWork } from './longWork.ts'

const run = async ({ plan, to, whole: isWhole }: CrashRequest): Promise<CrashView> => {
  const whole = isWhole ? 1 : null
  const solver = needsSolver(eventNetwork(plan, to), whole) ? await loadSolver(wasmUrl) : null
  const result = crash(plan, { curve: true, whole, to, basis: 'calendars' }, solver)
  const { network } = result
  const idOf = (i: number): string => plan.activities[i]!.id
  return {
    steps: crashSteps(result, to).map(({ point, finish, cost, changes, perDay, notUsed }): CrashStepView => {
      const change = crashChange(result, point)
      const { probability, dateAtConfidence } = pert(applyChange(plan, change).plan, { to })
      return {
        finish,
        cost,
        perDay,
        change,
        pert: { probability, dateAtConfidence },
        changes: changes.map(({ activity, minutes }) => ({
          activity: idOf(activity),
          minutes,
          option: optionOf(result, point, activity),
        })),
        crashed: network.shortenings.flatMap((one) => {
          const minutes = point.amounts.get(one.activity)
          if (minutes === undefined) return []
          const option = optionOf(result, point, one.activity)
          return [{ activity: idOf(one.activity), minutes, price: priceOf(one, minutes), option }]
        }),
        notUsed: [...notUsed]
          .sort((a, b) => a.slope - b.slope)
          .map(({ activity, ...rest }) => ({ ...rest, activity: idOf(activity) })),
      }
    }),
    blocking: result.blocking,
    waits: network.waits.map(({ activity, until }) => ({ activity: idOf(activity), until })),
    isProven: isOfOneCalendar(plan, network.waits.length, result),
    crashable: network.shortenings.length,
  }
}

/** The name of the option by which an activity is crashed; empty where it has none. */
const optionOf = ({ network }: CrashResult, point: CrashPoint, activity: number): string => {
  const one = network.shortenings.find((shortening) => shortening.activity === activity)
  const minutes = point.amounts.get(activity)
  return one?.crashable.options?.find(({ saves }) => saves === minutes)?.name ?? ''
}

const isOfOneCalendar = (plan: Plan, waits: number, { network: { network } }: CrashResult): boolean =>
  waits === 0 &&
  [...network.calendar, ...network.linkCalendar].every(({ id }) => id === plan.project.calendar)

serveLongWork<CrashRequest, CrashView>(async (request, say) => say(await run(request)))
