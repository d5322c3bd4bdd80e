import { z } from 'zod'
import {
  accountChangeSchema,
  accountSchema,
  askedUidsSchema,
  calendarsOfPlanSchema,
  errorBodySchema,
  factsOfPlanSchema,
  givenRoleSchema,
  importedPlanSchema,
  invitationSchema,
  keptPlanSchema,
  loggedChangeSchema,
  lookRequestSchema,
  madeInvitationSchema,
  madeShareSchema,
  meSchema,
  openedPlanSchema,
  planAtSchema,
  planPeopleSchema,
  PLAN_FILES,
  planStandingSchema,
  planSummarySchema,
  reportQuerySchema,
  runInFullSchema,
  runNameSchema,
  runRequestSchema,
  runSchema,
  saidThenSchema,
  sentChangeSchema,
  shareRequestSchema,
  shareSchema,
  sheetMappingSchema,
  sheetSchema,
  signInSchema,
  welcomedSchema,
  welcomeSchema,
  welcomeTokenSchema,
  type Right,
} from '@geodrome/core'

/**
 * What who asks needs, where people sign in: nothing; to be signed in; to be an administrator of the server; or a right to the plan
 * that the path names.
 */
type Needed = 'nothing' | 'account' | 'administrator' | Right

/** One thing that the server can be asked for, as the description of its interface says it. */
export interface DescribedRoute {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete'
  /** Under /api; what is in braces is put in. */
  readonly path: string
  readonly needs: Needed
  readonly says: string
  /** What is sent; a media type for what is not JSON. */
  readonly takes?: z.ZodType | string
  readonly query?: z.ZodObject
  readonly status?: 200 | 201 | 202 | 204
  /** What is answered; a media type for what is not JSON, null for nothing. */
  readonly answers: z.ZodType | string | null
}

const PLAN_FILE = 'application/json'
const SHEETS = ['review', 'resources', 'progress', 'update'] as const
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'

const changes = z.array(loggedChangeSchema)
const route = (
  method: DescribedRoute['method'],
  path: string,
  needs: Needed,
  says: string,
  rest: Omit<DescribedRoute, 'method' | 'path' | 'needs' | 'says'>,
): DescribedRoute => ({ method, path, needs, says, ...rest })

