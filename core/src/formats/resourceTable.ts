import { instantOf } from '../time/instant.ts'
import type { Change, Item } from '../plan/change.ts'
import { freshId } from '../plan/edits.ts'
import type { Plan, Resource } from '../plan/schema.ts'
import { readAvailable } from '../words/resources.ts'
import { readAmount } from '../words/amounts.ts'
import type { Cells } from './listMapping.ts'

/** A row of a table of resources as it was understood. */
export interface ReadResource {
  /** Of the table, from 1 on. */
  readonly row: number
  readonly fields: Partial<
    Pick<Resource, 'code' | 'name' | 'kind' | 'price' | 'per' | 'available' | 'calendar'>
  >
  /** The resource of the plan that it is about; null: a new one. */
  readonly known: Resource | null
}
export interface ResourceTable {
  readonly rows: readonly ReadResource[]
  /** What was not understood, with its row; such a row is left out whole. */
  readonly problems: readonly { readonly row: number; readonly why: string }[]
  /** Heads that mean nothing here. */
  readonly unread: readonly string[]
  readonly change: Change
}

const HEADS = {
  code: /^(code|ref|id|abbreviation|short|key)$/i,
  name: /name|resource|trade|description|who|crew/i,
  kind: /kind|type|class/i,
  price: /price|rate|cost|tariff/i,
  per: /^(per|unit|uom|basis)$/i,
  available: /avail|how many|number|max|quantity|qty|units|capacity/i,
  calendar: /calendar|hours|shift/i,
} as const
type Field = keyof typeof HEADS
/** A table without heads, by its columns. */
const IN_ORDER: readonly Field[] = ['name', 'price', 'per', 'available']

const KINDS: readonly (readonly [RegExp, Resource['kind']])[] = [
  [/^(people|person|labou?r|crew|trade|work)/i, 'people'],
  [/^(plant|equipment|machine|tool)/i, 'plant'],
  [/^(material|goods|supply|supplies)/i, 'material'],
  [/^(fee|service|call|visit)/i, 'fee'],
]
const PERS: readonly (readonly [RegExp, Resource['per']])[] = [
  [/^(an? )?(h|hr|hrs|hour|hours)$/i, 'hour'],
  [/^(a )?(d|day|days|shift)$/i, 'day'],
  [/^(a )?(call|calls|visit|visits|trip)$/i, 'call'],
  [/^(each|ea|piece|pcs|unit|quantity|t|kg|l|m|m2|m²|m3|m³|litre|litres|liter|tonne|tonnes)$/i, 'quantity'],
]
const meant = <T>(table: readonly (readonly [RegExp, T])[], text: string): T | null =>
  table.find(([test]) => test.test(text.trim()))?.[1] ?? null

/** Which column holds what, and where the rows begin. */
const columnsOf = (cells: Cells): { at: Partial<Record<Field, number>>; first: number; unread: string[] } => {
  const head = cells[0] ?? []
  const at: Partial<Record<Field, number>> = {}
  const unread: string[] = []
  head.forEach((cell, k) => {
    const text = cell.trim()
    const field = (Object.keys(HEADS) as Field[]).find((f) => at[f] === undefined && HEADS[f].test(text))
    if (field) at[field] = k
    else if (text !== '') unread.push(text)
  })
  const isHead =
    (at.name !== undefined || at.code !== undefined) && head.every((cell) => readAmount(cell) === null)
  if (isHead) return { at, first: 1, unread }
  return { at: Object.fromEntries(IN_ORDER.map((field, k) => [field, k])), first: 0, unread: [] }
}

/** Whether a table is one of resources, as far as its heads say: names with prices or amounts, and neither work nor time. */
export const isResourceTable = (cells: Cells): boolean => {
  const { at, first } = columnsOf(cells)
  return (
    first === 1 &&
    (at.price !== undefined || at.available !== undefined) &&
    (/resource|price|rate|tariff/i.test(cells[0]!.join('|')) || at.kind !== undefined) &&
    !cells[0]!.some((head) => /duration|days|activity|task|predecessor|waits/i.test(head))
  )
}

