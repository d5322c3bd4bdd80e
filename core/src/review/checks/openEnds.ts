import type { Check, Finding } from '../check.ts'

/** Activities without a predecessor or successor that the project does not declare as a start or finish of the network. */
export const openEnds: Check = {
  id: 'open-end',
  topic: 'Logic',
  title: 'Open ends',
  clean: 'no open ends but the declared ones',
  why: 'Nothing pushes an activity without a predecessor, and nothing waits for one without a successor: a delay there stops nowhere, so its float and every forecast are too good.',
  bias: 'too good',
  find({ plan }) {
    const hasBefore = new Set(plan.links.map((link) => link.to))
    const hasAfter = new Set(plan.links.map((link) => link.from))
    const opens = new Set(plan.project.opens)
    const closes = new Set(plan.project.closes)
    const finding = (id: string, code: string, end: 'start' | 'finish'): Finding => ({
      check: this.id,
      topic: this.topic,
      severity: 'moves-answer',
      activities: [id],
      links: [],
      message: end === 'start' ? `${code} waits for nothing` : `Nothing waits for ${code}`,
      value: 1,
      threshold: 0,
      effect: { kind: 'unknown' },
      fingerprint: `${this.id} ${id} ${end}`,
      repairs: [
        {
          label: end === 'start' ? 'Declare it a start of the network' : 'Declare it a finish of the network',
          change:
            end === 'start'
              ? { kind: 'project', set: { opens: [...plan.project.opens, id] } }
              : { kind: 'project', set: { closes: [...plan.project.closes, id] } },
        },
      ],
    })
    return plan.activities.flatMap((activity) => {
      if (activity.kind === 'hammock') return []
      const found: Finding[] = []
      if (!hasBefore.has(activity.id) && !opens.has(activity.id)) found.push(finding(activity.id, activity.code, 'start'))
      if (!hasAfter.has(activity.id) && !closes.has(activity.id)) found.push(finding(activity.id, activity.code, 'finish'))
      return found
    })
  },
}
