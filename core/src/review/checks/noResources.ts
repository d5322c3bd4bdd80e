import { Kind } from '../../network/network.ts'
import { NOTHING, type Check, type Found } from '../check.ts'

/** Work that nobody is assigned to, in a plan that has resources. */
export const noResources: Check = {
  id: 'no-resources',
  topic: 'Cost',
  title: 'Work that nobody is assigned to',
  clean: 'all work has somebody to do it',
  lacks: (plan) => (plan.resources.length === 0 ? 'no resources' : null),
  why: 'Work without people or plant costs nothing and competes with nothing. Loads and cost over time are too low where it stands.',
  of: 'activities',
  bias: { direction: 'too early', because: 'work without resources never waits for any' },
  limit: null,
  find(context) {
    const { network, plan } = context
    if (plan.resources.length === 0) return []
    const assigned = new Set(plan.assignments.map((a) => a.activity))
    return network.activities.flatMap(({ id, code, duration }, i): Found[] => {
      if (network.kind[i] !== Kind.Work || context.isFinished(i) || duration === 0 || assigned.has(id))
        return NOTHING
      return [
        {
          place: id,
          facts: { assigned: 'nobody' },
          severity: 'caution',
          activities: [id],
          links: [],
          message: `Nobody is assigned to ${code}`,
          value: 1,
          threshold: 0,
          effect: { kind: 'unknown' },
          repairs: [],
        },
      ]
    })
  },
}
