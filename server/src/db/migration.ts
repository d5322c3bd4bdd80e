import type { QueryOptions } from 'sequelize'

/** One reversible step, safe to run again: MariaDB commits each DDL statement, so a migration of the schema is a single one. */
export type Migration = (
  sql: (statement: string, options?: QueryOptions) => Promise<unknown>,
) => Promise<unknown>
