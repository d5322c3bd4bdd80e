import express, { Router } from 'express'
import { z } from 'zod'
import { askedUidsSchema, readPlan, schedule, sentChangeSchema, writePlan } from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import type { PlanEvents } from './planEvents.ts'

const revision = z.coerce.number().int().min(0)

export const planRoutes = (plans: PlanRepository, events: PlanEvents): Router => {
  const router = Router()
  // Whole plans come in here; changes and everything else are small.
  const wholePlan = express.json({ limit: '64mb', type: () => true, strict: false })
  const small = express.json({ limit: '8mb' })

  router.get('/', async (_request, response) => {
    response.json(await plans.list())
  })

  router.post('/', wholePlan, async (request, response) => {
    const { plan, notes } = readPlan(request.body)
    // A plan that cannot be scheduled is refused on the way in, with the calendar named.
    const { warnings } = schedule(plan)
    const id = await plans.create(plan)
    response.status(201).json({ id, notes, warnings })
  })

  router.get('/calendars', async (_request, response) => {
    response.json(await plans.calendars())
  })

  router.get('/:id', async (request, response) => {
    const { plan, revision } = await plans.get(request.params.id)
    response.json({
      id: request.params.id,
      revision,
      plan,
      changes: await plans.latestChanges(request.params.id, 100),
    })
  })

  router.delete('/:id', async (request, response) => {
    await plans.setRemoved(request.params.id, true)
    response.status(204).end()
  })

  router.post('/:id/restore', async (request, response) => {
    await plans.setRemoved(request.params.id, false)
    response.status(204).end()
  })

  router.get('/:id/file', async (request, response) => {
    const { plan } = await plans.get(request.params.id)
    const file = (plan.project.code || 'plan').replaceAll(/[^\w.-]+/g, '-')
    response.attachment(`${file}.geodrome.json`).type('application/json').send(writePlan(plan))
  })

  router.post('/:id/changes', small, async (request, response) => {
    const entry = await plans.change(request.params.id, sentChangeSchema.parse(request.body))
    events.poke(request.params.id)
    response.json(entry)
  })

  router.post('/:id/changes/stored', small, async (request, response) => {
    const { uids } = askedUidsSchema.parse(request.body)
    response.json(await plans.storedOf(request.params.id, uids))
  })

  router.get('/:id/changes', async (request, response) => {
    await plans.get(request.params.id)
    const { before } = request.query
    if (before !== undefined)
      return void response.json(await plans.latestChanges(request.params.id, 100, revision.parse(before)))
    const since = request.query.since === undefined ? null : revision.parse(request.query.since)
    response.json(
      since === null
        ? await plans.latestChanges(request.params.id, 200)
        : await plans.changesSince(request.params.id, since),
    )
  })

  router.get('/:id/events', async (request, response) => {
    const { revision: current } = await plans.get(request.params.id)
    const since = request.query.since === undefined ? current : revision.parse(request.query.since)
    await events.open(request.params.id, since, request, response)
  })

  return router
}
