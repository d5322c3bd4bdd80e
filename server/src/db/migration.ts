/** One reversible step: MariaDB commits each DDL statement, so a migration is a single one, safe to run again. */
export type Migration = (sql: (statement: string) => Promise<unknown>) => Promise<unknown>
