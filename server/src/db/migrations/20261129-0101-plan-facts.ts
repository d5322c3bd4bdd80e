import type { Migration } from '../migration.ts'

/** What the list of plans says of each, as of a revision: it is found once, not at each look. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS plan_facts (
    plan_id VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    revision INT UNSIGNED NOT NULL,
    body TEXT NOT NULL,
    PRIMARY KEY (plan_id)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS plan_facts')
