import type { Plan } from '../plan/schema.ts'
import { impliedLinks } from './impliedLinks.ts'

/** How entangled a network is, and what the number is made of. */
export interface Complexity {
  /** links − activities + 2 × separate parts, on the network without implied links, hammocks and groups. */
  readonly number: number
  readonly links: number
  readonly activities: number
  readonly parts: number
  /** Ids of the links that other paths imply. */
  readonly implied: readonly string[]
}

/**
 * The cyclomatic complexity of the reduced network; milestones count, hammocks and implied links do not.
 * @see McCabe 1976, "A Complexity Measure", IEEE Trans. Softw. Eng. SE-2(4), for links − nodes + 2 × parts
 */
export const complexity = (plan: Plan): Complexity => {
  const implied = impliedLinks(plan)
  const left = new Set(implied)
  const nodes = plan.activities.filter((a) => a.kind !== 'hammock')
  const ids = new Set(nodes.map((a) => a.id))
  const links = plan.links.filter((l) => !left.has(l.id) && ids.has(l.from) && ids.has(l.to))
  const parts = separateParts(
    nodes.map((a) => a.id),
    links,
  )
  return {
    number: links.length - nodes.length + 2 * parts,
    links: links.length,
    activities: nodes.length,
    parts,
    implied,
  }
}

/** Number of weakly connected parts. */
const separateParts = (ids: readonly string[], links: readonly { from: string; to: string }[]): number => {
  const parent = new Map(ids.map((id) => [id, id]))
  const root = (id: string): string => {
    let at = id
    while (parent.get(at) !== at) {
      parent.set(at, parent.get(parent.get(at)!)!)
      at = parent.get(at)!
    }
    return at
  }
  let parts = ids.length
  for (const { from, to } of links) {
    const [a, b] = [root(from), root(to)]
    if (a === b) continue
    parent.set(a, b)
    parts--
  }
  return parts
}
