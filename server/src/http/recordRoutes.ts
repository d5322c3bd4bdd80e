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
  scenarioPlan,
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

  /** The plan as it is, or as the scenario asked for sees it. */
  const planOf = async (request: Request<{ id: string }>): Promise<Plan> => {
    const { plan } = await plans.get(request.params.id)
    const { scenario } = request.query
    if (scenario === undefined) return plan
    if (!plan.scenarios.some((s) => s.id === scenario))
      throw new NotFoundError(`there is no scenario "${String(scenario)}"`)
    return scenarioPlan(plan, String(scenario)).plan
  }
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

  router.get('/plans/:id/revisions/:revision', async (request, response) => {
    response.json(await plans.at(request.params.id, revision.parse(request.params.revision)))
  })

  return router
}
