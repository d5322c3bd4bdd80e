import type { Check } from '../check.ts'

/** Networks in which few links are finish-to-start. */
export const fewFinishStarts: Check = {
  id: 'few-finish-starts',
  topic: 'Logic',
  title: 'Share of finish-to-start links',
  clean: 'most links are finish-to-start',
  why: 'A finish-to-start link says what is handed over. Many others are a sign that work was cut too coarse: activities run beside each other, and nobody can say what the one needs of the other.',
  of: 'project',
  bias: null,
  limit: {
    default: 0.75,
    unit: 'share',
    label: 'finish-to-start links less than',
    min: 0,
    max: 1,
    reason: 'refits overlap more than building from nothing, where nine in ten are usual',
  },
  find({ plan, limits }) {
    const limit = limits['few-finish-starts']!
    const others = plan.links.filter((link) => link.type !== 'FS')
    if (plan.links.length === 0) return []
    const share = 1 - others.length / plan.links.length
    if (share >= limit) return []
    return [
      {
        place: 'project',
        facts: { 'finish-to-start': `${plan.links.length - others.length} of ${plan.links.length}` },
        severity: 'caution',
        activities: [],
        links: others.map((l) => l.id),
        message: `${plan.links.length - others.length} of ${plan.links.length} links are finish-to-start`,
        value: share,
        threshold: limit,
        effect: { kind: 'unknown' },
        repairs: [],
      },
    ]
  },
}
