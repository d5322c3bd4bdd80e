import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Cost per day on what takes no days. */
export const costWithoutTime: Check = {
  id: 'cost-without-time',
  topic: 'Cost',
  title: 'Cost per day without a duration',
  clean: 'no cost without time',
  lacks: (plan) =>
    plan.activities.every(({ cost }) => cost.fixed === 0 && cost.perDay === 0) ? 'no costs' : null,
  why: 'A price per day times no days is nothing. The money is missing from the total, and nobody sees it.',
  of: 'activities',
  bias: null,
  limit: null,
  find({ plan }) {
    return plan.activities.flatMap(({ id, code, kind, duration, cost }): Found[] => {
      if (cost.perDay === 0 || kind === 'hammock' || (kind === 'work' && duration > 0)) return NOTHING
      const perDay = `${cost.perDay} ${plan.project.currency} a day`
      return [
        {
          place: id,
          facts: { price: perDay },
          severity: 'caution',
          activities: [id],
          links: [],
          message: `${code} costs ${perDay}, but takes no days`,
          value: cost.perDay,
          threshold: 0,
          effect: { kind: 'none' },
          repairs: [
            {
              kind: 'fixed-cost',
              label: `Make it a fixed cost of ${cost.perDay}`,
              change: setActivity(id, { cost: { ...cost, fixed: cost.fixed + cost.perDay, perDay: 0 } }),
            },
          ],
        },
      ]
    })
  },
}
