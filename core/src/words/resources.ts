import { instantOf, type Instant } from '../time/instant.ts'
import { assignmentsOf, type Wanted } from '../plan/assignments.ts'
import type { Plan, Resource } from '../plan/schema.ts'
import { moneyWords, readAmount } from './amounts.ts'
import { shortDay } from './dates.ts'
import { readDate } from './typedDate.ts'

/** "2 WELD, CRAN": what an activity has, one of a thing without its number. */
export const assignmentWords = (plan: Plan, activity: string): string => {
  const byId = new Map(plan.resources.map((resource) => [resource.id, resource]))
  return (assignmentsOf(plan).get(activity) ?? [])
    .map(({ resource, amount }) => {
      const { code, name } = byId.get(resource)!
      return `${amount === 1 ? '' : `${amount} `}${code || name}`
    })
    .join(', ')
}

export type TypedAssignments =
  { readonly ok: true; readonly wanted: readonly Wanted[] } | { readonly ok: false; readonly why: string }

/** A resource by the name that somebody gives it; null for one that is not known. */
export type ResourceLookup = (name: string) => Resource | null

/**
 * Reads "2 welders, crane", "WELD 2 and CRAN", "50 % surveyor", "2 x WELD": resources by code or name, one or several of a thing, in any
 * order. Empty: nothing.
 * @param unknown - what becomes of a name that the plan does not have; without it that is refused
 */
export const readAssignments = (
  plan: Plan,
  typed: string,
  unknown: ResourceLookup = () => null,
): TypedAssignments => {
  const parts = typed
    .split(/[;\n|]|,(?!\d)|\s+(?:and|&|\+)\s+/i)
    .map((part) => part.trim())
    .filter((part) => part !== '')
  const wanted = new Map<string, number>()
  for (const part of parts) {
    const match = NUMBER_FIRST.exec(part)
    const after = match ? null : NUMBER_LAST.exec(part)
    const whole = resourceNamed(plan, part)
    const name = (whole ? part : match ? (match[3] ?? match[4]!) : after ? after[1]! : part).trim()
    const figure = whole ? undefined : (match?.[1] ?? after?.[2])
    const percent = !whole && (match?.[2] ?? after?.[3]) === '%'
    const resource = whole ?? resourceNamed(plan, name) ?? unknown(name)
    if (resource === null)
      return {
        ok: false,
        why:
          plan.resources.length === 0
            ? `there is no resource “${name}”: the plan has none yet; add it in Resources`
            : `there is no resource “${name}”; there are ${plan.resources
                .slice(0, 8)
                .map((r) => r.code || r.name)
                .join(', ')}${plan.resources.length > 8 ? ' …' : ''}`,
      }
    const read = figure === undefined ? 1 : readAmount(figure)
    if (read === null)
      return { ok: false, why: `“${figure}” is not a number; write for example 1,200 or 0.5` }
    const amount = read / (percent ? 100 : 1)
    if (wanted.has(resource.id)) return { ok: false, why: `“${name}” is there twice; write it once` }
    if (amount === 0) return { ok: false, why: `0 of “${name}” is none; leave it out` }
    wanted.set(resource.id, amount)
  }
  return { ok: true, wanted: [...wanted].map(([resource, amount]) => ({ resource, amount })) }
}
const NUMBER_FIRST = /^(\d+(?:[.,]\d+)*)\s*(%|x|×|\*)?\s*(?:of\s+(.+)|(\D.*))$/i
const NUMBER_LAST = /^(.*?)\s*(?:[x×*:([]\s*|\s)(\d+(?:[.,]\d+)*)\s*(%)?[)\]]?$/i

/** A resource of the plan: by code first, then by name, then by a beginning that fits one only; an "s" more or less does not matter. */
const resourceNamed = (plan: Plan, name: string): Resource | null => {
  const plain = (text: string): string => text.trim().toLowerCase()
  const single = (text: string): string => plain(text).replace(/(?<=\w{2})s$/, '')
  const { resources } = plan
  const exact =
    resources.find((r) => plain(r.code) === plain(name)) ??
    resources.find((r) => plain(r.name) === plain(name)) ??
    resources.find((r) => single(r.name) === single(name))
  if (exact || single(name).length < 3) return exact ?? null
  const beginning = resources.filter(
    (r) => plain(r.name).startsWith(single(name)) || plain(r.code).startsWith(single(name)),
  )
  return beginning.length === 1 ? beginning[0]! : null
}

/** "4, 6 from 10 May": what there is, in steps; "no limit" without any. */
export const availableWords = ({ available }: Pick<Resource, 'available'>): string =>
  available.length === 0
    ? 'no limit'
    : available
        .map(({ from, amount }) =>
          from === null ? String(amount) : `${amount} from ${shortDay(instantOf(from, 'start'))}`,
        )
        .join(', ')

export type TypedAvailable =
  | { readonly ok: true; readonly available: Resource['available'] }
  | { readonly ok: false; readonly why: string }

/** Reads "4", "4, 6 from 10 may", "no limit". @param around - the project's start: dates without a year are near it */
export const readAvailable = (typed: string, around: Instant): TypedAvailable => {
  const text = typed.trim()
  if (text === '' || /^(no limit|unlimited|any)$/i.test(text)) return { ok: true, available: [] }
  const available: Resource['available'] = []
  for (const part of text.split(/[;,](?!\d)\s*/)) {
    const match = /^(\d+(?:[.,]\d+)*)(?:\s+from\s+(.+))?$/i.exec(part.trim())
    const amount = match && readAmount(match[1]!)
    if (!match || amount === null)
      return { ok: false, why: `“${part.trim()}” is not understood; write for example 4, 6 from 10 may` }
    if (match[2] === undefined) {
      if (available.length > 0)
        return {
          ok: false,
          why: `from when on are there ${match[1]}? Write for example ${match[1]} from 10 may`,
        }
      available.push({ from: null, amount })
      continue
    }
    const date = readDate(match[2], around)
    if (!date.ok) return date
    const before = available.at(-1)
    if (before?.from && instantOf(date.date, 'start') <= instantOf(before.from, 'start'))
      return { ok: false, why: `“${part.trim()}” is not after the step before it; put the steps in order` }
    available.push({ from: date.date, amount })
  }
  if (available.every(({ amount }) => amount === 0))
    return { ok: false, why: 'it would never be available; give it an amount, or remove it' }
  return { ok: true, available }
}

const PER = { hour: 'an hour', day: 'a day', quantity: 'each', call: 'a call' } as const
/** "52 EUR an hour". */
export const priceWords = ({ price, per }: Pick<Resource, 'price' | 'per'>, currency: string): string =>
  price === 0 ? 'no price' : `${moneyWords(price, currency)} ${PER[per]}`
/** Money in a sentence that needs no cents: "1,135,909 EUR". */
export const roundMoneyWords = (amount: number, currency: string): string =>
  moneyWords(Math.abs(amount) < 100 ? amount : Math.round(amount), currency)
