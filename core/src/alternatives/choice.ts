import { instantOf, MINUTES_PER_DAY } from '../time/instant.ts'
import { instantWords } from '../words/dates.ts'
import { roundMoneyWords } from '../words/resources.ts'

/** What is known of one of several, to say which to choose. */
export interface Choosable {
  readonly name: string
  /** Whether it is the plan itself. */
  readonly isPlan: boolean
  /** Its 80 % date on the draws of all; null where it was not simulated on them. */
  readonly p80: string | null
  readonly finish: string
  /** In all, damages included; null where nothing costs anything. */
  readonly cost: number | null
  /** Whether the required finish is kept as planned; null without one. */
  readonly keeps: boolean | null
}

const day = (date: string): string => instantWords(instantOf(date, 'finish'), 'finish', { time: false })

/**
 * Which of several to choose, and by what: the earliest 80 % date (the earliest planned finish where they were not all simulated), what it
 * costs against the plan, which is cheapest where that is another, and who keeps the required finish as planned.
 * @param required - the required finish; null without one
 */
export const choiceWords = (
  all: readonly Choosable[],
  required: string | null,
  currency: string,
): readonly string[] => {
  const plan = all.find(({ isPlan }) => isPlan)
  const others = all.filter(({ isPlan }) => !isPlan)
  if (!plan || others.length === 0) return []
  const areSure = all.every(({ p80 }) => p80 !== null)
  const dateOf = ({ p80, finish }: Choosable): string => (areSure ? p80! : finish)
  const what = areSure ? 'the 80 % date' : 'the planned finish'
  // Of those that are equally early, to the day, the cheapest; of those that cost the same the first in the list.
  const dayOf = (one: Choosable): number => Math.ceil(instantOf(dateOf(one), 'finish') / MINUTES_PER_DAY)
  const best = [...others].sort((a, b) => dayOf(a) - dayOf(b) || (a.cost ?? 0) - (b.cost ?? 0))[0]!
  const money = (amount: number): string => roundMoneyWords(Math.abs(amount), currency)
  const said: string[] = []
  const dearer = best.cost === null || plan.cost === null ? 0 : best.cost - plan.cost
  const price = Math.round(dearer) === 0 ? '' : `, for ${money(dearer)} ${dearer > 0 ? 'more' : 'less'}`
  if (dayOf(best) < dayOf(plan))
    said.push(`${best.name} brings ${what} from ${day(dateOf(plan))} to ${day(dateOf(best))}${price}.`)
  else said.push(`No alternative brings ${what} before ${day(dateOf(plan))}.`)
  const cheapest = [...all].sort((a, b) => (a.cost ?? 0) - (b.cost ?? 0))[0]!
  if (plan.cost !== null && cheapest !== best && Math.round(cheapest.cost! - best.cost!) < 0)
    said.push(
      `${cheapest.isPlan ? 'As it is, the plan' : cheapest.name} is cheapest, ${money(best.cost! - cheapest.cost!)} less.`,
    )
  if (required !== null) {
    const keeping = all.filter(({ keeps }) => keeps)
    const names = keeping.map(({ name, isPlan }) => (isPlan ? 'the plan' : name))
    said.push(
      keeping.length === 0
        ? `${all.length === 2 ? 'Neither' : `None of the ${all.length}`} keeps ${day(required)} as planned.`
        : keeping.length === all.length
          ? `${all.length === 2 ? 'Both' : `All ${all.length}`} keep ${day(required)} as planned.`
          : `${day(required)} is kept as planned by ${joined(names)} only.`,
    )
  }
  return said
}

const joined = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`
