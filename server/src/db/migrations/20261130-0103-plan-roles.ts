import type { Migration } from '../migration.ts'

/** What people are in plans. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS plan_roles (
    plan_id VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    account VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    role VARCHAR(20) CHARACTER SET ascii NOT NULL,
    PRIMARY KEY (plan_id, account),
    KEY roles_of_account (account)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS plan_roles')
