import type { Migration } from '../migration.ts'

/** Keys compare byte by byte: ids that differ in case are different ids. */
export const up: Migration = (sql) =>
  sql(`CREATE TABLE IF NOT EXISTS plan_items (
    plan_id VARCHAR(24) NOT NULL,
    list VARCHAR(20) NOT NULL,
    item_key VARCHAR(420) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
    place DOUBLE NOT NULL,
    body LONGTEXT NOT NULL,
    PRIMARY KEY (plan_id, list, item_key),
    CONSTRAINT items_belong_to_a_plan FOREIGN KEY (plan_id) REFERENCES plans (id) ON DELETE CASCADE
  ) ENGINE=InnoDB`)

export const down: Migration = (sql) => sql('DROP TABLE IF EXISTS plan_items')
