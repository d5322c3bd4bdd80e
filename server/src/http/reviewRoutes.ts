import { Router, type Request } from 'express'
import { z } from 'zod'
import {
  review,
  reviewCsv,
  reviewRecord,
  scenarioPlan,
  schedule,
  spanEnd,
  withYearsOf,
  type Plan,
  type Review,
  type Schedule,
} from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import { NotFoundError } from '../errors.ts'
import { fileName } from './fileName.ts'
import { writeWorkbook } from '../files/writeWorkbook.ts'

const revision = z.coerce.number().int().min(1)

/** Review records as files, and earlier states of a plan to compare it with. */
export const reviewRoutes = (plans: PlanRepository): Router => {
  const router = Router()

  /** The plan as it is, or as the scenario asked for sees it. */
  const planOf = async (request: Request<{ id: string }>): Promise<Plan> => {
    const { plan } = await plans.get(request.params.id)
    const { scenario } = request.query
    if (scenario === undefined) return plan
    if (!plan.scenarios.some((s) => s.id === scenario))
      throw new NotFoundError(`there is no scenario "${String(scenario)}"`)
    return scenarioPlan(plan, String(scenario)).plan
  }
  const recorded = <T>(plan: Plan, write: (plan: Plan, made: Schedule, found: Review) => T): T => {
    const made = schedule(plan)
    return withYearsOf(made.projectStart, spanEnd(made.projectFinish, plan.project.requiredFinish), () =>
      write(plan, made, review(plan, made)),
    )
  }

  router.get('/plans/:id/review.xlsx', async (request, response) => {
    const plan = await planOf(request)
    const book = await writeWorkbook(recorded(plan, reviewRecord))
    response
      .attachment(`${fileName(plan)}-review.xlsx`)
      .type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet')
      .send(book)
  })

  router.get('/plans/:id/review.csv', async (request, response) => {
    const plan = await planOf(request)
    response
      .attachment(`${fileName(plan)}-review.csv`)
      .type('text/csv')
      .send(recorded(plan, reviewCsv))
  })

  router.get('/plans/:id/revisions/:revision', async (request, response) => {
    response.json(await plans.at(request.params.id, revision.parse(request.params.revision)))
  })

  return router
}
