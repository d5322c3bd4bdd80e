import type { Migration } from '../migration.ts'

/** How lists are read belongs to who reads them, where people sign in; '' where they do not. */
export const up: Migration = (sql) =>
  sql(`ALTER TABLE sheet_mappings
    ADD COLUMN IF NOT EXISTS owner VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL DEFAULT '',
    DROP PRIMARY KEY, ADD PRIMARY KEY (owner, heads_key, sender)`)

export const down: Migration = async (sql) => {
  await sql("DELETE FROM sheet_mappings WHERE owner <> ''")
  await sql(`ALTER TABLE sheet_mappings
    DROP PRIMARY KEY, ADD PRIMARY KEY (heads_key, sender), DROP COLUMN IF EXISTS owner`)
}
