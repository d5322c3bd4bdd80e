import { z } from 'zod'
import { LIST_KEYS, LIST_NAMES, type ListName } from './fields.ts'
import { planSchema, type Plan } from './schema.ts'

export type Item = Record<string, unknown>

/** Key of an item in its list. */
export const keyOf = (list: ListName, item: Item): string => (LIST_KEYS[list] as (item: Item) => string)(item)

const listName = z.enum(LIST_NAMES as [ListName, ...ListName[]])
const key = z.string().min(1).max(500)
const fields = z.record(z.string(), z.unknown())

/**
 * A change: the only way in which a plan is edited, in the browser, on the server, in scenarios, repairs and imports.
 * - `project`, `set`: give fields of the project or of one item new values
 * - `add`: a new item, before the item with key `before` (null: at the end)
 * - `remove`: an item nothing else refers to
 * - `move`: an item to before another (null: to the end)
 * - `all`: several changes as one, in order, all or none
 */
export type Change =
  | { kind: 'project'; set: Item }
  | { kind: 'set'; list: ListName; key: string; set: Item }
  | { kind: 'add'; list: ListName; item: Item; before: string | null }
  | { kind: 'remove'; list: ListName; key: string }
  | { kind: 'move'; list: ListName; key: string; before: string | null }
  | { kind: 'all'; changes: Change[] }

export const changeSchema: z.ZodType<Change> = z.lazy(() =>
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('project'), set: fields }),
    z.strictObject({ kind: z.literal('set'), list: listName, key, set: fields }),
    z.strictObject({ kind: z.literal('add'), list: listName, item: fields, before: key.nullable() }),
    z.strictObject({ kind: z.literal('remove'), list: listName, key }),
    z.strictObject({ kind: z.literal('move'), list: listName, key, before: key.nullable() }),
    z.strictObject({ kind: z.literal('all'), changes: z.array(changeSchema).max(200_000) }),
  ]),
)

/** What an item of the program has, though a file may leave it out: filled in when the file is read, and when an item is added. */
const NEEDED: Readonly<Partial<Record<ListName, readonly string[]>>> = {
  activities: ['code', 'duration', 'confirmed'],
  links: ['id', 'lag'],
}
/** Letters of a key that the database has room for. */
export const MAX_KEY = 500

const missing = (field: string): z.ZodError =>
  new z.ZodError([
    { code: 'custom', path: [field], message: `"${field}" cannot be left out`, input: undefined },
  ])

/** Shape of an item after a change, defaults filled in. @throws z.ZodError */
export const shapeItem = (list: ListName, item: Item): Item => {
  const shaped: Item = planSchema.shape[list].unwrap().element.parse(item)
  for (const field of NEEDED[list] ?? []) if (shaped[field] === undefined) throw missing(field)
  return shaped
}

/** A new item with what {@link NEEDED} asks for and it does not say. */
export const filledIn = (list: ListName, item: Item): Item => {
  if (list === 'links') return { lag: 0, ...item }
  if (list !== 'activities') return item
  const isWork = item.kind === undefined || item.kind === 'work'
  return {
    code: item.id,
    ...(item.kind === 'milestone' ? { edge: 'start' } : {}),
    duration: 0,
    confirmed: !isWork || item.duration !== undefined,
    ...item,
  }
}

/** Shape of the project after a change. @throws z.ZodError */
export const shapeProject = (project: Item): Plan['project'] => {
  const shaped = planSchema.shape.project.parse(project)
  if (shaped.calendar === undefined) throw missing('calendar')
  return shaped as Plan['project']
}
