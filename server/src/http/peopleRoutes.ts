import express, { Router, type Request, type Response } from 'express'
import { rateLimit, type RateLimitRequestHandler } from 'express-rate-limit'
import {
  accountChangeSchema,
  givenRoleSchema,
  invitationSchema,
  signInSchema,
  welcomedSchema,
  welcomeTokenSchema,
  type Me,
} from '@geodrome/core'
import { digest } from '../db/secrets.ts'
import { SESSION_MS } from '../db/sessions.ts'
import { BadRequestError, ForbiddenError } from '../errors.ts'
import { askerOf } from './asker.ts'
import { COOKIE, sessionOf, type People } from './gate.ts'
import type { PlanEvents } from './planEvents.ts'

/** Who fails to sign in so often, from one place or under one name, waits. */
const TRIES_FROM_HERE = 30
const TRIES_OF_A_NAME = 50
const TRIES_MS = 10 * 60_000

const throttle = (limit: number, keyOf?: (request: Request) => string): RateLimitRequestHandler =>
  rateLimit({
    windowMs: TRIES_MS,
    limit,
    skipSuccessfulRequests: true,
    standardHeaders: true,
    legacyHeaders: false,
    ...(keyOf && { keyGenerator: keyOf }),
    message: { error: 'too-many', message: 'too many attempts; wait ten minutes' },
  })

const small = express.json({ limit: '16kb' })
const meOf = (account: Me['account']): Me => ({ people: true, account })

/** Signing in and out, accounts, and who has a part in a plan. */
export const peopleRoutes = (people: People | null, events: PlanEvents): Router => {
  const router = Router()
  router.get('/me', (_request, response) => {
    response.json(people === null ? { people: false, account: null } : meOf(askerOf(response).account))
  })
  if (people === null) {
    router.use(['/sign-in', '/sign-out', '/welcome', '/accounts', '/plans/:plan/people'], () => {
      throw new ForbiddenError('people do not sign in here; start the server with GEODROME_PEOPLE=on')
    })
    return router
  }
  const { accounts, sessions, roles } = people

  const signIn = async (request: Request, response: Response, id: string): Promise<void> => {
    const token = await sessions.begin(id)
    response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'strict',
      secure: request.secure,
      path: '/api',
      maxAge: SESSION_MS,
    })
    response.json(meOf(await sessions.find(token)))
  }

  const nameOf = (request: Request): string =>
    digest(String((request.body as { name?: unknown } | undefined)?.name).toLowerCase())
  router.post(
    '/sign-in',
    small,
    throttle(TRIES_FROM_HERE),
    throttle(TRIES_OF_A_NAME, nameOf),
    async (request, response) => {
      const { name, password } = signInSchema.parse(request.body)
      const account = await accounts.signedIn(name, password)
      if (!account) throw new BadRequestError('this name and password do not belong together')
      await signIn(request, response, account.id)
    },
  )
  router.post('/sign-out', async (request, response) => {
    await sessions.end(sessionOf(request)!)
    events.askAgain()
    response.clearCookie(COOKIE, { path: '/api' }).status(204).end()
  })

  const guesses = throttle(TRIES_FROM_HERE)
  router.post('/welcome', small, guesses, async (request, response) => {
    response.json(await accounts.welcome(welcomeTokenSchema.parse(request.body).token))
  })
  router.post('/welcome/accept', small, guesses, async (request, response) => {
    const { token, name, password } = welcomedSchema.parse(request.body)
    await signIn(request, response, await accounts.accept(token, name, password))
  })

  router.get('/accounts', async (_request, response) => void response.json(await accounts.list()))
  router.post('/accounts', small, async (request, response) => {
    const { name, administrator } = invitationSchema.parse(request.body)
    response.status(201).json(await accounts.invite(name, administrator))
  })
  router.patch('/accounts/:account', small, async (request, response) => {
    const changed = await accounts.change(request.params.account, accountChangeSchema.parse(request.body))
    events.askAgain()
    response.json(changed)
  })
  router.post('/accounts/:account/welcome', async (request, response) => {
    response.status(201).json(await accounts.welcomeAgain(request.params.account))
  })

  router.get('/plans/:plan/people', async (request, response) => {
    response.json(await roles.people(request.params.plan))
  })
  router.put('/plans/:plan/people/:account', small, async (request, response) => {
    const { plan, account } = request.params
    await roles.give(plan, account, givenRoleSchema.parse(request.body).role)
    events.askAgain()
    response.status(204).end()
  })
  return router
}
