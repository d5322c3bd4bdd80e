import { applyChange } from '../plan/applyChange.ts'
import type { Change, Item } from '../plan/change.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan } from '../plan/schema.ts'
import { schedule as scheduleOf, type Schedule } from '../schedule/schedule.ts'
import type { Finding } from './check.ts'
import { checkOf } from './registry.ts'
import { review } from './review.ts'

export interface RepairedAll {
  /** All repairs as one change; null where nothing could be repaired. */
  readonly change: Change | null
  readonly repaired: number
  /** Findings of the kind that are still there. */
  readonly left: number
}

/** Findings repaired one after the other at most; more are never needed for repairs that close what they repair. */
const MOST_ROUNDS = 50

/**
 * Repairs every open finding of a check in one way. Repairs of one round touch different facts; where two touch the same, the plan is
 * reviewed again between them, so that each is made on the plan as the others left it. One that is refused (a loop, say) is left.
 * @param kind - of the repair, for findings that can be repaired so
 */
export const repairAll = (plan: Plan, scheduled: Schedule, ofCheck: string, kind: string): RepairedAll => {
  const known = checkOf(ofCheck)
  if (!known) throw new RangeError(`repairAll: no check "${ofCheck}"`)
  const findingsOf = (at: Plan, made: Schedule): readonly Finding[] =>
    review(at, made, { checks: [known], experiments: 0 }).findings
  const changes: Change[] = []
  const refused = new Set<string>()
  let at = plan
  let made = scheduled
  let findings = findingsOf(at, made)
  let repaired = 0
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const before = at
    const touched = new Set<string>()
    for (const finding of findings) {
      const repair = finding.repairs.find((r) => r.kind === kind)
      if (!repair || refused.has(finding.place)) continue
      const change = asAddition(at, repair.change)
      const facts = factsTouched(change)
      if (facts.some((fact) => touched.has(fact))) continue
      try {
        at = applyChange(at, change).plan
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        refused.add(finding.place)
        continue
      }
      facts.forEach((fact) => touched.add(fact))
      addTo(changes, change)
      repaired++
    }
    if (at === before) break
    made = scheduleOf(at)
    findings = findingsOf(at, made)
  }
  return { change: changes.length === 0 ? null : { kind: 'all', changes }, repaired, left: findings.length }
}

/** Adds a change to a list of them; one that declares more ends takes the place of the one before, whose ends it has. */
const addTo = (changes: Change[], change: Change): void => {
  const last = changes.at(-1)
  if (change.kind === 'project' && last?.kind === 'project')
    changes[changes.length - 1] = { kind: 'project', set: { ...last.set, ...change.set } }
  else changes.push(change)
}

/** Declared ends are a set: an end is added to those that the plan has by now. */
const asAddition = (plan: Plan, change: Change): Change => {
  if (change.kind !== 'project') return change
  const set: Item = { ...change.set }
  for (const field of ['opens', 'closes'] as const)
    if (set[field]) set[field] = [...new Set([...plan.project[field], ...(set[field] as string[])])]
  return { kind: 'project', set }
}

/** What a change touches, so that two of one round do not undo each other. Additions to declared ends go together. */
const factsTouched = (change: Change): string[] => {
  switch (change.kind) {
    case 'all':
      return change.changes.flatMap(factsTouched)
    case 'project':
      return Object.keys(change.set).filter((field) => field !== 'opens' && field !== 'closes')
    case 'set':
      return Object.keys(change.set).map((field) => `${change.list} ${change.key} ${field}`)
    case 'add':
      return [`${change.list} ${String(change.item.id)}`]
    default:
      return [`${change.list} ${change.key}`]
  }
}
