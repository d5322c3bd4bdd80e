import { join } from 'node:path'
import compression from 'compression'
import express, { type Express, type RequestHandler } from 'express'
import expressStaticGzip from 'express-static-gzip'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import type { JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import type { ShareRepository } from '../db/shareRepository.ts'
import type { SheetMappings } from '../db/sheetMappings.ts'
import type { ForeignFiles } from '../files/foreignFiles.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'
import type { JobRunner } from '../jobs/jobRunner.ts'
import type { Analyst } from '../analysis/analyst.ts'
import { errorHandler } from './errorHandler.ts'
import { fileRoutes } from './fileRoutes.ts'
import { gate, type People } from './gate.ts'
import { knownHost } from './knownHost.ts'
import type { PlanEvents } from './planEvents.ts'
import { openApi } from './openApi.ts'
import { peopleRoutes } from './peopleRoutes.ts'
import { planRoutes } from './planRoutes.ts'
import { recordRoutes } from './recordRoutes.ts'
import { reportRoutes } from './reportRoutes.ts'
import { sharedRoutes, shareRoutes } from './shareRoutes.ts'
import { runRoutes } from './runRoutes.ts'

export interface AppParts {
  readonly plans: PlanRepository
  readonly jobs: JobRepository
  readonly mappings: SheetMappings
  readonly shares: ShareRepository
  readonly files: ForeignFiles
  readonly room: MemoryRoom
  readonly runner: JobRunner
  readonly analyst: Analyst
  readonly events: PlanEvents
  readonly log: Logger
  readonly webRoot: string | null
  /** Names under which it answers, beside localhost. */
  readonly hosts: readonly string[]
  /** Null: nobody signs in. */
  readonly people: People | null
  readonly proxies: number
}

const REQUESTS_A_MINUTE = 6000

const hostOf = (origin: string): string | null => (URL.canParse(origin) ? new URL(origin).host : null)

/** Writes are taken from our own pages only: a foreign page's request carries its own origin. */
const sameOrigin: RequestHandler = (request, response, next) => {
  const { origin } = request.headers
  const isWrite = !['GET', 'HEAD', 'OPTIONS'].includes(request.method)
  if (isWrite && origin !== undefined && hostOf(origin) !== request.headers.host)
    return void response
      .status(403)
      .json({ error: 'origin', message: 'this request comes from another site' })
  next()
}

export const createApp = ({
  plans,
  jobs,
  mappings,
  shares,
  files,
  room,
  runner,
  analyst,
  events,
  log,
  webRoot,
  hosts,
  people,
  proxies,
}: AppParts): Express => {
  const app = express()
  app.disable('x-powered-by')
  app.set('trust proxy', proxies)
  app.use(knownHost(hosts))
  app.use(pinoHttp({ logger: log, quietReqLogger: true, autoLogging: log.isLevelEnabled('debug') }))
  app.use(
    helmet({
      strictTransportSecurity: false,
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'worker-src': ["'self'", 'blob:'],
          'img-src': ["'self'", 'data:', 'blob:'],
          'font-src': ["'self'", 'data:'],
          'connect-src': ["'self'"],
          'object-src': ["'none'"],
          'base-uri': ["'none'"],
          'form-action': ["'self'"],
          'frame-ancestors': ["'none'"],
        },
      },
    }),
  )
  app.use(compression())
  const api = express.Router()
  api.use(sameOrigin)
  api.use(
    rateLimit({
      windowMs: 60_000,
      limit: REQUESTS_A_MINUTE,
      standardHeaders: true,
      legacyHeaders: false,
      message: {
        error: 'too-many',
        message: `more than ${REQUESTS_A_MINUTE} requests in a minute from here; wait a moment`,
      },
    }),
  )
  if (people !== null) api.use(gate(people))
  api.use(peopleRoutes(people, events))
  api.get('/health', async (_request, response) => {
    const database = await plans.answers()
    response
      .status(database ? 200 : 503)
      .json({ ok: database, database: database ? 'answers' : 'does not answer' })
  })
  let described: object | null = null
  api.get('/openapi.json', (_request, response) => void response.json((described ??= openApi())))
  api.use('/plans', planRoutes({ plans, jobs, events, files, analyst, room }))
  api.use('/plans/:plan/runs', runRoutes(plans, jobs, runner))
  api.use('/plans/:plan/shares', shareRoutes(plans, shares))
  api.use('/plans/:plan/report', reportRoutes(plans, analyst))
  api.use(recordRoutes(plans))
  api.use(fileRoutes(mappings, files, room))
  api.use(
    (_request, response) =>
      void response.status(404).json({ error: 'not-found', message: 'there is nothing at this address' }),
  )
  app.use('/api', api)
  app.use('/shared', sharedRoutes(plans, shares))
  if (webRoot !== null) {
    const compressed = { enableBrotli: true, orderPreference: ['br'], index: false }
    app.use(
      '/assets',
      expressStaticGzip(join(webRoot, 'assets'), {
        ...compressed,
        serveStatic: { immutable: true, maxAge: '1y', fallthrough: false },
      }),
    )
    app.use(expressStaticGzip(webRoot, compressed))
    app.get('/{*path}', (_request, response) => response.sendFile(join(webRoot, 'index.html')))
  }
  app.use(errorHandler(log))
  return app
}
