import express, { Router, type ErrorRequestHandler, type Response } from 'express'
import { rateLimit } from 'express-rate-limit'
import {
  CalendarError,
  isShown,
  planCalendar,
  scenarioPlan,
  schedule,
  sharedPage,
  shareRequestSchema,
  type Schedule,
  type Share,
} from '@geodrome/core'
import { webFontRules } from '@geodrome/print'
import type { PlanRepository } from '../db/planRepository.ts'
import type { ShareRepository } from '../db/shareRepository.ts'
import { NotFoundError } from '../errors.ts'
import { signedAs } from './asker.ts'

/** Links of a plan: listed, made, revoked. */
export const shareRoutes = (plans: PlanRepository, shares: ShareRepository): Router => {
  const router = Router({ mergeParams: true })
  router.get<{ plan: string }>('/', async (request, response) => {
    await plans.get(request.params.plan)
    response.json(await shares.ofPlan(request.params.plan))
  })
  router.post<{ plan: string }>('/', express.json({ limit: '16kb' }), async (request, response) => {
    const { plan } = await plans.get(request.params.plan)
    const asked = shareRequestSchema.parse(request.body)
    if (asked.scenario !== null && !plan.scenarios.some(({ id }) => id === asked.scenario))
      throw new NotFoundError(`there is no scenario "${asked.scenario}"`)
    const by = signedAs(response, asked.by)
    response.status(201).json(await shares.make(request.params.plan, { ...asked, by }))
  })
  router.delete<{ plan: string; share: string }>('/:share', async (request, response) => {
    await plans.get(request.params.plan)
    await shares.revoke(request.params.plan, request.params.share)
    response.status(204).end()
  })
  return router
}

/** Who tries addresses that open nothing is stopped for a while. */
const WRONG_TRIES = 30
const WRONG_MS = 10 * 60_000

/**
 * What is behind a link: a page and a calendar, made of what was chosen and nothing else. A link that was revoked, has expired or never
 * was is answered alike.
 */
export const sharedRoutes = (plans: PlanRepository, shares: ShareRepository): Router => {
  const router = Router()
  router.use(
    rateLimit({
      windowMs: WRONG_MS,
      limit: WRONG_TRIES,
      skipSuccessfulRequests: true,
      standardHeaders: true,
      legacyHeaders: false,
      handler: (_request, response) => void nothingHere(response, 429),
    }),
  )
  const seen = async (token: string): Promise<{ made: Schedule; share: Share } | null> => {
    const opened = await shares.opened(token)
    if (!opened) return null
    const { planId, share } = opened
    try {
      const { plan } = await plans.get(planId)
      if (share.scenario === null) return { made: schedule(plan), share }
      // A scenario that was discarded shows nothing: the plan is not what was shared.
      if (!plan.scenarios.some(({ id }) => id === share.scenario)) return null
      return { made: schedule(scenarioPlan(plan, share.scenario).plan), share }
    } catch (error) {
      if (error instanceof NotFoundError || error instanceof CalendarError) return null
      throw error
    }
  }
  router.use((_request, response, next) => {
    response.set({ 'Cache-Control': 'no-store', 'X-Robots-Tag': 'noindex' })
    next()
  })
  router.get('/:token', async (request, response) => {
    const { token } = request.params
    const found = await seen(token)
    if (!found) return nothingHere(response, 404)
    response.type('html').send(sharedPage(found.made, found.share, webFontRules(), `${token}/dates.ics`))
  })
  router.get('/:token/dates.ics', async (request, response) => {
    const found = await seen(request.params.token)
    if (!found) return nothingHere(response, 404)
    const { made, share } = found
    response
      .attachment('dates.ics')
      .type('text/calendar')
      .send(planCalendar(made, (activity) => isShown(activity, share)))
  })
  // Who looks does not read the program's errors: whatever it is, they are told to come again.
  router.use(((error, request, response, next) => {
    if (response.headersSent) return next(error)
    request.log.error({ name: (error as Error).name }, 'a shared page could not be made')
    nothingHere(response, 503)
  }) satisfies ErrorRequestHandler)
  return router
}

const SAID = {
  404: 'Nothing is behind this address. The link may have been taken back or have run out: ask who sent it for a new one.',
  429: 'Too many addresses were tried from here. Wait ten minutes.',
  503: 'The page cannot be made just now. Try again in a moment.',
} as const

const nothingHere = (response: Response, status: keyof typeof SAID): void => {
  response
    .status(status)
    .type('html')
    .send(
      `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Nothing here</title></head><body style="font: 16px/1.5 sans-serif; max-width: 34em; margin: 4em auto; padding: 0 1em; color: #1E2733; background: #F6F3EC"><h1 style="font-size: 1.4em">Nothing here</h1><p>${SAID[status]}</p></body></html>\n`,
    )
}
