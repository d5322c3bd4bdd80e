import type { Migration } from '../migration.ts'

/** A run that somebody wants to keep has a name. */
export const up: Migration = (sql) => sql('ALTER TABLE jobs ADD COLUMN IF NOT EXISTS name VARCHAR(120) NULL')

export const down: Migration = (sql) => sql('ALTER TABLE jobs DROP COLUMN IF EXISTS name')
