import { Kind, State } from '../../network/network.ts'
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
    of: 'PERT',
    direction: 'too early',
    because: 'the latest of many is later than each alone (merge bias); simulation allows for it',
  },
  limit: {
    default: 7,
    unit: 'count',
    label: 'links into one activity, more than',
    min: 2,
    max: 1000,
    reason: 'with eight equal paths that each keep their date nine times in ten, all of them do in 43 of 100',
  },
  find({ network, limits, implied: impliedIds }) {
    const implied = new Set(impliedIds)
    const limit = limits['merge-point']!
    const found: Found[] = []
    network.activities.forEach(({ id, code }, i) => {
      if (network.inStart[i + 1]! - network.inStart[i]! <= limit) return
      if (network.kind[i] === Kind.Hammock || network.state[i] !== State.NotStarted) return
      // A redundant link never decides: what comes over it comes over another path into the same activity.
      const links = network.links
        .slice(network.inStart[i], network.inStart[i + 1])
        .filter(({ id }) => !implied.has(id))
      const into = links.length
      if (into <= limit) return
      const left = network.inStart[i + 1]! - network.inStart[i]! - into
      const redundant: Record<string, string> =
        left > 0 ? { 'redundant links, not counted': String(left) } : {}
      found.push({
        place: id,
        facts: { 'links into it': String(into), ...redundant },
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
