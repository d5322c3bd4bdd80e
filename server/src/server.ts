import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Config } from './config.ts'
import { Accounts } from './db/accounts.ts'
import { connect } from './db/connection.ts'
import { JobRepository } from './db/jobRepository.ts'
import { migrator } from './db/migrate.ts'
import { defineModels } from './db/models.ts'
import { PlanRoles } from './db/planRoles.ts'
import { PlanRepository } from './db/planRepository.ts'
import { Presence } from './db/presence.ts'
import { loadDemo } from './demo.ts'
import { Sessions } from './db/sessions.ts'
import { ShareRepository } from './db/shareRepository.ts'
import { SheetMappings } from './db/sheetMappings.ts'
import { ForeignFiles } from './files/foreignFiles.ts'
import { createApp } from './http/app.ts'
import { PlanEvents } from './http/planEvents.ts'
import { Analyst } from './analysis/analyst.ts'
import { JobRunner } from './jobs/jobRunner.ts'
import { createLog } from './logging.ts'
import { MemoryRoom } from './threads/memoryRoom.ts'

export interface RunningServer {
  readonly address: string
  /** Where the first administrator says who they are; null where there is one, or nobody signs in. */
  readonly firstWelcome: string | null
  readonly plans: PlanRepository
  stop(): Promise<void>
}

/** Connects, migrates, loads the demo data into an empty database, and serves. @throws with a clear message if it cannot */
export const startServer = async (config: Config): Promise<RunningServer> => {
  const log = createLog(config.logLevel)
  const sequelize = connect(config.database)
  await sequelize.authenticate()
  const models = defineModels(sequelize)
  await migrator(sequelize).up()
  const plans = new PlanRepository(sequelize, models)
  if (config.demoRoot !== null) await loadDemo(plans, config.demoRoot)
  const presence = await Presence.begin(config.database, log)
  const jobs = new JobRepository(sequelize, models, presence.server)
  const events = new PlanEvents(plans, log)
  const room = new MemoryRoom(config.memoryMb)
  const runner = new JobRunner(jobs, plans, room, log, (progress) => events.tellRun(progress))
  const files = new ForeignFiles(room)
  const analyst = new Analyst(room)
  const people = config.people
    ? {
        accounts: new Accounts(sequelize, models),
        sessions: new Sessions(sequelize, models),
        roles: new PlanRoles(sequelize, models),
      }
    : null
  const app = createApp({
    plans,
    jobs,
    mappings: new SheetMappings(models),
    shares: new ShareRepository(models),
    files,
    room,
    runner,
    analyst,
    events,
    log,
    webRoot: config.webRoot,
    hosts: [config.host, ...config.hosts],
    people,
    proxies: config.proxies,
  })
  const server = createServer(app)
  await listen(server, config)
  const { port } = server.address() as AddressInfo
  const address = `http://${config.host}:${port}`
  const token = (await people?.accounts.firstToken()) ?? null
  return {
    address,
    firstWelcome: token && `${address}/welcome#${token}`,
    plans,
    async stop() {
      events.stop()
      server.close()
      server.closeAllConnections()
      await runner.stop()
      await files.stop()
      await analyst.stop()
      await presence.end()
      await sequelize.close()
    },
  }
}

const listen = (server: Server, { host, port }: Config): Promise<void> =>
  new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(`port ${port} is already in use; stop what uses it, or set GEODROME_PORT to another`, {
              cause: error,
            })
          : error,
      ),
    )
    server.listen(port, host, resolve)
  })
