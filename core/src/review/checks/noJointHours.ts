import { horizonAround, jointPlan } from '../../cost/level/jointPlan.ts'
import { keyOf } from '../../plan/change.ts'
import type { Check, Found } from '../check.ts'
import { lacksHours } from './outsideHours.ts'

/** Work that has no hour in common with people or plant that drive it. */
export const noJointHours: Check = {
  id: 'no-joint-hours',
  topic: 'Cost',
  title: 'Work without an hour in common with who does it',
  clean: 'all work has hours in common with those who do it',
  lacks: lacksHours,
  why: 'It could never be done by them: levelling keeps its own calendar and says so.',
  of: 'activities',
  bias: { direction: 'too early', because: 'it is planned though nobody is ever there for it' },
  limit: null,
  find(context) {
    const { plan, schedule } = context
    if (lacksHours(plan) !== null) return []
    const { without } = jointPlan(plan, horizonAround(schedule.projectStart, schedule.projectFinish))
    return without.map(({ activity, resource }): Found => {
      const { name, code } = plan.resources.find(({ id }) => id === resource)!
      const assignment = plan.assignments.find((a) => a.activity === activity && a.resource === resource)!
      return {
        place: `${resource}/${activity}`,
        facts: { resource: name || code },
        severity: 'caution',
        activities: [activity],
        links: [],
        message: `${context.code(activity)} and ${name || code} have no working hour in common`,
        value: null,
        threshold: null,
        effect: { kind: 'unknown' },
        repairs: [
          {
            kind: 'visitor',
            label: `${name || code} stops nothing`,
            change: {
              kind: 'set',
              list: 'assignments',
              key: keyOf('assignments', assignment),
              set: { drives: false },
            },
          },
        ],
      }
    })
  },
}
