import type { Migration } from '../migration.ts'

/** What names a change and who sent it compare byte by byte: "abc" is not the change "ABC". */
export const up: Migration = (sql) =>
  sql(`ALTER TABLE changes
    MODIFY uid VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    MODIFY client VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL,
    MODIFY undoes VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NULL`)

export const down: Migration = (sql) =>
  sql(
    'ALTER TABLE changes MODIFY uid VARCHAR(40) NOT NULL, MODIFY client VARCHAR(40) NOT NULL, MODIFY undoes VARCHAR(40) NULL',
  )
