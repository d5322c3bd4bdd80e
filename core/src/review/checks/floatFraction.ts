import { NONE, State } from '../../network/network.ts'
import { formatInstant } from '../../time/instant.ts'
import { counted } from '../../words/counted.ts'
import { durationWords } from '../../words/durations.ts'
import { shortDay } from '../../words/dates.ts'
import type { Check, Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'

const clock = (at: number): string => formatInstant(at).slice(11)

/** Floats of less than a day, with the hours that make them, grouped by what the float is measured against. */
export const floatFraction: Check = {
  id: 'float-fraction',
  topic: 'Float',
  title: 'Float of a fraction of a day',
  clean: 'no float of a fraction of a day',
  why: 'Shown in whole days this float rounds to none or to one, and both are wrong. It is the difference between the hours of two calendars, not room that anybody has.',
  of: 'activities',
  bias: null,
  limit: null,
  find(context) {
    const { network } = context
    const members: number[] = []
    for (let i = 0; i < network.order.length; i++) if (isFraction(context, i)) members.push(i)
    if (members.length === 0) return []
    const causes = context.floatCauses
    const groups = new Map<string, number[]>()
    for (const i of members) {
      const cause = causes[i]!
      const key =
        cause.kind === 'constraint' ? `${cause.activity} ${cause.constraint.edge}` : 'required finish'
      const group = groups.get(key)
      if (group) group.push(i)
      else groups.set(key, [i])
    }
    return [...groups].map(([key, group]) => finding(context, key, group))
  },
}

const isFraction = (context: ReviewContext, i: number): boolean => {
  const { network, schedule } = context
  const total = schedule.float.total[i]!
  return total !== NONE && total > 0 && network.state[i] !== State.Finished && total < context.dayMinutes[i]!
}

const finding = (context: ReviewContext, key: string, group: readonly number[]): Found => {
  const { network, schedule } = context
  // The last of them is nearest to what the float is measured against.
  const last = group.reduce((a, b) => (schedule.finish[b]! > schedule.finish[a]! ? b : a))
  const activity = network.activities[last]!
  const total = schedule.float.total[last]!
  const lengths = context.lengthsOf(activity)
  const early = schedule.early.finish[last]!
  const late = schedule.lateFinishShown[last]!
  const hours = `${clock(early)} to ${shortDay(early, 'finish') === shortDay(late, 'finish') ? '' : `${shortDay(late, 'finish')} `}${clock(late)}`
  return {
    place: key,
    facts: { float: durationWords(total, lengths), hours },
    severity: 'caution',
    activities: group.map((i) => network.activities[i]!.id),
    links: [],
    message: `${counted(group.length, 'activity')} with less than a day of float: ${activity.code} has ${durationWords(total, lengths)}, ${hours} on ${shortDay(early, 'finish')}`,
    value: total / lengths.dayMinutes,
    threshold: 1,
    effect: { kind: 'none' },
    repairs: [],
  }
}
