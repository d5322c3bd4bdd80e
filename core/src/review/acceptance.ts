import type { Acceptance, Plan } from '../plan/schema.ts'
import type { Change, Item } from '../plan/change.ts'
import { keyOf } from '../plan/change.ts'
import type { Finding } from './check.ts'
import type { Facts } from './fingerprint.ts'
import { placeOf } from './fingerprint.ts'

/** A finding that somebody accepted with a reason; it is left alone for as long as its facts stay as they were. */
export interface Accepted {
  readonly finding: Finding
  readonly acceptance: Acceptance
}
/** An accepted finding that is open again, and what is different from what was accepted. */
export interface Reopened {
  readonly acceptance: Acceptance
  readonly changed: readonly string[]
}

export interface Sorted {
  readonly open: readonly Finding[]
  readonly accepted: readonly Accepted[]
  /** By fingerprint of the finding that is open again. */
  readonly reopened: Readonly<Record<string, Reopened>>
}

/** Separates what was accepted from what is open, and says of what came back why. */
export const sortByAcceptance = (plan: Plan, findings: readonly Finding[]): Sorted => {
  if (plan.acceptances.length === 0) return { open: findings, accepted: [], reopened: {} }
  const byPlace = new Map(plan.acceptances.map((a) => [`${a.check} ${placeOf(a.fingerprint)}`, a]))
  const open: Finding[] = []
  const accepted: Accepted[] = []
  const reopened: Record<string, Reopened> = {}
  for (const finding of findings) {
    const acceptance = byPlace.get(`${finding.check} ${finding.place}`)
    if (acceptance?.fingerprint === finding.fingerprint) accepted.push({ finding, acceptance })
    else {
      open.push(finding)
      if (acceptance)
        reopened[finding.fingerprint] = { acceptance, changed: changesOf(acceptance.facts, finding.facts) }
    }
  }
  return { open, accepted, reopened }
}

/** "lag was 2 d, is 3 d", for each fact that differs. */
const changesOf = (before: unknown, now: Facts): string[] => {
  if (typeof before !== 'object' || before === null) return ['what it rests on has changed since']
  const was = before as Facts
  const names = new Set([...Object.keys(was), ...Object.keys(now)])
  return [...names]
    .filter((name) => was[name] !== now[name])
    .map((name) => `${name} was ${was[name] || 'not there'}, is ${now[name] || 'gone'}`)
}

/** Accepts findings with a reason. One acceptance a place: what was accepted there before is replaced. */
export const accept = (
  plan: Plan,
  findings: readonly Finding[],
  reason: string,
  by: string,
  at: string,
): Change => {
  const before = new Map(plan.acceptances.map((a) => [`${a.check} ${placeOf(a.fingerprint)}`, a]))
  const changes = findings.flatMap((finding): Change[] => {
    const old = before.get(`${finding.check} ${finding.place}`)
    const item: Item = {
      check: finding.check,
      fingerprint: finding.fingerprint,
      reason,
      by,
      at,
      facts: finding.facts,
    }
    const removal: Change[] = old
      ? [{ kind: 'remove', list: 'acceptances', key: keyOf('acceptances', old) }]
      : []
    return [...removal, { kind: 'add', list: 'acceptances', item, before: null }]
  })
  return changes.length === 1 ? changes[0]! : { kind: 'all', changes }
}

/** Opens an accepted finding again. */
export const withdrawAcceptance = (acceptance: Acceptance): Change => ({
  kind: 'remove',
  list: 'acceptances',
  key: keyOf('acceptances', acceptance),
})