/** "52", "52 EUR/h", "€ 1,850 a call": an amount, and what it is for where that is said. */
const readPrice = (text: string): { price: number; per: Resource['per'] | null } | null => {
  const match = /^[^\d-]*(-?[\d.,\s']*\d)\s*(?:[A-Z€$£]{1,3})?\s*(?:\/|per|an?)?\s*([a-z²³0-9]*)\s*$/i.exec(
    text.trim(),
  )
  if (!match) return null
  const price = readAmount(match[1]!)
  if (price === null || price < 0) return null
  const per = match[2] === '' ? null : meant(PERS, match[2]!)
  return match[2] !== '' && per === null ? null : { price, per }
}

/**
 * Reads a table of resources: with heads in any order, or names, prices, units and amounts in this one. A row whose code or name the plan
 * has changes that resource; a row of which something is not understood is left out and listed.
 */
export const readResourceTable = (plan: Plan, cells: Cells, random: () => number): ResourceTable => {
  const { at, first, unread } = columnsOf(cells)
  const rows: ReadResource[] = []
  const problems: { row: number; why: string }[] = []
  const around = instantOf(plan.project.start, 'start')
  const seen = new Set<string>()
  for (let k = first; k < cells.length; k++) {
    const cell = (field: Field): string =>
      at[field] === undefined ? '' : (cells[k]![at[field]] ?? '').trim()
    if (cells[k]!.every((text) => text.trim() === '')) continue
    const row = k + 1
    const refuse = (why: string): void => void problems.push({ row, why })
    const [code, name] = [cell('code'), cell('name')]
    if (code === '' && name === '') {
      refuse('it has no code and no name')
      continue
    }
    const plain = (text: string): string => text.toLowerCase()
    const key = plain(code || name)
    if (seen.has(key)) {
      refuse(`“${code || name}” is there twice; the first counts`)
      continue
    }
    const fields: { -readonly [P in keyof ReadResource['fields']]: ReadResource['fields'][P] } = {}
    if (code !== '') fields.code = code
    if (name !== '') fields.name = name
    if (cell('kind') !== '') {
      const kind = meant(KINDS, cell('kind'))
      if (kind === null) {
        refuse(`“${cell('kind')}” is no kind; write people, plant, material or fee`)
        continue
      }
      fields.kind = kind
    }
    if (cell('price') !== '') {
      const price = readPrice(cell('price'))
      if (price === null) {
        refuse(`“${cell('price')}” is no price; write for example 52, 52/h or 1,850 a call`)
        continue
      }
      fields.price = price.price
      if (price.per !== null) fields.per = price.per
    }
    if (cell('per') !== '') {
      const per = meant(PERS, cell('per'))
      if (per === null) {
        refuse(`“${cell('per')}” is not what a price is for; write hour, day, each or call`)
        continue
      }
      fields.per = per
    }
    if (cell('available') !== '') {
      const available = readAvailable(cell('available'), around)
      if (!available.ok) {
        refuse(available.why)
        continue
      }
      fields.available = available.available
    }
    if (cell('calendar') !== '') {
      const calendar = plan.calendars.find((c) => plain(c.name) === plain(cell('calendar')))
      if (!calendar) {
        refuse(
          `there is no calendar “${cell('calendar')}”; there are ${plan.calendars.map((c) => c.name || c.id).join(', ')}`,
        )
        continue
      }
      fields.calendar = calendar.id
    }
    seen.add(key)
    const known =
      plan.resources.find((r) => code !== '' && plain(r.code) === plain(code)) ??
      plan.resources.find((r) => name !== '' && plain(r.name) === plain(name)) ??
      null
    rows.push({ row, fields, known })
  }
  return { rows, problems, unread, change: changeOf(plan, rows, random) }
}

const changeOf = (plan: Plan, rows: readonly ReadResource[], random: () => number): Change => {
  const taken: { id: string }[] = [...plan.resources]
  const changes = rows.flatMap(({ fields, known }): Change[] => {
    if (known === null) {
      const item: Item = { id: freshId(taken, 'r', random), code: fields.code ?? '', ...fields }
      taken.push({ id: String(item.id) })
      return [{ kind: 'add', list: 'resources', item, before: null }]
    }
    // Who is known keeps the spelling of the plan.
    const said = (value: unknown): string => JSON.stringify(value).toLowerCase()
    const set = Object.fromEntries(
      Object.entries(fields).filter(([field, value]) => said(value) !== said(known[field])),
    )
    return Object.keys(set).length === 0 ? [] : [{ kind: 'set', list: 'resources', key: known.id, set }]
  })
  return { kind: 'all', changes }
}
