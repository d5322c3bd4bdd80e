import express, { Router } from 'express'
import { RUN_KINDS, runRequestSchema, type RunInput } from '@geodrome/core'
import type { JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import { BadRequestError } from '../errors.ts'
import { JOB_KINDS } from '../jobs/jobKinds.ts'
import type { JobRunner } from '../jobs/jobRunner.ts'

/** Long work on a plan: started, watched, stopped, kept. */
export const runRoutes = (plans: PlanRepository, jobs: JobRepository, runner: JobRunner): Router => {
  const router = Router({ mergeParams: true })

  router.post<{ plan: string }>('/', express.json({ limit: '64kb' }), async (request, response) => {
    const { plan: planId } = request.params
    const { kind, input: asked } = runRequestSchema.parse(request.body)
    const input: RunInput = RUN_KINDS[kind].input.parse(asked)
    const { plan, revision } = await plans.get(planId)
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

  router.get<{ plan: string; run: string }>('/:run', async (request, response) => {
    await plans.get(request.params.plan)
    response.json(await jobs.get(request.params.plan, request.params.run))
  })

  router.post<{ plan: string; run: string }>('/:run/cancel', async (request, response) => {
    await plans.get(request.params.plan)
    const job = await jobs.cancel(request.params.plan, request.params.run)
    runner.cancel(request.params.run)
    response.json(job)
  })

  return router
}

/** @throws BadRequestError for what there is no room for */
const roomFor = (weigh: () => number): number => {
  try {
    return weigh()
  } catch (error) {
    throw error instanceof RangeError ? new BadRequestError(error.message) : error
  }
}
