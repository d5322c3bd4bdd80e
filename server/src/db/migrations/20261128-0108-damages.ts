import { QueryTypes } from 'sequelize'
import type { Item } from '@geodrome/core'
import type { Migration } from '../migration.ts'

/** Damages become a list of items; until now they were kept with the plan as they came. */
export const up: Migration = async (sql) => {
  for (const { id, head } of await headsWith(sql)) {
    const { damages, ...rest } = JSON.parse(head) as Item & { damages?: Item[] }
    for (const [k, item] of (damages ?? []).entries()) {
      const key = typeof item.id === 'string' && item.id !== '' ? item.id : `d${k + 1}`
      await sql(
        "INSERT IGNORE INTO plan_items (plan_id, list, item_key, place, body) VALUES (:plan, 'damages', :key, :place, :body)",
        {
          replacements: {
            plan: id,
            key,
            place: (k + 1) * 1024,
            body: JSON.stringify({ ...item, id: key }),
          },
        },
      )
    }
    await writeHead(sql, id, rest)
  }
}

export const down: Migration = async (sql) => {
  const rows = (await sql(
    "SELECT plan_id, body FROM plan_items WHERE list = 'damages' ORDER BY plan_id, place",
    {
      type: QueryTypes.SELECT,
    },
  )) as { plan_id: string; body: string }[]
  for (const id of new Set(rows.map((row) => row.plan_id))) {
    const [plan] = (await sql('SELECT id, head FROM plans WHERE id = :id', {
      type: QueryTypes.SELECT,
      replacements: { id },
    })) as { id: string; head: string }[]
    if (plan)
      await writeHead(sql, id, {
        ...(JSON.parse(plan.head) as Item),
        damages: rows.filter((row) => row.plan_id === id).map(({ body }) => JSON.parse(body) as Item),
      })
  }
  return sql("DELETE FROM plan_items WHERE list = 'damages'")
}

const headsWith = async (sql: Parameters<Migration>[0]): Promise<{ id: string; head: string }[]> =>
  (await sql(`SELECT id, head FROM plans WHERE head LIKE '%"damages"%'`, { type: QueryTypes.SELECT })) as {
    id: string
    head: string
  }[]

const writeHead = (sql: Parameters<Migration>[0], id: string, head: Item): Promise<unknown> =>
  sql('UPDATE plans SET head = :head WHERE id = :id', { replacements: { id, head: JSON.stringify(head) } })
