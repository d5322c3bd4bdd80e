import type { Migration } from '../migration.ts'

/** Links by which somebody chooses a password, once: only a digest of what opens them is kept. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS welcomes (
    token_hash CHAR(64) CHARACTER SET ascii NOT NULL,
    account VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NULL,
    until DATETIME(3) NOT NULL,
    PRIMARY KEY (token_hash),
    KEY welcomes_of_account (account)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS welcomes')
