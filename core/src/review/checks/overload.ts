import { applyChange } from '../../plan/applyChange.ts'
import type { Change } from '../../plan/change.ts'
import { PlanError } from '../../plan/issue.ts'
import { State } from '../../network/network.ts'
import { overloadGroups } from '../../cost/overloadGroups.ts'
import { counted } from '../../words/counted.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'

/** Beyond so many overloads levelling is the way, not one link after the other. */
const MOST_REPAIRED = 20

/** More of people or plant asked for at once than there is. */
export const overload: Check = {
  id: 'overload',
  topic: 'Cost',
  title: 'People and plant asked for more than once',
  clean: 'there are as many people and as much plant as are asked for',
  lacks: ({ resources, assignments }) =>
    resources.length === 0 ? 'no resources' : assignments.length === 0 ? 'no assignments' : null,
  why: 'The dates do not wait for resources: what needs the same one at once is planned at once. Somebody will wait, and the plan does not say who.',
  of: 'activities',
  bias: { direction: 'too early', because: 'work that needs the same resource is planned at the same time' },
  limit: null,
  find(context) {
    const { network } = context
    let repaired = 0
    return context.loads.flatMap((load) =>
      overloadGroups(load).map((group): Found => {
        const ids = group.activities.map((i) => network.activities[i]!.id)
        const codes = group.activities.map((i) => network.activities[i]!.code)
        const name = load.resource.name || load.resource.code
        return {
          place: `${load.resource.id}/${ids.join('+')}/${load.overloads.findIndex(({ from }) => from === group.from)}`,
          facts: {
            resource: name,
            asked: String(group.load),
            there: String(group.available),
            by: codes.join(', '),
          },
          severity: 'caution',
          activities: ids,
          links: [],
          message: `${name}: ${codes.join(', ')} ask for ${group.load} of ${group.available} on ${counted(group.days, 'day')}`,
          value: null,
          threshold: null,
          effect: { kind: 'unknown' },
          repairs: repaired++ < MOST_REPAIRED ? waitRepairs(context, group.activities, name) : [],
        }
      }),
    )
  },
}

/** Of two, the one that starts later waits, where the links allow it. */
const waitRepairs = (context: ReviewContext, activities: readonly number[], name: string): Repair[] => {
  if (activities.length !== 2) return []
  const { start } = context.schedule
  const { network, plan } = context
  const [first, second] = [...activities].sort((a, b) => start[a]! - start[b]!) as [number, number]
  if (network.state[second] !== State.NotStarted) return []
  const [from, to] = [network.activities[first]!, network.activities[second]!]
  const item = {
    ...context.newLink(from.id, to.id, 'FS'),
    nature: 'resource',
    reason: `${name} is handed over`,
  }
  const change: Change = { kind: 'add', list: 'links', item, before: null }
  try {
    applyChange(plan, change)
  } catch (error) {
    if (error instanceof PlanError) return []
    throw error
  }
  return [{ kind: 'wait', label: `${to.code} waits for ${from.code}`, change }]
}
