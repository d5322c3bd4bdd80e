import type { Migration } from '../migration.ts'

/** Browsers in which somebody is signed in: only a digest of their cookie is kept. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS sessions (
    token_hash CHAR(64) CHARACTER SET ascii NOT NULL,
    account VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    since DATETIME(3) NOT NULL,
    seen_at DATETIME(3) NOT NULL,
    PRIMARY KEY (token_hash),
    KEY sessions_of_account (account)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS sessions')
