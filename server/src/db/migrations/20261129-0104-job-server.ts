import type { Migration } from '../migration.ts'

/** Which server runs a job: when it is no longer there, another need not wait for the end of the lease. */
export const up: Migration = (sql) =>
  sql(`ALTER TABLE jobs
    ADD COLUMN IF NOT EXISTS server VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL`)

export const down: Migration = (sql) => sql('ALTER TABLE jobs DROP COLUMN IF EXISTS server')
