import type { Change } from '../plan/change.ts'
import { newLink } from '../plan/links.ts'
import type { Link, LinkType, Plan } from '../plan/schema.ts'

/** Makes links of a chain, with ids that no link of the plan has. */
export const freshLinks = (
  plan: Plan,
): ((from: string, to: string, type: LinkType, lag: number, lagOn: Link['lagOn']) => Change) => {
  const taken = new Set(plan.links.map(({ id }) => id))
  let count = 0
  return (from, to, type, lag, lagOn) => {
    let id: string
    do id = `chain ${++count}`
    while (taken.has(id))
    taken.add(id)
    return {
      kind: 'add',
      list: 'links',
      item: { ...newLink({ id, from, to, type, lag }), lagOn, nature: 'resource' },
      before: null,
    }
  }
}
