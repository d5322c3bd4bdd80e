import { activityCosts, groupCosts } from '../../cost/activityCosts.ts'
import { chargeWords, clauseWords } from '../../cost/damagesWords.ts'
import { instantWords } from '../../words/dates.ts'
import { roundMoneyWords } from '../../words/resources.ts'
import { amountWords } from '../../words/amounts.ts'
import { answer, heading, row, said, table, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

const amount = (value: number): string => amountWords(Math.round(value))

/** What the work costs, what lateness costs, what is paid when. */
export const money = (context: ReportContext): ReportBlock[] => {
  const { plan, made } = context
  const { total, damages, payments } = context.money
  const { currency } = plan.project
  if (total.atCompletion === 0 && plan.damages.length === 0 && payments.length === 0)
    return [said('Nothing in this plan costs anything: no price, no cost, no damages, no payment is given.')]
  const due = damages.reduce((sum, one) => sum + one.amount, 0)
  const groups = groupCosts(activityCosts(made))
  return [
    answer(
      `${roundMoneyWords(total.atCompletion, currency)} at completion${plan.damages.length === 0 ? '' : due === 0 ? ', no damages as planned' : `, and ${roundMoneyWords(due, currency)} of damages as planned`}.`,
    ),
    ...table(
      ['Group', `>Planned, ${currency}`, '>At completion', '>Spent'],
      [
        ...plan.groups
          .filter(({ parent }) => parent === null)
          .flatMap(({ id, code, name }) => {
            const sum = groups.get(id)
            return sum && (sum.planned !== 0 || sum.atCompletion !== 0)
              ? [
                  row(
                    `${code} ${name}`.trim(),
                    amount(sum.planned),
                    amount(sum.atCompletion),
                    amount(sum.spent),
                  ),
                ]
              : []
          }),
        row(
          'In all, what is in no group included',
          amount(total.planned),
          amount(total.atCompletion),
          amount(total.spent),
        ),
      ],
    ),
    ...(plan.damages.length === 0
      ? []
      : [
          heading('Damages'),
          ...plan.damages.map((clause) => {
            const charge = damages.find(({ id }) => id === clause.id)!
            return said(
              `${clause.name ? `${clause.name}. ` : ''}${clauseWords(clause, charge.chargeableFrom)} ${chargeWords(plan, clause, charge)}`,
            )
          }),
        ]),
    ...(payments.length === 0
      ? []
      : [
          heading('Payments'),
          ...table(
            ['On', 'Milestone', `>In, ${currency}`, '>Out', 'State'],
            [...payments]
              .sort((a, b) => a.at - b.at)
              .map(({ activity, at, amount: sum, direction, isMade }) => {
                const { code, name } = plan.activities[activity]!
                return row(
                  instantWords(at, 'finish', { time: false }),
                  `${code} ${name}`,
                  direction === 'in' ? amount(sum) : '',
                  direction === 'out' ? amount(sum) : '',
                  isMade ? 'made' : 'to come',
                )
              }),
          ),
        ]),
  ]
}
