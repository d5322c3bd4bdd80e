import type { ErrorRequestHandler } from 'express'
import type { Logger } from 'pino'
import { z } from 'zod'
import { CalendarError, PlanError, pointer, type ErrorBody } from '@geodrome/core'
import {
  BadRequestError,
  BusyError,
  ConflictError,
  ForbiddenError,
  NotFoundError,
  SignedOutError,
} from '../errors.ts'

const answer = (error: unknown): { status: number; body: ErrorBody } | null => {
  if (error instanceof NotFoundError)
    return { status: 404, body: { error: 'not-found', message: error.message } }
  if (error instanceof BadRequestError)
    return { status: 400, body: { error: 'bad-request', message: error.message } }
  if (error instanceof SignedOutError)
    return { status: 401, body: { error: 'signed-out', message: error.message } }
  if (error instanceof ForbiddenError)
    return { status: 403, body: { error: 'forbidden', message: error.message } }
  if (error instanceof BusyError) return { status: 503, body: { error: 'busy', message: error.message } }
  if (error instanceof ConflictError)
    return {
      status: 409,
      body: { error: 'conflict', message: error.message, facts: error.facts, theirs: error.theirs },
    }
  if (error instanceof PlanError)
    return { status: 400, body: { error: 'plan', message: error.issues[0]!.message, issues: error.issues } }
  if (error instanceof CalendarError)
    return {
      status: 400,
      body: {
        error: 'plan',
        message: error.message,
        issues: [{ pointer: '/calendars', code: 'no-working-time', message: error.message }],
      },
    }
  if (error instanceof z.ZodError) {
    const issues = error.issues.map((issue) => ({
      pointer: pointer(...issue.path),
      code: 'shape' as const,
      message: issue.message,
    }))
    return {
      status: 400,
      body: {
        error: 'bad-request',
        message: `${issues[0]!.pointer || 'the body'}: ${issues[0]!.message}`,
        issues,
      },
    }
  }
  const { type, limit } = error as { type?: string; limit?: number }
  if (type === 'entity.too.large')
    return {
      status: 413,
      body: {
        error: 'too-large',
        message: `this is larger than can be taken here: at most ${sizeWords(limit ?? 0)}`,
      },
    }
  if (type === 'entity.parse.failed')
    return {
      status: 400,
      body: {
        error: 'not-json',
        message: `not a JSON file: ${(error as Error).message}`,
        issues: [{ pointer: '', code: 'not-json', message: (error as Error).message }],
      },
    }
  if (type?.startsWith('entity.') || type?.startsWith('encoding.') || type?.startsWith('charset.'))
    return { status: 400, body: { error: 'bad-request', message: 'the body cannot be read' } }
  // What Express finds wrong with an address: a file that is not there, a path that cannot be decoded.
  const status = (error as { status?: number }).status ?? 500
  if (status === 404)
    return { status, body: { error: 'not-found', message: 'there is nothing at this address' } }
  if (status >= 400 && status < 500)
    return { status, body: { error: 'bad-request', message: 'this address cannot be read' } }
  return null
}

const sizeWords = (bytes: number): string =>
  bytes >= 1024 * 1024 ? `${Math.round(bytes / 1024 / 1024)} MB` : `${Math.round(bytes / 1024)} kB`

/** Errors of the client of MariaDB itself, and of a connection that broke under a statement. */
const isConnectionLoss = (error: unknown): boolean => {
  if (!(error instanceof Error)) return false
  const { code, errno, fatal } = { ...(error as { parent?: object }).parent, ...error } as {
    code?: string
    errno?: number
    fatal?: boolean
  }
  return (
    /^Sequelize(Connection|HostNotReachable|HostNotFound|AccessDenied|InvalidConnection)/.test(error.name) ||
    fatal === true ||
    /^(ECONN|EPIPE|ETIMEDOUT|PROTOCOL_)/.test(code ?? '') ||
    (errno !== undefined && errno >= 45_000 && errno < 46_000) ||
    /ConnectionManager\.getConnection was called after/.test(error.message)
  )
}

/** Whether a request that fails may have been stored nevertheless: its answer was lost, not what it did. */
const mayBeStored = (method: string): boolean => !['GET', 'HEAD', 'OPTIONS'].includes(method)

/** Turns every error into a status and a body in the user's terms; what is unexpected is logged whole and told briefly. */
export const errorHandler =
  (log: Logger): ErrorRequestHandler =>
  (error, request, response, next) => {
    if (response.headersSent) return next(error)
    const known = answer(error)
    if (known) return void response.status(known.status).json(known.body)
    log.error({ err: error as Error }, 'unexpected error')
    if (isConnectionLoss(error))
      return void response.status(503).json({
        error: 'database',
        message: mayBeStored(request.method)
          ? 'the database does not answer; whether this was stored is not known, try again'
          : 'the database does not answer; try again',
      } satisfies ErrorBody)
    response.status(500).json({
      error: 'internal',
      message: mayBeStored(request.method)
        ? 'something went wrong on the server; whether this was stored is not known'
        : 'something went wrong on the server',
    } satisfies ErrorBody)
  }
