import express, { Router } from 'express'
import {
  lookRequestSchema,
  LOOKS,
  RUN_KINDS,
  runNameSchema,
  runRequestSchema,
  type RunInput,
} from '@geodrome/core'
import type { JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import { BadRequestError } from '../errors.ts'
import { JOB_KINDS } from '../jobs/jobKinds.ts'
import type { JobRunner } from '../jobs/jobRunner.ts'

interface RunPath {
  readonly plan: string
  readonly run: string
}

/** Long work on a plan: started, watched, stopped, kept, asked about. */
export const runRoutes = (plans: PlanRepository, jobs: JobRepository, runner: JobRunner): Router => {
  const router = Router({ mergeParams: true })

  router.post<{ plan: string }>('/', express.json({ limit: '64kb' }), async (request, response) => {
    const { plan: planId } = request.params
    const { kind, input: asked, revision: at } = runRequestSchema.parse(request.body)
    const input: RunInput = RUN_KINDS[kind].input.parse(asked)
    const { plan, revision } =
      at === undefined ? await plans.get(planId) : { plan: await plans.at(planId, at), revision: at }
    const { subject, weight, total } = JOB_KINDS[kind]
    const job = await jobs.create(planId, {
      kind,
      input,
      total: total(input),
      weight: roomFor(() => weight(subject(plan, input), input)),
      revision,
    })
    runner.kick()
    response.status(202).json(job)
  })

  router.get<{ plan: string }>('/', async (request, response) => {
    await plans.get(request.params.plan)
    response.json(await jobs.ofPlan(request.params.plan))
  })

  router.get<RunPath>('/:run', async (request, response) => {
    await plans.get(request.params.plan)
    response.json(await jobs.get(request.params.plan, request.params.run))
  })

  router.post<RunPath>('/:run/cancel', async (request, response) => {
    await plans.get(request.params.plan)
    const job = await jobs.cancel(request.params.plan, request.params.run)
    runner.cancel(request.params.run)
    response.json(job)
  })

  router.patch<RunPath>('/:run', express.json({ limit: '4kb' }), async (request, response) => {
    await plans.get(request.params.plan)
    const { name } = runNameSchema.parse(request.body)
    response.json(await jobs.rename(request.params.plan, request.params.run, name))
  })

  router.delete<RunPath>('/:run', async (request, response) => {
    await plans.get(request.params.plan)
    await jobs.drop(request.params.plan, request.params.run)
    response.status(204).end()
  })

  router.post<RunPath>('/:run/look', express.json({ limit: '16kb' }), async (request, response) => {
    await plans.get(request.params.plan)
    const { kind, question: asked } = lookRequestSchema.parse(request.body)
    const question = LOOKS[kind].question.parse(asked)
    const job = await jobs.ended(request.params.plan, request.params.run)
    if (!JOB_KINDS[job.kind].look) throw new BadRequestError('nothing can be asked of this run')
    response.json(await told(() => runner.look(job, kind, question)))
  })

  return router
}

/** @throws BadRequestError for what is not there to be told */
const told = async (look: () => Promise<unknown>): Promise<unknown> => {
  try {
    return await look()
  } catch (error) {
    throw error instanceof RangeError ? new BadRequestError(error.message) : error
  }
}

/** @throws BadRequestError for what there is no room for */
const roomFor = (weigh: () => number): number => {
  try {
    return weigh()
  } catch (error) {
    throw error instanceof RangeError ? new BadRequestError(error.message) : error
  }
}
