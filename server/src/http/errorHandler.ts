import type { ErrorRequestHandler } from 'express'
import type { Logger } from 'pino'
import { z } from 'zod'
import { CalendarError, PlanError, pointer, type ErrorBody } from '@geodrome/core'
import { BadRequestError, ConflictError, NotFoundError } from '../errors.ts'

const answer = (error: unknown): { status: number; body: ErrorBody } | null => {
  if (error instanceof NotFoundError)
    return { status: 404, body: { error: 'not-found', message: error.message } }
  if (error instanceof BadRequestError)
    return { status: 400, body: { error: 'bad-request', message: error.message } }
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
  const type = (error as { type?: string }).type
  if (type === 'entity.too.large')
    return {
      status: 413,
      body: {
        error: 'too-large',
        message: 'this file is larger than can be taken in one go (64 MB for a plan, 20 MB for a workbook)',
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

const isConnectionLoss = (error: unknown): boolean =>
  /^SequelizeConnection|^SequelizeHostNotReachable/.test((error as Error)?.name ?? '')

/** Turns every error into a status and a body in the user's terms; what is unexpected is logged whole and told briefly. */
export const errorHandler =
  (log: Logger): ErrorRequestHandler =>
  (error, _request, response, next) => {
    if (response.headersSent) return next(error)
    const known = answer(error)
    if (known) return void response.status(known.status).json(known.body)
    log.error({ err: error as Error }, 'unexpected error')
    if (isConnectionLoss(error))
      return void response.status(503).json({
        error: 'database',
        message: 'the database does not answer; nothing was stored, try again',
      } satisfies ErrorBody)
    response.status(500).json({
      error: 'internal',
      message: 'something went wrong on the server; nothing was stored',
    } satisfies ErrorBody)
  }
