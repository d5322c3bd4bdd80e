import { NOTHING, type Check, type Found } from '../check.ts'

/** Hammocks that do not hang between two posts. */
export const hammockEnds: Check = {
  id: 'hammock-ends',
  topic: 'Logic',
  title: 'Hammocks without both ends',
  clean: 'every hammock hangs between two ends',
  lacks: (plan) => (plan.activities.every(({ kind }) => kind !== 'hammock') ? 'no hammocks' : null),
  why: 'A hammock is as long as what it spans. Without an end it hangs from the start or finish of the whole project, and its cost with it; turned round it has no length at all.',
  of: 'activities',
  bias: null,
  limit: null,
  find({ plan, network, schedule }) {
    const sides = new Map<string, Set<string>>()
    for (const { to, type } of network.hammockLinks) {
      const known = sides.get(to)
      if (known) known.add(type)
      else sides.set(to, new Set([type]))
    }
    const inverted = new Set(
      schedule.warnings.filter((w) => w.code === 'hammock-inverted').map((w) => w.activity),
    )
    return plan.activities.flatMap(({ id, code, kind }): Found[] => {
      if (kind !== 'hammock') return NOTHING
      const has = sides.get(id) ?? new Set()
      const missing = [...(has.has('SS') ? [] : ['start']), ...(has.has('FF') ? [] : ['finish'])]
      if (missing.length === 0 && !inverted.has(id)) return NOTHING
      const isTurned = missing.length === 0
      return [
        {
          place: id,
          facts: { ends: isTurned ? 'turned round' : `no ${missing.join(' and no ')}` },
          severity: 'caution',
          activities: [id],
          links: [],
          message: isTurned
            ? `${code} is turned round: its finish comes before its start`
            : `${code} hangs from the project for want of a ${missing.join(' and a ')}`,
          value: 1,
          threshold: 0,
          effect: { kind: 'none' },
          repairs: [],
        },
      ]
    })
  },
}
