import type { Change } from './change.ts'
import type { Plan } from './schema.ts'

/** How codes of activities are made: a prefix, then numbers of at least `digits` digits, `step` apart. */
export interface CodeRule {
  readonly prefix: string
  readonly step: number
  readonly digits: number
}

const PARTS = /^(.*?)(\d+)$/

/** The rule that the codes near a place follow: the prefix and the usual step of the codes that share it. */
export const codeRuleNear = (codes: readonly string[]): CodeRule => {
  const last = codes.findLast((code) => PARTS.test(code))
  if (last === undefined) return { prefix: codes.at(-1)?.slice(0, 1) ?? 'A', step: 10, digits: 2 }
  const [, prefix, number] = PARTS.exec(last)!
  const isTens = codes.every(
    (code) => !code.startsWith(prefix!) || !PARTS.test(code) || code.endsWith('0') || code.endsWith('5'),
  )
  return { prefix: prefix!, step: isTens ? 10 : 1, digits: number!.length }
}

/**
 * A code for a new activity after another: the next number of the rule, or one between the two neighbours where that is taken.
 * @param plan - whose codes are not used again
 * @param after - code of the activity it comes after; null for the first of its group
 * @param around - codes of the activities that it joins, in order; the rule is read off them
 */
export const nextCode = (
  taken: ReadonlySet<string>,
  after: string | null,
  around: readonly string[],
): string => {
  const { prefix, step, digits } = codeRuleNear(after === null ? around : [...around, after])
  const from = after === null ? 0 : Number(PARTS.exec(after)?.[2] ?? 0)
  const write = (n: number): string => prefix + String(n).padStart(digits, '0')
  // Between two neighbours there is room for half a step, then for single numbers.
  for (const stride of new Set([step, Math.max(1, step / 2), 1])) {
    const code = write((Math.floor(from / stride) + 1) * stride)
    if (Number.isInteger(stride) && !taken.has(code)) return code
  }
  let n = from
  do n += step
  while (taken.has(write(n)))
  return write(n)
}

/**
 * Gives activities new codes by a rule, in the order given. Identity does not change, so nothing else does.
 * @returns the change, and the codes in the same order
 * @throws RangeError if a code of the rule belongs to an activity that is not recoded
 */
export const recode = (plan: Plan, ids: readonly string[], rule: CodeRule): Change => {
  const recoded = new Set(ids)
  const others = new Set(plan.activities.filter((a) => !recoded.has(a.id)).map((a) => a.code))
  const changes = ids.map((id, k): Change => {
    const code = rule.prefix + String((k + 1) * rule.step).padStart(rule.digits, '0')
    if (others.has(code))
      throw new RangeError(`${code} is the code of another activity; choose another prefix or step`)
    return { kind: 'set', list: 'activities', key: id, set: { code } }
  })
  return { kind: 'all', changes }
}
