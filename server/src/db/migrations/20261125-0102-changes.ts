import type { Migration } from '../migration.ts'

export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS changes (
    plan_id VARCHAR(24) NOT NULL,
    revision INT UNSIGNED NOT NULL,
    uid VARCHAR(40) NOT NULL,
    client VARCHAR(40) NOT NULL,
    author VARCHAR(100) NOT NULL,
    undoes VARCHAR(40) NULL,
    body LONGTEXT NOT NULL,
    inverse LONGTEXT NOT NULL,
    at DATETIME(3) NOT NULL,
    PRIMARY KEY (plan_id, revision),
    UNIQUE KEY a_change_is_applied_once (plan_id, uid),
    CONSTRAINT changes_belong_to_a_plan FOREIGN KEY (plan_id) REFERENCES plans (id) ON DELETE CASCADE
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS changes')
