import { Router } from 'express'
import {
  fromUnixTime,
  REPORT_PART_NAMES,
  reportQuerySchema,
  type ReportLine,
  type ReportOptions,
  type ReportPartName,
  type ReportQuery,
} from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import { BadRequestError, BusyError, NotFoundError } from '../errors.ts'
import type { Analyst } from '../analysis/analyst.ts'
import { fileName } from './fileName.ts'
import { planThen } from './meantPlan.ts'

const TYPES = { pdf: 'application/pdf', html: 'text/html' } as const
const LINES = 'application/x-ndjson'

/** A plan as a report. To who accepts lines it is told how far it is, and the file comes in the last of them. */
export const reportRoutes = (plans: PlanRepository, analyst: Analyst): Router => {
  const router = Router({ mergeParams: true })
  router.get<{ plan: string }>('/', async (request, response) => {
    const query = reportQuerySchema.parse(request.query)
    const plan = await planThen(plans, request.params.plan, query.kept)
    const options = optionsOf(query)
    const { scenario } = options
    if (scenario && !plan.scenarios.some(({ id }) => id === scenario))
      throw new NotFoundError(`there is no scenario "${scenario}"`)
    const gone = new AbortController()
    response.on('close', () => gone.abort())
    const asked = { plan, options, to: query.to }
    if (!request.get('accept')?.includes(LINES)) {
      const file = await analyst.report(asked, () => {}, gone.signal)
      return void response
        .attachment(`${fileName(plan)}-report.${query.to}`)
        .type(TYPES[query.to])
        .send(Buffer.from(file))
    }
    response.type(LINES).set('Cache-Control', 'no-cache, no-transform')
    const say = (line: ReportLine): void => void response.write(`${JSON.stringify(line)}\n`)
    try {
      const file = await analyst.report(asked, say, gone.signal)
      say({ file: Buffer.from(file).toString('base64') })
    } catch (error) {
      // What was begun cannot become another status; of faults of ours no more is said than elsewhere.
      const isTold = error instanceof BadRequestError || error instanceof BusyError
      if (!isTold && !gone.signal.aborted) request.log.error({ err: error }, 'a report failed')
      say({ problem: isTold ? error.message : 'the server failed to make this report' })
    }
    response.end()
  })
  return router
}

const optionsOf = ({
  parts,
  scenario,
  iterations,
  batch,
  seed,
  sampling,
  risks,
}: ReportQuery): ReportOptions => ({
  ...(parts !== undefined && { parts: namedParts(parts) }),
  scenario: scenario ?? null,
  iterations,
  seed,
  sampling,
  batch,
  risks: risks === 'yes',
  at: fromUnixTime(Date.now()),
})

const namedParts = (list: string): readonly ReportPartName[] => {
  const names = list.split(',').filter(Boolean)
  const unknown = names.filter((name) => !REPORT_PART_NAMES.includes(name as ReportPartName))
  if (unknown.length > 0 || names.length === 0)
    throw new BadRequestError(
      `parts takes ${REPORT_PART_NAMES.join(', ')}${unknown.length > 0 ? `, not ${unknown.join(', ')}` : ''}`,
    )
  return names as ReportPartName[]
}
