import type { Migration } from '../migration.ts'

/** Keys that differ in a space at their end are two keys, as they are in memory; and they may be as long as there. */
export const up: Migration = (sql) =>
  sql(
    'ALTER TABLE plan_items MODIFY item_key VARCHAR(500) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL',
  )

export const down: Migration = (sql) =>
  sql(
    'ALTER TABLE plan_items MODIFY item_key VARCHAR(420) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL',
  )
