import type { Migration } from '../migration.ts'

export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS jobs (
    id VARCHAR(24) NOT NULL PRIMARY KEY,
    plan_id VARCHAR(24) NOT NULL,
    kind VARCHAR(20) NOT NULL,
    input LONGTEXT NOT NULL,
    state ENUM('queued', 'running', 'done', 'failed', 'cancelled') NOT NULL,
    done INT UNSIGNED NOT NULL DEFAULT 0,
    total INT UNSIGNED NOT NULL DEFAULT 0,
    result LONGTEXT NULL,
    error TEXT NULL,
    lease_until DATETIME(3) NULL,
    created_at DATETIME(3) NOT NULL,
    KEY jobs_of_a_plan (plan_id, created_at),
    KEY jobs_to_claim (state, lease_until),
    CONSTRAINT jobs_belong_to_a_plan FOREIGN KEY (plan_id) REFERENCES plans (id) ON DELETE CASCADE
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS jobs')
