import express, { Router } from 'express'
import { runInputSchema, scenarioPlan } from '@geodrome/core'
import type { JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import { NotFoundError } from '../errors.ts'
import type { JobRunner } from '../jobs/jobRunner.ts'

/** Forecast runs: started, watched, stopped, kept. */
export const runRoutes = (plans: PlanRepository, jobs: JobRepository, runner: JobRunner): Router => {
  const router = Router()

  router.post('/plans/:id/runs', express.json({ limit: '64kb' }), async (request, response) => {
    const input = runInputSchema.parse(request.body)
    const { plan, revision } = await plans.get(request.params.id)
    if (input.scenario !== null) {
      if (!plan.scenarios.some((s) => s.id === input.scenario))
        throw new NotFoundError(`there is no scenario "${input.scenario}"`)
      scenarioPlan(plan, input.scenario)
    }
    const job = await jobs.create(request.params.id, 'simulation', input, input.iterations, revision)
    runner.kick()
    response.status(202).json(job)
  })

  router.get('/plans/:id/runs', async (request, response) => {
    await plans.get(request.params.id)
    response.json(await jobs.ofPlan(request.params.id, 20))
  })

  router.get('/runs/:id', async (request, response) => {
    response.json(await jobs.get(request.params.id))
  })

  router.post('/runs/:id/cancel', async (request, response) => {
    await jobs.cancel(request.params.id)
    runner.cancel(request.params.id)
    response.json(await jobs.get(request.params.id))
  })

  return router
}
