import { NONE, State } from '../../network/network.ts'
import { bindingSuccessor } from '../../schedule/floatCause.ts'
import { durationWords } from '../../words/durations.ts'
import { counted } from '../../words/counted.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { addLink } from '../repairChanges.ts'

interface Group {
  readonly root: number
  readonly members: string[]
}

/** More float than anyone could mean, grouped by the end of the chain that gives it: one missing link explains them all. */
export const highFloat: Check = {
  id: 'high-float',
  topic: 'Float',
  title: 'Very high float, by the link that is missing',
  clean: 'no very high float',
  why: 'Nobody plans to be that early. Most often something that needs this work is not linked to it, so its delay would not be seen.',
  of: 'activities',
  bias: { direction: 'too early', because: 'what is delayed by a missing link stays where it is' },
  limit: {
    default: 30,
    unit: 'days',
    label: 'total float more than, in days of its calendar',
    min: 1,
    max: 10_000,
    reason: 'six working weeks: half of a refit of three months',
  },
  find(context) {
    const { network, schedule, limits } = context
    const limit = limits['high-float']!
    const isHigh = (i: number): boolean => {
      const total = schedule.float.total[i]!
      return total !== NONE && network.state[i] !== State.Finished && total > limit * context.dayMinutes[i]!
    }
    const rootOf = new Int32Array(network.order.length).fill(-1)
    const groups = new Map<number, Group>()
    for (let at = network.order.length - 1; at >= 0; at--) {
      const i = network.order[at]!
      if (!isHigh(i)) continue
      const next = bindingSuccessor(schedule, i)
      const root = next !== null && rootOf[next]! >= 0 ? rootOf[next]! : i
      rootOf[i] = root
      const group = groups.get(root) ?? { root, members: [] }
      group.members.push(network.activities[i]!.id)
      groups.set(root, group)
    }
    return [...groups.values()].map((group) => finding(context, group, limit))
  },
}

const finding = (context: ReviewContext, { root, members }: Group, limit: number): Found => {
  const { network, schedule } = context
  const activity = network.activities[root]!
  const next = bindingSuccessor(schedule, root)
  const lengths = context.lengthsOf(activity)
  const total = schedule.float.total[root]!
  const waits =
    next === null ? 'nothing waits for it' : `${network.activities[next]!.code} is the first to need it`
  return {
    place: activity.id,
    facts: {
      'last of them': activity.code,
      'needed by': next === null ? 'nothing' : network.activities[next]!.code,
    },
    severity: 'caution',
    activities: members.reverse(),
    links: [],
    message: `${activity.code} could be ${durationWords(total, lengths)} late before it matters: ${waits}${members.length > 1 ? `, and ${counted(members.length - 1, 'activity')} before it` : ''}`,
    value: total / lengths.dayMinutes,
    threshold: limit,
    effect: { kind: 'unknown' },
    repairs: repairsOf(context, root, next),
  }
}

/** Whatever needs it, the declared finish does; a nearer successor is for the planner to name. */
const repairsOf = (context: ReviewContext, root: number, next: number | null): Repair[] => {
  const { network, plan } = context
  const id = network.activities[root]!.id
  const close = plan.project.closes.at(-1)
  if (next !== null || close === undefined || close === id) return []
  return [
    {
      kind: 'link',
      label: `Let ${context.code(close)} wait for it`,
      change: addLink(context.newLink(id, close, 'FS')),
    },
  ]
}
