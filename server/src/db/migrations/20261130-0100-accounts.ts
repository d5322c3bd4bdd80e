import type { Migration } from '../migration.ts'

/** Who signs in. Two names that read alike are one. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS accounts (
    id VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    name VARCHAR(100) NOT NULL,
    name_key CHAR(64) CHARACTER SET ascii NOT NULL,
    password VARCHAR(300) CHARACTER SET ascii COLLATE ascii_bin NULL,
    administrator BOOLEAN NOT NULL,
    since DATETIME(3) NOT NULL,
    closed_at DATETIME(3) NULL,
    PRIMARY KEY (id),
    UNIQUE KEY accounts_by_name (name_key)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS accounts')
