import { randomBytes } from 'node:crypto'
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'
import { keyOf, LIST_NAMES, type Change, type Item, type ListName, type Plan } from '@geodrome/core'
import type { Models } from './models.ts'
import { headColumns, type PlanRows } from './planRowsOf.ts'

/** Maps a plan document to rows and back, and a change to the rows that it touches. */

export const newId = (): string => randomBytes(9).toString('base64url')

const PLACE_STEP = 1024
/** Below this gap between neighbours a list is numbered anew. */
const SMALLEST_GAP = 1e-3
const CHUNK = 1000

/** Places of the items of every list, by key: what a loaded plan knows beside the document. */
export type Places = Map<ListName, Map<string, number>>

export interface LoadedPlan {
  readonly plan: Plan
  readonly revision: number
  readonly places: Places
}

const itemsOf = (plan: Plan, list: ListName): readonly Item[] => plan[list]

/**
 * @param uid - names the import; a second one of the same name makes no second plan
 * @param maker - the account that becomes its administrator; null where nobody signs in
 */
export const insertPlan = async (
  sequelize: Sequelize,
  models: Models,
  plan: PlanRows,
  uid: string | null,
  maker: string | null = null,
): Promise<string> => {
  const id = newId()
  const now = new Date()
  const { code, name, head } = plan
  await sequelize.transaction(async (transaction) => {
    await models.plans.create(
      { id, revision: 1, code, name, head, createdAt: now, changedAt: now, removedAt: null, importUid: uid },
      { transaction },
    )
    if (maker !== null)
      await models.planRoles.create({ planId: id, account: maker, role: 'administrator' }, { transaction })
    for (const { list, keys, bodies } of plan.lists)
      for (let from = 0; from < keys.length; from += CHUNK) {
        const rows = keys.slice(from, from + CHUNK).map((itemKey, k) => ({
          planId: id,
          list,
          itemKey,
          place: (from + k + 1) * PLACE_STEP,
          body: bodies[from + k]!,
        }))
        await models.items.bulkCreate(rows, { transaction, validate: false })
      }
  })
  return id
}

/** @returns null if there is no such plan */
export const loadPlan = async (
  sequelize: Sequelize,
  models: Models,
  id: string,
  transaction: Transaction,
): Promise<LoadedPlan | null> => {
  const row = await models.plans.findOne({ where: { id, removedAt: null }, transaction })
  if (!row) return null
  const rows = await sequelize.query<{ list: ListName; item_key: string; place: number; body: string }>(
    'SELECT list, item_key, place, body FROM plan_items WHERE plan_id = :id ORDER BY list, place',
    { replacements: { id }, type: QueryTypes.SELECT, transaction },
  )
  const places: Places = new Map(LIST_NAMES.map((list) => [list, new Map<string, number>()]))
  const plan = JSON.parse(row.head) as Item
  for (const list of LIST_NAMES) plan[list] = []
  for (const { list, item_key, place, body } of rows) {
    ;(plan[list] as Item[]).push(JSON.parse(body) as Item)
    places.get(list)!.set(item_key, place)
  }
  return { plan: plan as unknown as Plan, revision: row.revision, places }
}

interface Touched {
  head: boolean
  /** Keys whose body changed, and keys whose place changed as well. */
  readonly items: Map<ListName, Map<string, { placed: boolean }>>
}

const touchedBy = (change: Change, touched: Touched): Touched => {
  const touch = (list: ListName, key: string, placed: boolean): void => {
    const keys = touched.items.get(list) ?? new Map<string, { placed: boolean }>()
    keys.set(key, { placed: placed || (keys.get(key)?.placed ?? false) })
    touched.items.set(list, keys)
  }
  switch (change.kind) {
    case 'project':
      touched.head = true
      break
    case 'set':
      touch(change.list, change.key, false)
      break
    case 'add':
      touch(change.list, keyOf(change.list, change.item), true)
      break
    case 'remove':
      touch(change.list, change.key, false)
      break
    case 'move':
      touch(change.list, change.key, true)
      break
    case 'all':
      for (const part of change.changes) touchedBy(part, touched)
  }
  return touched
}

/** Writes the rows that a change touches; `after` is the plan with the change applied. @returns the places afterwards */
export const writeChangedRows = async (
  models: Models,
  id: string,
  change: Change,
  after: Plan,
  places: Places,
  transaction: Transaction,
): Promise<Places> => {
  const touched = touchedBy(change, { head: false, items: new Map() })
  const next: Places = new Map(places)
  for (const [list, keys] of touched.items) {
    const items = itemsOf(after, list)
    const byKey = new Map(items.map((item) => [keyOf(list, item), item]))
    const placed = [...keys].some(([, { placed }]) => placed)
      ? renumbered(
          items.map((item) => keyOf(list, item)),
          places.get(list)!,
          keys,
        )
      : new Map(places.get(list))
    const rows = []
    const removed = []
    for (const key of keys.keys()) {
      const item = byKey.get(key)
      if (item)
        rows.push({ planId: id, list, itemKey: key, place: placed.get(key)!, body: JSON.stringify(item) })
      else {
        removed.push(key)
        placed.delete(key)
      }
    }
    // Items that were not touched but numbered anew.
    for (const [key, place] of placed)
      if (!keys.has(key) && places.get(list)!.get(key) !== place)
        rows.push({ planId: id, list, itemKey: key, place, body: JSON.stringify(byKey.get(key)) })
    if (removed.length > 0)
      await models.items.destroy({ where: { planId: id, list, itemKey: removed }, transaction })
    for (let from = 0; from < rows.length; from += CHUNK)
      await models.items.bulkCreate(rows.slice(from, from + CHUNK), {
        transaction,
        updateOnDuplicate: ['place', 'body'],
        validate: false,
      })
    next.set(list, placed)
  }
  if (touched.head) await models.plans.update(headColumns(after), { where: { id }, transaction })
  return next
}

/** Places for the placed keys between their neighbours; the whole list numbered anew where a gap is used up. */
const renumbered = (
  order: readonly string[],
  before: ReadonlyMap<string, number>,
  touched: ReadonlyMap<string, { placed: boolean }>,
): Map<string, number> => {
  const places = new Map<string, number>()
  const isPlaced = (key: string): boolean => !before.has(key) || (touched.get(key)?.placed ?? false)
  for (let from = 0; from < order.length;) {
    if (!isPlaced(order[from]!)) {
      places.set(order[from]!, before.get(order[from]!)!)
      from++
      continue
    }
    let to = from
    while (to < order.length && isPlaced(order[to]!)) to++
    const low = from === 0 ? 0 : places.get(order[from - 1]!)!
    const high = to < order.length ? before.get(order[to]!)! : low + (to - from + 1) * PLACE_STEP
    const step = (high - low) / (to - from + 1)
    if (step < SMALLEST_GAP) return new Map(order.map((key, k) => [key, (k + 1) * PLACE_STEP]))
    for (let k = from; k < to; k++) places.set(order[k]!, low + step * (k - from + 1))
    from = to
  }
  return places
}
