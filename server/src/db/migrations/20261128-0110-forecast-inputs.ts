import { listLifted } from '../listLifted.ts'
import type { Migration } from '../migration.ts'

const lists = [listLifted('spreads', 's'), listLifted('factors', 'f'), listLifted('weather', 'w')]

/** Spreads, factors and weather that came with plans before there were such lists. */
export const up: Migration = async (sql) => {
  for (const list of lists) await list.up(sql)
}
export const down: Migration = async (sql) => {
  for (const list of lists) await list.down(sql)
}