/** Every route under /api: a new one is described here, or the test of it fails. */
export const ROUTES: readonly DescribedRoute[] = [
  route('get', '/health', 'nothing', 'Whether server and database answer', {
    answers: z.object({ ok: z.boolean(), database: z.string() }),
  }),
  route('get', '/openapi.json', 'nothing', 'This description', {
    answers: z.record(z.string(), z.unknown()),
  }),
  route('get', '/me', 'nothing', 'Who asks, and whether people sign in here', { answers: meSchema }),
  route('post', '/sign-in', 'nothing', 'Signs somebody in: the answer sets a cookie', {
    takes: signInSchema,
    answers: meSchema,
  }),
  route('post', '/sign-out', 'account', 'Signs out', { status: 204, answers: null }),
  route('post', '/welcome', 'nothing', 'Whom a link welcomes', {
    takes: welcomeTokenSchema,
    answers: welcomeSchema,
  }),
  route('post', '/welcome/accept', 'nothing', 'Chooses a password by a link, once, and signs in', {
    takes: welcomedSchema,
    answers: meSchema,
  }),
  route('get', '/accounts', 'administrator', 'Who signs in', { answers: z.array(accountSchema) }),
  route('post', '/accounts', 'administrator', 'Invites somebody: the answer has what opens their link', {
    takes: invitationSchema,
    status: 201,
    answers: madeInvitationSchema,
  }),
  route(
    'patch',
    '/accounts/{account}',
    'administrator',
    'Closes an account, opens it, makes it an administrator',
    {
      takes: accountChangeSchema,
      answers: accountSchema,
    },
  ),
  route('post', '/accounts/{account}/welcome', 'administrator', 'A link to choose a password anew', {
    status: 201,
    answers: madeInvitationSchema,
  }),
  route('get', '/plans', 'account', 'All plans', { answers: z.array(planSummarySchema) }),
  route('post', '/plans', 'account', 'Imports a plan file', {
    takes: PLAN_FILE,
    query: z.object({ uid: z.string().optional() }),
    status: 201,
    answers: importedPlanSchema,
  }),
  route('get', '/plans/calendars', 'account', 'The calendars of all plans', {
    answers: z.array(calendarsOfPlanSchema),
  }),
  route('get', '/plans/{id}', 'see', 'A plan with its latest changes', { answers: openedPlanSchema }),
  route('patch', '/plans/{id}', 'manage', 'Puts a plan away, or back', {
    takes: planStandingSchema,
    status: 204,
    answers: null,
  }),
  route('delete', '/plans/{id}', 'manage', 'Removes a plan; it can be restored', {
    status: 204,
    answers: null,
  }),
  route('post', '/plans/{id}/restore', 'manage', 'Brings a removed plan back', {
    status: 204,
    answers: null,
  }),
  route('get', '/plans/{id}/facts', 'see', 'Finish, distance, findings and 80 % date of a plan', {
    answers: factsOfPlanSchema,
  }),
  route('get', '/plans/{id}/file', 'see', 'The plan file', { answers: PLAN_FILE }),
  route(
    'get',
    '/plans/{id}/files/{format}',
    'see',
    `The plan as a file: ${Object.keys(PLAN_FILES).join(', ')}`,
    {
      query: z.object({ scenario: z.string().optional(), kept: z.string().optional() }),
      answers: '*/*',
    },
  ),
  route('get', '/plans/{id}/changes', 'see', 'Changes after a revision, before one, or the latest', {
    query: z.object({ since: z.int().optional(), before: z.int().optional() }),
    answers: changes,
  }),
  route('post', '/plans/{id}/changes', 'report', 'Makes a change, or takes one back', {
    takes: sentChangeSchema,
    answers: loggedChangeSchema,
  }),
  route('post', '/plans/{id}/changes/stored', 'see', 'Which changes are in the log', {
    takes: askedUidsSchema,
    answers: z.array(z.string()),
  }),
  route('get', '/plans/{id}/events', 'see', 'Changes and runs as they come', {
    query: z.object({ since: z.int().optional() }),
    answers: 'text/event-stream',
  }),
  route(
    'get',
    '/plans/{id}/kept/{list}/{key}',
    'see',
    'The plan as it was when a baseline or a period was kept',
    {
      answers: keptPlanSchema,
    },
  ),
  route('get', '/plans/{id}/said/{list}/{key}', 'see', 'What a baseline or a period says, by activity', {
    answers: saidThenSchema,
  }),
  route('get', '/plans/{id}/revisions/{revision}', 'see', 'The plan as it was', { answers: planAtSchema }),
  route('get', '/plans/{plan}/runs', 'see', 'The runs of a plan', { answers: z.array(runSchema) }),
  route('post', '/plans/{plan}/runs', 'plan', 'Asks for a run', {
    takes: runRequestSchema,
    status: 202,
    answers: runSchema,
  }),
  route('get', '/plans/{plan}/runs/{run}', 'see', 'A run with what came of it', { answers: runInFullSchema }),
  route('patch', '/plans/{plan}/runs/{run}', 'plan', 'Names a run, so that it is kept', {
    takes: runNameSchema,
    answers: runInFullSchema,
  }),
  route('delete', '/plans/{plan}/runs/{run}', 'plan', 'Drops a run', { status: 204, answers: null }),
  route('post', '/plans/{plan}/runs/{run}/cancel', 'plan', 'Stops a run', { answers: runInFullSchema }),
  route('post', '/plans/{plan}/runs/{run}/look', 'see', 'Asks something of a run that has ended', {
    takes: lookRequestSchema,
    answers: z.unknown(),
  }),
  route('get', '/plans/{plan}/report', 'see', 'A report, as a file, or line by line while it is made', {
    query: reportQuerySchema,
    answers: 'application/pdf',
  }),
  route('get', '/plans/{plan}/people', 'see', 'Who has a part in a plan', { answers: planPeopleSchema }),
  route(
    'put',
    '/plans/{plan}/people/{account}',
    'manage',
    'Gives somebody a role in a plan, or takes it away',
    {
      takes: givenRoleSchema,
      status: 204,
      answers: null,
    },
  ),
  route('get', '/plans/{plan}/shares', 'plan', 'The links of a plan', { answers: z.array(shareSchema) }),
  route('post', '/plans/{plan}/shares', 'plan', 'Makes a link', {
    takes: shareRequestSchema,
    status: 201,
    answers: madeShareSchema,
  }),
  route('delete', '/plans/{plan}/shares/{share}', 'plan', 'Revokes a link', { status: 204, answers: null }),
  ...SHEETS.flatMap((name) => [
    route('get', `/plans/{id}/${name}.xlsx`, 'see', `Tables of ${name} as a workbook`, { answers: XLSX }),
    route('get', `/plans/{id}/${name}.csv`, 'see', `A table of ${name}`, { answers: 'text/csv' }),
  ]),
  route('post', '/tables', 'account', 'The sheets of a workbook (XLSX)', {
    takes: XLSX,
    answers: z.array(sheetSchema),
  }),
  route('get', '/sheet-mappings', 'account', 'How columns of lists were read', {
    answers: z.array(sheetMappingSchema),
  }),
  route('put', '/sheet-mappings', 'account', 'Keeps how columns of a list are read', {
    takes: sheetMappingSchema,
    status: 204,
    answers: null,
  }),
]

/** What goes over the wire, as JSON Schema: what is parsed on the other end. */
const schemaOf = (schema: z.ZodType): object =>
  z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', target: 'draft-2020-12', reused: 'inline' })
const content = (of: z.ZodType | string): object =>
  typeof of === 'string' ? { [of]: {} } : { 'application/json': { schema: schemaOf(of) } }

/** The interface of the server as OpenAPI 3.1, made of the schemas that its answers are parsed with. */
export const openApi = (): object => {
  const paths: Record<string, Record<string, object>> = {}
  for (const { method, path, says, takes, query, status = 200, answers } of ROUTES) {
    const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name: name!,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }))
    const inQuery = Object.entries(query?.shape ?? {}).map(([name, schema]) => ({
      name,
      in: 'query',
      required: !schema.safeParse(undefined).success,
      schema: schemaOf(schema as z.ZodType),
    }))
    ;(paths[path] ??= {})[method] = {
      summary: says,
      parameters: [...inPath, ...inQuery],
      ...(takes && { requestBody: { required: true, content: content(takes) } }),
      responses: {
        [status]: { description: says, ...(answers !== null && { content: content(answers) }) },
        default: { description: 'Why it was not done', content: content(errorBodySchema) },
      },
    }
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Geodrome',
      version: '1',
      description:
        'Plans, their changes, runs, reports and links. A plan inside an answer is a plan file (docs/plan-file.md).',
    },
    servers: [{ url: '/api' }],
    paths,
  }
}
