import { counted } from '../../words/counted.ts'
import type { Check, Found } from '../check.ts'

/** A resource that is assigned and costs nothing. */
export const noPrice: Check = {
  id: 'no-price',
  topic: 'Cost',
  title: 'Resources without a price',
  clean: 'every resource that is assigned has a price',
  lacks: ({ resources }) => (resources.length === 0 ? 'no resources' : null),
  why: 'What has no price is free in every figure: cost, cost over time, the price of a way out.',
  of: 'project',
  bias: null,
  limit: null,
  find({ plan }) {
    const users = new Map<string, string[]>()
    for (const { activity, resource, amount } of plan.assignments) {
      if (amount === 0) continue
      const own = users.get(resource)
      if (own) own.push(activity)
      else users.set(resource, [activity])
    }
    return plan.resources.flatMap(({ id, name, code, price }): Found[] => {
      const of = users.get(id)
      if (price > 0 || of === undefined) return []
      return [
        {
          place: id,
          facts: { price: 'none' },
          severity: 'caution',
          activities: [...new Set(of)],
          links: [],
          message: `${name || code} has no price, and ${counted(new Set(of).size, 'activity')} ${of.length === 1 ? 'has' : 'have'} it`,
          value: null,
          threshold: null,
          effect: { kind: 'none' },
          repairs: [],
        },
      ]
    })
  },
}
