import type { Migration } from '../migration.ts'

/** Jobs of before they kept their revision get the one that their result names, or else the plan's. */
export const up: Migration = (sql) =>
  sql(`UPDATE jobs JOIN plans ON plans.id = jobs.plan_id
    SET jobs.revision = COALESCE(JSON_VALUE(jobs.result, '$.revision'), plans.revision)
    WHERE jobs.revision IS NULL`)

export const down: Migration = () => Promise.resolve()
