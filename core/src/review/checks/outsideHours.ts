import type { Plan } from '../../plan/schema.ts'
import { hoursWords } from '../../words/durations.ts'
import type { Check, Found } from '../check.ts'

/** Without resources, or hours of their own, there is nothing to hold against the hours of work. */
export const lacksHours = ({ resources }: Plan): string | null => {
  if (resources.length === 0) return 'no resources'
  return resources.every(({ calendar }) => calendar === null) ? 'no hours of resources' : null
}

/** Work that people or plant are to do outside the hours of their own calendar. */
export const outsideHours: Check = {
  id: 'outside-hours',
  topic: 'Cost',
  title: 'Work outside the hours of who does it',
  clean: 'all work lies in the hours of those who do it',
  lacks: lacksHours,
  why: 'An activity works by its own calendar. Where those who do it have other hours, it is planned to go on without them, and no load is counted then.',
  of: 'activities',
  bias: { direction: 'too early', because: 'work goes on while those who do it are away' },
  limit: null,
  find(context) {
    const { network, plan } = context
    // Visitors are meant to come and go.
    const visits = new Set(
      plan.assignments.flatMap(({ activity, resource, drives }) =>
        drives === false ? [`${resource}/${activity}`] : [],
      ),
    )
    return context.loads.flatMap(({ resource, outside }) =>
      outside.flatMap(({ activity, minutes }): Found[] => {
        const { id, code } = network.activities[activity]!
        if (visits.has(`${resource.id}/${id}`)) return []
        const name = resource.name || resource.code
        return [
          {
            place: `${resource.id}/${id}`,
            facts: { resource: name, hours: context.calendarName(resource.calendar!) },
            severity: 'caution',
            activities: [id],
            links: [],
            message: `${code} works ${hoursWords(minutes)} outside the hours of ${name}`,
            value: null,
            threshold: null,
            effect: { kind: 'unknown' },
            repairs: [],
          },
        ]
      }),
    )
  },
}
