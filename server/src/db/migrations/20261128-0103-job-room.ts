import type { Migration } from '../migration.ts'

/** What a fair queue asks of a job: how much it holds, how often it was begun; and what is shown of it while it grows. */
export const up: Migration = (sql) =>
  sql(`ALTER TABLE jobs
    ADD COLUMN IF NOT EXISTS weight INT UNSIGNED NOT NULL DEFAULT 0,
    ADD COLUMN IF NOT EXISTS attempts INT UNSIGNED NOT NULL DEFAULT 0,
    ADD COLUMN IF NOT EXISTS partial LONGTEXT NULL`)

export const down: Migration = (sql) =>
  sql(
    'ALTER TABLE jobs DROP COLUMN IF EXISTS weight, DROP COLUMN IF EXISTS attempts, DROP COLUMN IF EXISTS partial',
  )
