import { readdirSync, readFileSync } from 'node:fs'
import { Ajv2020, type AnySchema } from 'ajv/dist/2020.js'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { ROUTES } from './http/openApi.ts'
import { testServer, type TestServer } from './testing/testServer.ts'

const file = readFileSync(new URL('../../demo/kiln.geodrome.json', import.meta.url), 'utf8')
interface Described {
  readonly openapi: string
  readonly paths: Record<
    string,
    Record<string, { responses: Record<string, { content?: Record<string, { schema?: AnySchema }> }> }>
  >
}
let server: TestServer
let described: Described
let id: string

const ask = async (method: string, path: string, body?: unknown) => {
  const response = await fetch(`${server.address}/api${path}`, {
    method: method.toUpperCase(),
    headers: { 'content-type': 'application/json' },
    body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
  })
  return response
}

beforeAll(async () => {
  server = await testServer()
  described = (await (await ask('get', '/openapi.json')).json()) as Described
  id = ((await (await ask('post', '/plans', file)).json()) as { id: string }).id
})
afterAll(() => server.stop())

/** Where the routes of each file stand. */
const UNDER: Readonly<Record<string, string>> = {
  'planRoutes.ts': '/plans',
  'runRoutes.ts': '/plans/:plan/runs',
  'reportRoutes.ts': '/plans/:plan/report',
  'shareRoutes.ts': '/plans/:plan/shares',
  'recordRoutes.ts': '',
  'fileRoutes.ts': '',
  'peopleRoutes.ts': '',
  'app.ts': '',
}
/** Routes that are no part of the interface for programs: pages. */
const PAGES = new Set([
  'get /plans/:plan/shares/:token',
  'get /plans/:plan/shares/:token/dates.ics',
  'get /{*path}',
])

it('describes every route that the code has, and none that it has not', () => {
  const folder = new URL('./http/', import.meta.url)
  const files = readdirSync(folder).filter((name) => name === 'app.ts' || name.endsWith('Routes.ts'))
  expect(files.sort()).toEqual(Object.keys(UNDER).sort())
  const written = files
    .flatMap((name) => {
      const code = readFileSync(new URL(name, folder), 'utf8')
      return [
        ...code.matchAll(
          /\b(?:router|api|app)\.(get|post|put|patch|delete)(?:<[^>]*>)?\(\s*['`]([^'`]+)['`]/g,
        ),
      ].flatMap(([, method, path]) =>
        (path!.includes('${name}') ? ['review', 'resources', 'progress', 'update'] : ['']).map(
          (record) =>
            `${method!} ${(UNDER[name]! + path!.replace('${name}', record)).replace(/(.)\/$/, '$1')}`,
        ),
      )
    })
    .filter((one) => !PAGES.has(one))
  expect(written.length).toBeGreaterThan(30)
  const said = ROUTES.map(({ method, path }) => `${method} ${path.replaceAll(/\{(\w+)\}/g, ':$1')}`)
  expect([...said].sort()).toEqual([...written].sort())
})

it('what is answered is what is described', async () => {
  expect(described.openapi).toBe('3.1.0')
  const ajv = new Ajv2020({ strict: false })
  const checked: string[] = []
  const check = async (method: string, path: string, real: string, body?: unknown): Promise<unknown> => {
    const response = await ask(method, real, body)
    const entry = described.paths[path]![method]!.responses
    const here = entry[String(response.status)]
    expect([path, response.status, here !== undefined]).toEqual([path, response.status, true])
    const schema = here!.content?.['application/json']?.schema
    if (schema === undefined) return null
    const answer: unknown = await response.json()
    const validate = ajv.compile(schema)
    expect([path, validate(answer), validate.errors]).toEqual([path, true, null])
    checked.push(`${method} ${path}`)
    return answer
  }
  for (const path of ['/health', '/plans', '/plans/calendars', '/sheet-mappings'])
    await check('get', path, path)
  for (const path of ['', '/facts', '/changes', '/runs', '/shares'])
    await check(
      'get',
      path === '/runs' || path === '/shares' ? `/plans/{plan}${path}` : `/plans/{id}${path}`,
      `/plans/${id}${path}`,
    )
  await check('post', '/plans', '/plans', file)
  await check('post', '/plans/{id}/changes', `/plans/${id}/changes`, {
    uid: 'described-1',
    client: 'one',
    author: 'Ann',
    base: 1,
    change: { kind: 'set', list: 'activities', key: 'k4', set: { notes: 'n' } },
  })
  await check('post', '/plans/{id}/changes/stored', `/plans/${id}/changes/stored`, { uids: ['described-1'] })
  await check('get', '/plans/{id}/revisions/{revision}', `/plans/${id}/revisions/1`)
  const run = (await check('post', '/plans/{plan}/runs', `/plans/${id}/runs`, {
    kind: 'simulation',
    input: { iterations: 50, seed: 1 },
  })) as { id: string }
  const own = `/plans/${id}/runs/${run.id}`
  for (let k = 0; k < 600; k++) {
    const { state } = (await check('get', '/plans/{plan}/runs/{run}', own)) as { state: string }
    if (state === 'done') break
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  await check('patch', '/plans/{plan}/runs/{run}', own, { name: 'kept' })
  await check('post', '/plans/{plan}/runs/{run}/look', `${own}/look`, {
    kind: 'contingency',
    question: { percent: 80 },
  })
  const share = (await check('post', '/plans/{plan}/shares', `/plans/${id}/shares`, { shows: 'all' })) as {
    id: string
  }
  await check('delete', '/plans/{plan}/shares/{share}', `/plans/${id}/shares/${share.id}`)
  expect(new Set(checked).size).toBeGreaterThan(14)

  // An error is described, too.
  const error = described.paths['/plans/{id}']!.get!.responses.default!.content!['application/json']!.schema!
  for (const [method, path] of [
    ['get', '/plans/nowhere'],
    ['post', `/plans/${id}/shares`],
  ] as const)
    expect(
      ajv.validate(error, await (await ask(method, path, method === 'post' ? '{' : undefined)).json()),
    ).toBe(true)
})

it('what is sent is described so that a wrong body can be told before it is sent', () => {
  const ajv = new Ajv2020({ strict: false })
  const body = (
    described.paths['/plans/{plan}/shares']!.post as unknown as {
      requestBody: { content: Record<string, { schema: AnySchema }> }
    }
  ).requestBody.content['application/json']!.schema
  expect(ajv.validate(body, { shows: 'party', owner: 'Hull crew' })).toBe(true)
  expect(ajv.validate(body, { shows: 'everything' })).toBe(false)
})
