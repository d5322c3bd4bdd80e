import type { Change } from '../../plan/change.ts'
import { effectOf, type Check } from '../check.ts'

/** Leads: links with a negative lag, which start work on the strength of a date that is still a forecast. */
export const negativeLag: Check = {
  id: 'negative-lag',
  topic: 'Logic',
  title: 'Leads (negative lag)',
  clean: 'no leads',
  why: 'A lead starts work before the event it counts from has happened. When that event slips, the work has already begun; a forecast cannot see it.',
  bias: 'too good',
  find({ plan, finishMovesBy }) {
    const codes = new Map(plan.activities.map((a) => [a.id, a.code]))
    return plan.links
      .filter((link) => link.lag < 0)
      .map((link) => {
        const change: Change = { kind: 'set', list: 'links', key: link.id, set: { lag: 0 } }
        return {
          check: this.id,
          topic: this.topic,
          severity: 'caution' as const,
          activities: [link.from, link.to],
          links: [link.id],
          message: `${codes.get(link.to)} starts on a lead from ${codes.get(link.from)} (${link.type})`,
          value: link.lag,
          threshold: 0,
          effect: effectOf(finishMovesBy(change)),
          fingerprint: `${this.id} ${link.id} ${link.lag}`,
          repairs: [{ label: 'Take the lead away', change }],
        }
      })
  },
}
