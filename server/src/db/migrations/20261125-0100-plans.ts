import type { Migration } from '../migration.ts'

export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS plans (
    id VARCHAR(24) NOT NULL PRIMARY KEY,
    code VARCHAR(200) NOT NULL,
    name VARCHAR(500) NOT NULL,
    revision INT UNSIGNED NOT NULL,
    head LONGTEXT NOT NULL,
    created_at DATETIME(3) NOT NULL,
    changed_at DATETIME(3) NOT NULL,
    removed_at DATETIME(3) NULL
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS plans')
