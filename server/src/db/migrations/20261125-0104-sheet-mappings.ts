import type { Migration } from '../migration.ts'

/** How the columns of lists were read, by their heads and who sent them. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS sheet_mappings (
    heads_key CHAR(64) CHARACTER SET ascii NOT NULL,
    sender VARCHAR(200) NOT NULL,
    heads TEXT NOT NULL,
    body TEXT NOT NULL,
    at DATETIME(3) NOT NULL,
    PRIMARY KEY (heads_key, sender),
    KEY mappings_by_age (at)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS sheet_mappings')
