import type { Migration } from '../migration.ts'

/** Plans can be put away: still there, not in the list that is looked at every day. */
export const up: Migration = (sql) =>
  sql('ALTER TABLE plans ADD COLUMN IF NOT EXISTS archived_at DATETIME(3) NULL')

export const down: Migration = (sql) => sql('ALTER TABLE plans DROP COLUMN IF EXISTS archived_at')
