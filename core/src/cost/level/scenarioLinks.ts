import type { Change } from '../../plan/change.ts'
import { newLink } from '../../plan/links.ts'
import type { Plan } from '../../plan/schema.ts'

/** Makes links by which work waits for a resource that others hand over, with ids that no link of the plan has. */
export const freeLink = (plan: Plan): ((from: string, to: string, reason: string) => Change) => {
  const taken = new Set(plan.links.map(({ id }) => id))
  let count = 0
  return (from, to, reason) => {
    let id: string
    do id = `level${++count}`
    while (taken.has(id))
    return {
      kind: 'add',
      list: 'links',
      item: { ...newLink({ id, from, to, type: 'FS', lag: 0 }), nature: 'resource', reason },
      before: null,
    }
  }
}
