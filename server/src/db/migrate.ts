import type { QueryOptions, Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import type { Migration } from './migration.ts'
import * as plans from './migrations/20261125-0100-plans.ts'
import * as planItems from './migrations/20261125-0101-plan-items.ts'
import * as changes from './migrations/20261125-0102-changes.ts'
import * as jobs from './migrations/20261125-0103-jobs.ts'
import * as sheetMappings from './migrations/20261125-0104-sheet-mappings.ts'
import * as exactKeys from './migrations/20261128-0100-exact-keys.ts'
import * as exactUids from './migrations/20261128-0101-exact-uids.ts'
import * as jobOwner from './migrations/20261128-0102-job-owner.ts'
import * as jobRoom from './migrations/20261128-0103-job-room.ts'
import * as jobRevision from './migrations/20261128-0104-job-revision.ts'
import * as importUid from './migrations/20261128-0107-import-uid.ts'
import * as scenarioChanges from './migrations/20261128-0106-scenario-changes.ts'
import * as jobRevisionKnown from './migrations/20261128-0105-job-revision-known.ts'
import * as damages from './migrations/20261128-0108-damages.ts'
import * as periods from './migrations/20261128-0109-periods.ts'
import * as forecastInputs from './migrations/20261128-0110-forecast-inputs.ts'
import * as jobName from './migrations/20261129-0100-job-name.ts'
import * as planFacts from './migrations/20261129-0101-plan-facts.ts'
import * as shares from './migrations/20261129-0102-shares.ts'
import * as jobServer from './migrations/20261129-0104-job-server.ts'
import * as accounts from './migrations/20261130-0100-accounts.ts'
import * as welcomes from './migrations/20261130-0101-welcomes.ts'
import * as sessions from './migrations/20261130-0102-sessions.ts'
import * as planRoles from './migrations/20261130-0103-plan-roles.ts'
import * as mappingOwner from './migrations/20261130-0104-mapping-owner.ts'
import * as plansArchived from './migrations/20261129-0103-plans-archived.ts'

/** In order; a migration that has landed is never edited. */
export const MIGRATIONS: readonly (readonly [name: string, steps: { up: Migration; down: Migration }])[] = [
  ['20261125-0100-plans', plans],
  ['20261125-0101-plan-items', planItems],
  ['20261125-0102-changes', changes],
  ['20261125-0103-jobs', jobs],
  ['20261125-0104-sheet-mappings', sheetMappings],
  ['20261128-0100-exact-keys', exactKeys],
  ['20261128-0101-exact-uids', exactUids],
  ['20261128-0102-job-owner', jobOwner],
  ['20261128-0103-job-room', jobRoom],
  ['20261128-0104-job-revision', jobRevision],
  ['20261128-0105-job-revision-known', jobRevisionKnown],
  ['20261128-0106-scenario-changes', scenarioChanges],
  ['20261128-0107-import-uid', importUid],
  ['20261128-0108-damages', damages],
  ['20261128-0109-periods', periods],
  ['20261128-0110-forecast-inputs', forecastInputs],
  ['20261129-0100-job-name', jobName],
  ['20261129-0101-plan-facts', planFacts],
  ['20261129-0102-shares', shares],
  ['20261129-0103-plans-archived', plansArchived],
  ['20261129-0104-job-server', jobServer],
  ['20261130-0100-accounts', accounts],
  ['20261130-0101-welcomes', welcomes],
  ['20261130-0102-sessions', sessions],
  ['20261130-0103-plan-roles', planRoles],
  ['20261130-0104-mapping-owner', mappingOwner],
]

export const migrator = (sequelize: Sequelize): Umzug<Sequelize> => {
  const sql = (statement: string, options?: QueryOptions): Promise<unknown> =>
    sequelize.query(statement, options)
  return new Umzug({
    migrations: MIGRATIONS.map(([name, { up, down }]) => ({
      name,
      up: () => up(sql),
      down: () => down(sql),
    })),
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  })
}
