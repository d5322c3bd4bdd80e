import type { Sequelize } from 'sequelize'
import type { Config } from '../config.ts'
import { configFrom } from '../config.ts'
import { connect } from '../db/connection.ts'
import { startServer, type RunningServer } from '../server.ts'

export interface TestServer extends RunningServer {
  readonly sequelize: Sequelize
  /** A second server on the same database. */
  another(): Promise<RunningServer>
}

/** A server on a database of its own in the private MariaDB that the test command has started. */
export const testServer = async (
  demoRoot: string | null = null,
  said: Partial<Config> = {},
): Promise<TestServer> => {
  if (process.env.GEODROME_DB_PORT === undefined)
    throw new Error('no test database: run "npm test", which starts one')
  const name = `geodrome_t${process.pid}_${Math.floor(performance.now() * 1000) % 1e9}`
  const base = configFrom({ ...process.env, GEODROME_PORT: '0', GEODROME_LOG: 'silent' })
  const config: Config = { ...base, database: { ...base.database, name }, demoRoot, ...said }
  const root = connect({ ...config.database, name: '' })
  await root.query(`CREATE DATABASE \`${name}\``)
  const server = await startServer(config)
  const sequelize = connect(config.database)
  return {
    ...server,
    sequelize,
    another: () => startServer(config),
    async stop() {
      await server.stop()
      await sequelize.close()
      await root.query(`DROP DATABASE \`${name}\``)
      await root.close()
    },
  }
}
