import {
  freshId,
  lagCalendarOf,
  linkPhrase,
  findByCodeOrName,
  readLinks,
  type Change,
  type Link,
  newLink,
} from '@geodrome/core'
import { same, type CellContext, type Column, type Understood } from './cellContext.ts'

const lengthsOf = ({ plan, calendars, activity }: CellContext, link: Pick<Link, 'lagOn' | 'from' | 'to'>) =>
  calendars.lengths(lagCalendarOf(plan.project, link, activity(link.from), activity(link.to)))

const phrase = (context: CellContext, link: Link): string =>
  linkPhrase(link, context.activity(link.from)?.code ?? link.from, lengthsOf(context, link))
const leads = (context: CellContext, link: Link): string => {
  const other = context.activity(link.to)?.code ?? link.to
  return link.type === 'FS' && link.lag === 0
    ? other
    : `${other} ${linkPhrase(link, context.activity(link.from)?.code ?? '', lengthsOf(context, link))}`
}
const inOf = (context: CellContext, i: number): readonly Link[] =>
  context.linksIn.get(context.plan.activities[i]!.id) ?? []
const waits = (context: CellContext, i: number): string =>
  inOf(context, i)
    .map((link) => phrase(context, link))
    .join('; ')

/** Reads "after K10 and K15; with the start of K20, 2d later" as the whole of what an activity waits for. */
const readWaits = (context: CellContext, i: number, text: string): Understood => {
  const activity = context.plan.activities[i]!
  const changes: Change[] = []
  const words: string[] = []
  const kept = new Set<string>()
  const taken = [...context.plan.links]
  const typed = readLinks(text, findByCodeOrName(context.plan.activities))
  if (!typed.ok) return typed
  for (const { to: from, type, lag } of typed.links) {
    const known =
      inOf(context, i).find((l) => l.from === from.id && !kept.has(l.id) && l.type === type) ??
      inOf(context, i).find((l) => l.from === from.id && !kept.has(l.id))
    const lengths = lengthsOf(context, { lagOn: known?.lagOn ?? null, from: from.id, to: activity.id })
    const minutes = lag(lengths)
    if (!minutes.ok) return minutes
    const read = { type, lag: minutes.minutes }
    words.push(linkPhrase(read, from.code, lengths))
    if (known) {
      kept.add(known.id)
      if (known.type !== read.type || known.lag !== read.lag)
        changes.push({ kind: 'set', list: 'links', key: known.id, set: { type: read.type, lag: read.lag } })
      continue
    }
    const item = newLink({
      id: freshId(taken, 'l', Math.random),
      from: from.id,
      to: activity.id,
      type: read.type,
      lag: read.lag,
    })
    taken.push(item)
    changes.push({ kind: 'add', list: 'links', item, before: null })
  }
  for (const link of inOf(context, i))
    if (!kept.has(link.id)) changes.push({ kind: 'remove', list: 'links', key: link.id })
  if (changes.length === 0) return same
  return {
    ok: true,
    words: words.join('; ') || 'waits for nothing',
    change: changes.length === 1 ? changes[0]! : { kind: 'all', changes },
  }
}

/** Logic, in the words in which it is typed. */
export const LOGIC_COLUMNS: readonly Column[] = [
  {
    id: 'waits',
    title: 'Waits for',
    explains:
      'What it waits for, in sentences with semicolons between: “after K10; with the start of K20, 2d later”. K10, K10 SS 2d are understood too.',
    width: 170,
    align: 'left',
    holds: 7,
    text: waits,
    sortBy: (context, i) => inOf(context, i).length,
    draft: waits,
    read: readWaits,
  },
  {
    id: 'leads',
    title: 'Leads to',
    explains: 'What waits for it; typed at the other end, or in the Lens.',
    width: 130,
    align: 'left',
    holds: 3,
    text: (context, i) =>
      (context.linksOut.get(context.plan.activities[i]!.id) ?? [])
        .map((link) => leads(context, link))
        .join('; '),
    sortBy: (context, i) => context.linksOut.get(context.plan.activities[i]!.id)?.length ?? 0,
  },
]
