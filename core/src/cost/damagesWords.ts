import { instantOf, type Instant } from '../time/instant.ts'
import type { Damages, Plan } from '../plan/schema.ts'
import { counted } from '../words/counted.ts'
import { instantWords } from '../words/dates.ts'
import { amountWords, moneyWords } from '../words/amounts.ts'
import type { Charge } from './damages.ts'

const ordinal = (n: number): string =>
  `${n}${n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`

/** What a clause means, in one sentence. @param from - the first day that would be charged; null where none can be */
export const clauseWords = ({ steps, cap, per }: Damages, from: string | null): string => {
  if (steps.length === 0) return 'It has no steps yet, so nothing is charged.'
  if (from === null) return 'No day counts on its calendar, so nothing can be charged.'
  const unit = per === 'week' ? 'week' : 'day'
  const said = steps.map(({ from: nth, amount }, k) =>
    k === 0 && nth === 1
      ? `every begun ${unit} costs ${amountWords(amount)}`
      : `from the ${ordinal(nth)} ${amountWords(amount)}`,
  )
  const first = instantWords(instantOf(from, 'start'), 'start', { time: false })
  return `From ${first} ${said.join(', ')}${cap === null ? '' : `, at most ${amountWords(cap)}`}.`
}

/** What it charges as the plan stands, in one sentence. @param finish - of what the clause measures */
export const chargeWords = (
  { project, activities }: Plan,
  { measures }: Pick<Damages, 'measures'>,
  { counted: days, amount, isCapped, finish }: Charge & { readonly finish: Instant },
): string => {
  const measured =
    measures === null ? 'The project’s finish' : (activities.find(({ id }) => id === measures)?.code ?? '')
  const charged =
    days === 0
      ? 'nothing is charged'
      : `${counted(days, 'day')}, ${moneyWords(amount, project.currency)}${isCapped ? ', the most there can be' : ''}`
  return `${measured} is now ${instantWords(finish, 'finish')}: ${charged}.`
}
