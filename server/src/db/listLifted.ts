import { QueryTypes } from 'sequelize'
import type { Item } from '@geodrome/core'
import type { Migration } from './migration.ts'

type Sql = Parameters<Migration>[0]

/** What was kept with the head of each plan as it came becomes a list of items. @param prefix - of ids for items without one */
export const listLifted = (list: string, prefix: string): { up: Migration; down: Migration } => ({
  up: async (sql) => {
    for (const { id, head } of await headsWith(sql, list)) {
      const { [list]: items, ...rest } = JSON.parse(head) as Item
      for (const [k, item] of (Array.isArray(items) ? (items as Item[]) : []).entries()) {
        const key = typeof item.id === 'string' && item.id !== '' ? item.id : `${prefix}${k + 1}`
        await sql(
          'INSERT IGNORE INTO plan_items (plan_id, list, item_key, place, body) VALUES (:plan, :list, :key, :place, :body)',
          {
            replacements: {
              plan: id,
              list,
              key,
              place: (k + 1) * 1024,
              body: JSON.stringify({ ...item, id: key }),
            },
          },
        )
      }
      await writeHead(sql, id, rest)
    }
  },
  down: async (sql) => {
    const rows = (await sql(
      'SELECT plan_id, body FROM plan_items WHERE list = :list ORDER BY plan_id, place',
      { type: QueryTypes.SELECT, replacements: { list } },
    )) as { plan_id: string; body: string }[]
    for (const id of new Set(rows.map((row) => row.plan_id))) {
      const [plan] = (await sql('SELECT id, head FROM plans WHERE id = :id', {
        type: QueryTypes.SELECT,
        replacements: { id },
      })) as { id: string; head: string }[]
      if (plan)
        await writeHead(sql, id, {
          ...(JSON.parse(plan.head) as Item),
          [list]: rows.filter((row) => row.plan_id === id).map(({ body }) => JSON.parse(body) as Item),
        })
    }
    return sql('DELETE FROM plan_items WHERE list = :list', { replacements: { list } })
  },
})

const headsWith = async (sql: Sql, list: string): Promise<{ id: string; head: string }[]> =>
  (await sql('SELECT id, head FROM plans WHERE head LIKE :has', {
    type: QueryTypes.SELECT,
    replacements: { has: `%"${list}"%` },
  })) as { id: string; head: string }[]

const writeHead = (sql: Sql, id: string, head: Item): Promise<unknown> =>
  sql('UPDATE plans SET head = :head WHERE id = :id', { replacements: { id, head: JSON.stringify(head) } })
