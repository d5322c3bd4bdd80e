import type { Migration } from '../migration.ts'

/** An import names itself: one that is sent again, because its answer was lost, makes no second plan. */
export const up: Migration = (sql) =>
  sql(`ALTER TABLE plans
    ADD COLUMN IF NOT EXISTS import_uid VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NULL,
    ADD UNIQUE INDEX IF NOT EXISTS plans_import_uid (import_uid)`)

export const down: Migration = (sql) =>
  sql('ALTER TABLE plans DROP INDEX IF EXISTS plans_import_uid, DROP COLUMN IF EXISTS import_uid')
