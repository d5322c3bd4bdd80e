import { NONE } from '../../network/network.ts'
import { floatCause } from '../../schedule/floatCause.ts'
import type { Check, Finding } from '../check.ts'

/** Negative float, grouped by the one date that causes it: the symptom may stand on forty activities, the cause is one. */
export const negativeFloat: Check = {
  id: 'negative-float',
  topic: 'Float',
  title: 'Negative float, by cause',
  clean: 'no negative float',
  why: 'The plan cannot keep this date as it stands. Until it can, float and criticality along these activities are measured against a date that will not be met.',
  find({ plan, schedule }) {
    const { network, float } = schedule
    const byCause = new Map<string, { members: string[]; worst: number; cause: ReturnType<typeof floatCause> }>()
    network.activities.forEach((activity, i) => {
      const total = float.total[i]!
      if (total === NONE || total >= 0) return
      const cause = floatCause(schedule, i)
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
            ? `the date on ${code} (${cause.constraint.edge} ${cause.constraint.rule.replace('-', ' ')} ${cause.constraint.date.replace('T', ' ')}) cannot be kept`
            : `the required finish ${plan.project.requiredFinish?.replace('T', ' ') ?? ''} cannot be kept`,
        value: worst,
        threshold: 0,
        effect: { kind: 'short', minutes: -worst },
        fingerprint: `${this.id} ${key} ${worst}`,
        repairs: [],
      }
    })
  },
}
