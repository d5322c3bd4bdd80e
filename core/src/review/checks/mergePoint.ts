import { Kind } from '../../network/network.ts'
import type { Check, Found } from '../check.ts'

/** Activities on which many paths meet. */
export const mergePoint: Check = {
  id: 'merge-point',
  topic: 'Logic',
  title: 'Where many paths meet',
  clean: 'no crowded merges',
  why: 'Work that waits for many others starts with the latest of them, and one of many is nearly always late. A single-path calculation does not see it; a simulation does.',
  of: 'activities',
  bias: {
    direction: 'too early',
    because:
      'the latest of many is later than each alone (merge bias); PERT leaves it out, simulation does not',
  },
  limit: {
    default: 7,
    unit: 'count',
    label: 'links into one activity, more than',
    min: 2,
    max: 1000,
    reason: 'with eight equal paths that each keep their date nine times in ten, all of them do in 43 of 100',
  },
  find({ network, limits }) {
    const limit = limits['merge-point']!
    const found: Found[] = []
    network.activities.forEach(({ id, code }, i) => {
      const into = network.inStart[i + 1]! - network.inStart[i]!
      if (into <= limit || network.kind[i] === Kind.Hammock || network.state[i] !== 0) return
      const links = network.links.slice(network.inStart[i], network.inStart[i + 1])
      found.push({
        place: id,
        facts: { 'links into it': String(into) },
        severity: 'caution',
        activities: [id],
        links: links.map((l) => l.id),
        message: `${into} paths meet at ${code}`,
        value: into,
        threshold: limit,
        effect: { kind: 'unknown' },
        repairs: [],
      })
    })
    return found
  },
}
