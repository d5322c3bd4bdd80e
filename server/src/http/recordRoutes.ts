import { Router, type Request } from 'express'
import { z } from 'zod'
import {
  instantOf,
  isPlanFile,
  PLAN_FILES,
  parseDate,
  progressRecord,
  review,
  resourceRecord,
  reviewRecord,
  saidBy,
  schedule,
  sheetCsv,
  spanEnd,
  updateSheets,
  withYearsOf,
  writePlanFile,
  writeWorkbook,
  type Plan,
  type RecordSheet,
  type Schedule,
} from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import { NotFoundError } from '../errors.ts'
import { fileName } from './fileName.ts'
import { keeperOf, meantPlan } from './meantPlan.ts'

const revision = z.coerce.number().int().min(1)

/** What can be had of a plan as tables, by the name in the address. */
const RECORDS: Readonly<
  Record<string, (plan: Plan, made: Schedule, asked: Asked) => readonly RecordSheet[]>
> = {
  review: (plan, made) => reviewRecord(plan, made, review(plan, made)),
  resources: (_, made) => resourceRecord(made),
  progress: (_, made, { weeks }) => progressRecord(made, weeks),
  update: (_, made, { until }) =>
    updateSheets(made, until === undefined ? nextWeek(made) : instantOf(until, 'start')),
}

/** What a record may be asked for beside its name. */
const askedSchema = z.object({
  weeks: z.coerce.number().int().min(1).max(52).optional(),
  until: z
    .string()
    .refine((text) => parseDate(text) !== null, 'not a date; write 2027-05-17 or 2027-05-17T07:00')
    .optional(),
})
type Asked = z.output<typeof askedSchema>
const nextWeek = ({ network, projectStart }: Schedule): number =>
  (network.statusDate ?? projectStart) + 7 * 1440

/** Records of review and resources as files, and earlier states of a plan to compare it with. */
export const recordRoutes = (plans: PlanRepository): Router => {
  const router = Router()

  const planOf = (request: Request<{ id: string }>): Promise<Plan> =>
    meantPlan(plans, request.params.id, request.query)
  const recorded = <T>(plan: Plan, write: (plan: Plan, made: Schedule) => T): T => {
    const made = schedule(plan)
    return withYearsOf(made.projectStart, spanEnd(made.projectFinish, plan.project.requiredFinish), () =>
      write(plan, made),
    )
  }

  for (const [name, tablesOf] of Object.entries(RECORDS)) {
    router.get(`/plans/:id/${name}.xlsx`, async (request, response) => {
      const plan = await planOf(request)
      const asked = askedSchema.parse(request.query)
      const sheets = recorded(plan, (...of) => tablesOf(...of, asked))
      if (sheets.length === 0)
        throw new NotFoundError('nothing is asked of anybody until then; choose a later date')
      const book = await writeWorkbook(sheets)
      response
        .attachment(`${fileName(plan)}-${name}.xlsx`)
        .type('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet')
        .send(Buffer.from(book))
    })
    // A CSV holds one table: the first, or the one asked for.
    router.get(`/plans/:id/${name}.csv`, async (request, response) => {
      const plan = await planOf(request)
      const asked = askedSchema.parse(request.query)
      const tables = recorded(plan, (...of) => tablesOf(...of, asked))
      const { table } = request.query
      const found = table === undefined ? tables[0] : tables.find((one) => one.name === table)
      if (!found)
        throw new NotFoundError(
          `there is no table "${String(table)}"; there are ${tables.map((one) => one.name).join(', ')}`,
        )
      response
        .attachment(`${fileName(plan)}-${name}.csv`)
        .type('text/csv')
        .send(sheetCsv(found))
    })
  }

  router.get('/plans/:id/files/:format', async (request, response) => {
    const { format } = request.params
    if (!isPlanFile(format))
      throw new NotFoundError(`there is no file "${format}"; there are ${Object.keys(PLAN_FILES).join(', ')}`)
    const plan = await planOf(request)
    const { ending, type } = PLAN_FILES[format]
    const file = await writePlanFile(format, plan)
    response
      .attachment(`${fileName(plan)}.${ending}`)
      .type(type)
      .send(typeof file === 'string' ? file : Buffer.from(file))
  })

  router.get('/plans/:id/kept/:list/:key', async (request, response) => {
    const { id, list, key } = request.params
    response.json(await plans.kept(id, keeperOf(list), key))
  })

  router.get('/plans/:id/said/:list/:key', async (request, response) => {
    const { id, key } = request.params
    const list = keeperOf(request.params.list)
    const item = (await plans.get(id)).plan[list].find((one) => one.id === key)
    if (!item) throw new NotFoundError(`there is no "${key}" in ${list}`)
    response.json(saidBy(list, item))
  })

  router.get('/plans/:id/revisions/:revision', async (request, response) => {
    response.json(await plans.at(request.params.id, revision.parse(request.params.revision)))
  })

  return router
}
