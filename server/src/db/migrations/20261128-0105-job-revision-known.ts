import type { Migration } from '../migration.ts'

/** From now on every job says of which revision of its plan it is. */
export const up: Migration = (sql) => sql('ALTER TABLE jobs MODIFY revision INT UNSIGNED NOT NULL')

export const down: Migration = (sql) => sql('ALTER TABLE jobs MODIFY revision INT UNSIGNED NULL')
