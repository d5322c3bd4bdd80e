import type { Migration } from '../migration.ts'

/** Who holds a job's lease, a name of its own for each claim; and the revision of the plan that the job is about. */
export const up: Migration = (sql) =>
  sql(`ALTER TABLE jobs
    ADD COLUMN IF NOT EXISTS owner VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
    ADD COLUMN IF NOT EXISTS revision INT UNSIGNED NULL`)

export const down: Migration = (sql) =>
  sql('ALTER TABLE jobs DROP COLUMN IF EXISTS owner, DROP COLUMN IF EXISTS revision')
