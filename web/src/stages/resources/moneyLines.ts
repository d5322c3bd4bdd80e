import { groupsAround, sumOf, type CostSum, type Plan } from '@geodrome/core'
import type { MoneyBeside } from '../../workers/questions.ts'

/** What a line of the money sheet stands for, and its sums. */
export interface MoneyLine {
  /** Empty for what stands in no group. */
  readonly id: string
  readonly code: string
  readonly name: string
  readonly sum: CostSum
  /** Null where the baseline says nothing of it. */
  readonly agreed: number | null
  readonly isActivity: boolean
}
type Costs = Pick<MoneyBeside, 'planned' | 'atCompletion' | 'spent' | 'hammocks' | 'agreed'>

/** Groups at the top in the order of the plan, what stands in none, and hammocks apart: what they cost is time. */
export const moneyLines = (plan: Pick<Plan, 'groups' | 'activities'>, money: Costs): MoneyLine[] => {
  const { groups, activities } = plan
  const hammocks = new Set(money.hammocks)
  const around = groupsAround(plan)
  const members = new Map<string, number[]>()
  activities.forEach(({ group }, i) => {
    if (hammocks.has(i)) return
    const key = around(group).at(-1) ?? ''
    const own = members.get(key)
    if (own) own.push(i)
    else members.set(key, [i])
  })
  const line = (
    { id, code, name }: { id: string; code: string; name: string },
    of: readonly number[],
    isActivity: boolean,
  ): MoneyLine => ({ id, code, name, isActivity, sum: sumOf(money, of), agreed: agreedAt(money, of) })
  const outside = members.get('')
  return [
    ...groups.flatMap((group) => {
      const of = group.parent === null && members.get(group.id)
      return of ? [line(group, of, false)] : []
    }),
    ...(outside ? [line({ id: '', code: '', name: 'Outside groups' }, outside, false)] : []),
    ...money.hammocks.map((i) => line(activities[i]!, [i], true)),
  ]
}

const agreedAt = ({ agreed }: Costs, of: readonly number[]): number | null => {
  const known = of.map((i) => agreed?.byActivity[i] ?? NaN).filter((cost) => !Number.isNaN(cost))
  return known.length === 0 ? null : known.reduce((sum, cost) => sum + cost, 0)
}
