import type { Change } from '../../plan/change.ts'
import { newLink } from '../../plan/links.ts'
import type { Plan } from '../../plan/schema.ts'
import type { Network } from '../../network/network.ts'

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

/** Where links lead, those that are made for resources among them: none may lead in a circle. */
export class Paths {
  private readonly next: number[][]

  constructor({ order, linkFrom, linkTo }: Network) {
    this.next = Array.from(order, () => [])
    linkFrom.forEach((from, k) => this.add(from, linkTo[k]!))
  }

  add(from: number, to: number): void {
    this.next[from]!.push(to)
  }

  lead(from: number, to: number): boolean {
    const seen = new Set([from])
    for (const i of seen) {
      if (i === to) return true
      for (const j of this.next[i]!) seen.add(j)
    }
    return false
  }
}
