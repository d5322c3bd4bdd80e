import type { Migration } from '../migration.ts'

/** What the list of plans says of each, as of a revision: it is found once, not at each look. Plans can be put away. */
export const up: Migration = async (sql) => {
  await sql(`CREATE TABLE IF NOT EXISTS plan_facts (
    plan_id VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    revision INT UNSIGNED NOT NULL,
    body TEXT NOT NULL,
    PRIMARY KEY (plan_id)
  ) ENGINE=InnoDB`)
  await sql('ALTER TABLE plans ADD COLUMN IF NOT EXISTS archived_at DATETIME(3) NULL')
}

export const down: Migration = async (sql) => {
  await sql('DROP TABLE IF EXISTS plan_facts')
  await sql('ALTER TABLE plans DROP COLUMN IF EXISTS archived_at')
}
