import express, { Router } from 'express'
import { z } from 'zod'
import {
  askedUidsSchema,
  isForecastPast,
  lightened,
  planStandingSchema,
  readSentChange,
  writePlan,
  type FactsOfPlan,
  type LoggedChange,
} from '@geodrome/core'
import type { Analyst } from '../analysis/analyst.ts'
import type { JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import type { ForeignFiles } from '../files/foreignFiles.ts'
import { askerOf, signedAs } from './asker.ts'
import { fileName } from './fileName.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'
import type { PlanEvents } from './planEvents.ts'
import { roomForFile } from './roomForFile.ts'

const MOST_PLAN_MB = 64
const revision = z.coerce.number().int().min(0)

/** Changes that are looked through for one that moves a forecast. */
const MOST_CHANGES = 500

const importUid = z.string().min(8).max(40).optional()
/** A body that is not there is no file. */
const bytesOf = (body: unknown): Uint8Array => (Buffer.isBuffer(body) ? body : new Uint8Array())

interface PlanRouteParts {
  readonly plans: PlanRepository
  readonly jobs: JobRepository
  readonly events: PlanEvents
  readonly files: ForeignFiles
  readonly analyst: Analyst
  readonly room: MemoryRoom
}

export const planRoutes = ({ plans, jobs, events, files, analyst, room }: PlanRouteParts): Router => {
  const router = Router()
  /** Whether what was changed since a run could move its answer; of very many changes it is taken to. */
  const isPast = async (id: string, since: number, revision: number): Promise<boolean> => {
    if (revision - since > MOST_CHANGES) return true
    const changes: LoggedChange[] = []
    while (since + changes.length < revision) {
      const page = await plans.changesSince(id, since + changes.length)
      if (page.length === 0) break
      changes.push(...page)
    }
    return isForecastPast(changes, [])
  }
  // Whole plans come in here; changes and everything else are small.
  const wholePlan = express.raw({ limit: `${MOST_PLAN_MB}mb`, type: () => true })
  const small = express.json({ limit: '8mb' })

  router.get('/', async (_request, response) => {
    response.json(await plans.list(await askerOf(response).roles()))
  })

  router.post('/', roomForFile(room, files, MOST_PLAN_MB), wholePlan, async (request, response) => {
    const uid = importUid.parse(request.query.uid)
    const { rows, notes, warnings } = await files.plan(bytesOf(request.body))
    const id = await plans.create(rows, uid ?? null, askerOf(response).account?.id ?? null)
    response.status(201).json({ id, notes, warnings })
  })

  router.get('/calendars', async (_request, response) => {
    response.json(await plans.calendars(await askerOf(response).roles()))
  })

  router.get('/:id', async (request, response) => {
    const { plan: whole, revision } = await plans.get(request.params.id)
    const { plan, left } = lightened(whole)
    response.json({
      id: request.params.id,
      revision,
      plan,
      left,
      changes: await plans.latestChanges(request.params.id),
      role: askerOf(response).role,
    })
  })

  router.delete('/:id', async (request, response) => {
    await plans.setRemoved(request.params.id, true)
    response.status(204).end()
  })

  router.patch('/:id', small, async (request, response) => {
    const { archived } = planStandingSchema.parse(request.body)
    await plans.setArchived(request.params.id, archived)
    response.status(204).end()
  })

  router.get('/:id/facts', async (request, response) => {
    const { id } = request.params
    const { plan, revision } = await plans.get(id)
    let found = await plans.factsAt(id, revision)
    if (!found) {
      found = await analyst.facts(plan)
      await plans.keepFacts(id, revision, found)
    }
    const forecast = await jobs.latestForecast(id)
    const facts: FactsOfPlan = {
      ...found,
      revision,
      p80: forecast && {
        date: forecast.p80,
        isPast: await isPast(id, forecast.revision, revision),
      },
    }
    response.json(facts)
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
    const sent = readSentChange(request.body)
    const author = signedAs(response, sent.author)
    const entry = await plans.change(request.params.id, { ...sent, author }, askerOf(response).role)
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
    events.open(
      request.params.id,
      since === undefined ? current : revision.parse(since),
      response,
      askerOf(response).maySee,
    )
  })

  return router
}
