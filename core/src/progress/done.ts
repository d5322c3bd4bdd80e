import type { Plan, Project } from '../plan/schema.ts'
import { Kind, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activityCosts } from '../cost/activityCosts.ts'

/** How much of each activity is done, and how much each counts in a group; by position. */
export interface Done {
  /** From 0 to 1. */
  readonly share: Float64Array
  /** Minutes of work, hours of people, money or 1 each, as the weighting has it; 0 for hammocks, which only span others. */
  readonly weight: Float64Array
}

/** What is done of every activity: of work under way what is not left of its duration, of points nothing until they are there. */
export const doneOf = (
  made: Schedule,
  weighting: Project['weighting'] = made.network.plan.project.weighting,
): Done => {
  const { network } = made
  const share = Float64Array.from(network.activities, ({ duration }, i) => {
    if (network.state[i] === State.Finished) return 1
    if (network.state[i] !== State.Started || network.kind[i] !== Kind.Work) return 0
    return Math.max(0, 1 - network.remaining[i]! / Math.max(1, duration))
  })
  const weight = weightsBy[weighting](made)
  network.kind.forEach((kind, i) => kind === Kind.Hammock && (weight[i] = 0))
  return { share, weight }
}

/** Share done of several together, 0 to 1; null where none of them counts. */
export const doneTogether = ({ share, weight }: Done, members: Iterable<number>): number | null => {
  let [done, all] = [0, 0]
  for (const i of members) {
    done += share[i]! * weight[i]!
    all += weight[i]!
  }
  return all === 0 ? null : done / all
}

const weightsBy: Readonly<Record<Project['weighting'], (made: Schedule) => Float64Array>> = {
  duration: ({ network }) => Float64Array.from(network.activities, ({ duration }) => duration),
  work: ({ network }) => {
    const people = peopleOn(network.plan)
    return Float64Array.from(
      network.activities,
      ({ id, duration }) => ((people.get(id) ?? 0) * duration) / 60,
    )
  },
  cost: (made) => Float64Array.from(activityCosts(made).atCompletion),
  count: ({ network }) => new Float64Array(network.activities.length).fill(1),
}

/** How many people are assigned to each activity. */
const peopleOn = ({ resources, assignments }: Plan): ReadonlyMap<string, number> => {
  const people = new Set(resources.filter(({ kind }) => kind === 'people').map(({ id }) => id))
  const on = new Map<string, number>()
  for (const { activity, resource, amount } of assignments)
    if (people.has(resource)) on.set(activity, (on.get(activity) ?? 0) + amount)
  return on
}
