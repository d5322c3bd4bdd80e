import { limitsFinish, NONE } from '../../network/network.ts'
import { linkLimit } from '../../schedule/forwardPass.ts'
import { floatCauses, type FloatCause } from '../../schedule/floatCause.ts'
import { instantOf } from '../../time/instant.ts'
import { dateWords } from '../../words/dates.ts'
import type { Schedule } from '../../schedule/schedule.ts'
import type { Check, Finding } from '../check.ts'

/** Working minutes of the project calendar by which the causing date is missed. */
const missedBy = (schedule: Schedule, cause: FloatCause): number => {
  const { network } = schedule
  const calendar = network.calendars.get(network.plan.project.calendar)
  const i = network.indexOf.get(cause.activity)!
  const isRequired = cause.kind === 'required-finish'
  const limit = isRequired ? schedule.target : instantOf(cause.constraint.date, cause.constraint.edge)
  const reached = isRequired ? schedule.projectFinish : cause.constraint.edge === 'start' ? logicStart(schedule, i) : schedule.early.finish[i]!
  return Math.max(0, calendar.countBefore(reached) - calendar.countBefore(limit))
}

/** Where its links alone would start an activity that a date holds. */
const logicStart = (schedule: Schedule, i: number): number => {
  const { network, early } = schedule
  let latest = early.start[i]!
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
    if (!limitsFinish(network.linkCode[k]!)) latest = Math.max(latest, linkLimit(network, early, k))
  return latest
}

/** Negative float, grouped by the one date that causes it: the symptom may stand on forty activities, the cause is one. */
export const negativeFloat: Check = {
  id: 'negative-float',
  topic: 'Float',
  title: 'Negative float, by cause',
  clean: 'no negative float',
  why: 'The plan cannot keep this date as it stands. Until it can, float and criticality along these activities are measured against a date that will not be met.',
  bias: null,
  find({ plan, schedule }) {
    const { network, float } = schedule
    const causes = floatCauses(schedule)
    const byCause = new Map<string, { members: string[]; worst: number; cause: FloatCause }>()
    network.activities.forEach((activity, i) => {
      const total = float.total[i]!
      if (total === NONE || total >= 0) return
      const cause = causes[i]!
      const key = cause.kind === 'constraint' ? `${cause.activity} ${JSON.stringify(cause.constraint)}` : 'required finish'
      const group = byCause.get(key) ?? { members: [], worst: 0, cause }
      group.members.push(activity.id)
      group.worst = Math.min(group.worst, total)
      byCause.set(key, group)
    })
    return [...byCause].map(([key, { members, worst, cause }]): Finding => {
      const name = network.indexOf.get(cause.activity)
      const code = name === undefined ? '' : network.activities[name]!.code
      return {
        check: this.id,
        topic: this.topic,
        severity: 'moves-answer',
        activities: members,
        links: [],
        message:
          cause.kind === 'constraint'
            ? `${code} cannot keep its date: ${cause.constraint.edge} ${cause.constraint.rule.replace('-', ' ')} ${dateWords(cause.constraint.date, cause.constraint.edge)}`
            : `The required finish ${plan.project.requiredFinish === null ? '' : dateWords(plan.project.requiredFinish, 'finish')} cannot be kept`,
        value: worst,
        threshold: 0,
        effect: { kind: 'short', minutes: missedBy(schedule, cause) },
        fingerprint: `${this.id} ${key} ${worst}`,
        repairs: [],
      }
    })
  },
}
