import type { Migration } from '../migration.ts'

/** Links by which others see a plan: only a digest of what opens them is kept. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS shares (
    id VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    token_hash CHAR(64) CHARACTER SET ascii NOT NULL,
    plan_id VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    scenario VARCHAR(200) NULL,
    shows VARCHAR(20) NOT NULL,
    owner VARCHAR(500) NULL,
    title VARCHAR(200) NOT NULL,
    made_by VARCHAR(200) NOT NULL,
    made_at DATETIME(3) NOT NULL,
    until_day CHAR(10) CHARACTER SET ascii NULL,
    revoked_at DATETIME(3) NULL,
    opened_at DATETIME(3) NULL,
    PRIMARY KEY (id),
    UNIQUE KEY shares_by_token (token_hash),
    KEY shares_of_plan (plan_id)
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS shares')
