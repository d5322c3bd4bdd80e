import { CalendarError } from '../../time/index.ts'
import type { Plan } from '../../plan/index.ts'
import { Placing } from '../level/placing.ts'
import { problemOf, type Problem } from '../level/problem.ts'
import { rankingBy } from '../level/rules.ts'

const MOST_ORDERS = 720

function* permutations(of: readonly number[]): Generator<number[]> {
  if (of.length === 0) return yield []
  for (const [k, first] of of.entries())
    for (const rest of permutations([...of.slice(0, k), ...of.slice(k + 1)])) yield [first, ...rest]
}

/** The earliest finish over all orders in which work can be placed, of those that leave nothing unresolved; Infinity where none does. */
export const earliestOfAllOrders = ({ network, demands, available, options }: Problem): number => {
  const placing = new Placing(network, demands, available, options)
  const needing = network.activities.flatMap((_, i) => (demands.first[i + 1]! > demands.first[i]! ? [i] : []))
  let [earliest, orders] = [Infinity, 0]
  const values = new Float64Array(network.order.length)
  for (const order of permutations(needing)) {
    if (++orders > MOST_ORDERS) return Infinity
    values.fill(-1)
    order.forEach((i, at) => (values[i] = at))
    const { rank, byRank } = rankingBy(network, values)
    const { finish, unresolved } = placing.run(rank, byRank, false)
    if (unresolved.length === 0) earliest = Math.min(earliest, finish)
  }
  return earliest
}
/** Null where a calendar has no work in time. */
export const problemOrNull = (plan: Plan): Problem | null => {
  try {
    return problemOf(plan, false)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}
