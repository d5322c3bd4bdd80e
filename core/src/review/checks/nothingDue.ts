import { firstChargeableDay } from '../../cost/damages.ts'
import type { Check, Found } from '../check.ts'

/** Payments and damages that can never come to anything. */
export const nothingDue: Check = {
  id: 'nothing-due',
  topic: 'Cost',
  title: 'Payments and damages that come to nothing',
  clean: 'every payment and every clause of damages can come to something',
  lacks: ({ damages, activities }) =>
    damages.length === 0 && activities.every(({ payment }) => payment === null)
      ? 'no payments and no damages'
      : null,
  why: 'It stands in the plan, and no date can make it count: what it should say is missing.',
  of: 'project',
  bias: null,
  limit: null,
  find(context) {
    const { plan, network } = context
    const found = (place: string, message: string, facts: Found['facts'], activities: string[]): Found => ({
      place,
      facts,
      severity: 'caution',
      activities,
      links: [],
      message,
      value: null,
      threshold: null,
      effect: { kind: 'none' },
      repairs: [],
    })
    const payments = plan.activities.flatMap(({ id, code, kind, payment }): Found[] => {
      if (payment === null) return []
      if (kind !== 'milestone')
        return [
          found(id, `${code} has a payment, but is no milestone: it falls due at its finish`, { kind }, [id]),
        ]
      return payment.amount > 0
        ? []
        : [found(id, `${code} is a payment of nothing`, { amount: 'none' }, [id])]
    })
    const damages = plan.damages.flatMap((clause): Found[] => {
      const why = clause.steps.every(({ amount }) => amount === 0)
        ? 'no day of it costs anything'
        : clause.cap === 0
          ? 'at most nothing can be charged'
          : firstChargeableDay(clause, network.calendars.get(clause.calendar)) === null
            ? `no day counts on ${context.calendarName(clause.calendar)} after its date`
            : null
      if (why === null) return []
      return [
        found(
          clause.id,
          `Damages “${clause.name || 'without a name'}” can never be charged: ${why}`,
          { why },
          [],
        ),
      ]
    })
    return [...payments, ...damages]
  },
}
