import express, { Router } from 'express'
import { z } from 'zod'
import { askedUidsSchema, readSentChange, writePlan } from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import type { ForeignFiles } from '../files/foreignFiles.ts'
import { fileName } from './fileName.ts'
import type { PlanEvents } from './planEvents.ts'

const revision = z.coerce.number().int().min(0)

const importUid = z.string().min(8).max(40).optional()
/** A body that is not there is no file. */
const bytesOf = (body: unknown): Uint8Array => (Buffer.isBuffer(body) ? body : new Uint8Array())

export const planRoutes = (plans: PlanRepository, events: PlanEvents, files: ForeignFiles): Router => {
  const router = Router()
  // Whole plans come in here; changes and everything else are small.
  const wholePlan = express.raw({ limit: '64mb', type: () => true })
  const small = express.json({ limit: '8mb' })

  router.get('/', async (_request, response) => {
    response.json(await plans.list())
  })

  router.post('/', wholePlan, async (request, response) => {
    const uid = importUid.parse(request.query.uid)
    const { rows, notes, warnings } = await files.plan(bytesOf(request.body))
    const id = await plans.create(rows, uid ?? null)
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
      changes: await plans.latestChanges(request.params.id),
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
    response
      .attachment(`${fileName(plan)}.geodrome.json`)
      .type('application/json')
      .send(writePlan(plan))
  })

  router.post('/:id/changes', small, async (request, response) => {
    const entry = await plans.change(request.params.id, readSentChange(request.body))
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
      return void response.json(await plans.latestChanges(request.params.id, revision.parse(before)))
    const since = request.query.since === undefined ? null : revision.parse(request.query.since)
    response.json(
      since === null
        ? await plans.latestChanges(request.params.id)
        : await plans.changesSince(request.params.id, since),
    )
  })

  router.get('/:id/events', async (request, response) => {
    const { revision: current } = await plans.get(request.params.id)
    // A stream that broke is opened anew by the browser itself, which says what it heard last.
    const since = request.get('last-event-id') ?? request.query.since
    events.open(request.params.id, since === undefined ? current : revision.parse(since), response)
  })

  return router
}
