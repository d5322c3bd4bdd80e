import { readFileSync } from 'node:fs'
import { QueryTypes } from 'sequelize'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { removeScenario, type MadeShare, type Plan, type Share } from '@geodrome/core'
import { testServer, type TestServer } from './testing/testServer.ts'

const file = readFileSync(new URL('../../demo/kittiwake-may.geodrome.json', import.meta.url), 'utf8')
let server: TestServer
let id: string
let other: string

const call = async (method: string, path: string, body?: unknown) => {
  const response = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  })
  const text = await response.text()
  return { status: response.status, body: (text === '' ? null : JSON.parse(text)) as never }
}
const make = async (asked: object, plan = id): Promise<MadeShare> => {
  const { status, body } = await call('POST', `/plans/${plan}/shares`, asked)
  expect(status).toBe(201)
  return body
}
const look = async (
  token: string,
  what = '',
): Promise<{ status: number; text: string; headers: Headers }> => {
  const { status, headers, ...response } = await fetch(`${server.address}/shared/${token}${what}`).then(
    async (answer) => ({ status: answer.status, headers: answer.headers, text: await answer.text() }),
  )
  return { status, headers, text: response.text }
}

beforeAll(async () => {
  server = await testServer()
  const imported = async (): Promise<string> =>
    (
      (await (await fetch(`${server.address}/api/plans`, { method: 'POST', body: file })).json()) as {
        id: string
      }
    ).id
  ;[id, other] = [await imported(), await imported()]
})
afterAll(() => server.stop())

it('a link opens what was chosen, follows the plan, and its token is nowhere in the database', async () => {
  const { token, ...share } = await make({ shows: 'party', owner: ' Hull crew ', title: 'Hull', by: 'Ann' })
  expect(Buffer.from(token, 'base64url')).toHaveLength(16)
  expect(share).toMatchObject({
    shows: 'party',
    owner: 'Hull crew',
    scenario: null,
    until: null,
    openedAt: null,
  })
  const page = await look(token)
  expect([page.status, page.headers.get('content-type'), page.headers.get('cache-control')]).toEqual([
    200,
    'text/html; charset=utf-8',
    'no-store',
  ])
  expect(page.headers.get('content-security-policy')).toContain("script-src 'self'")
  expect(page.text).toContain('Blast hull to bare steel')
  expect(page.text).not.toContain('Overhaul main engine')
  const calendar = await look(token, '/dates.ics')
  expect([calendar.status, calendar.headers.get('content-type')]).toEqual([
    200,
    'text/calendar; charset=utf-8',
  ])
  expect(calendar.text).toMatch(/^BEGIN:VCALENDAR/)

  await call('POST', `/plans/${id}/changes`, {
    uid: 'renamed-hull-1',
    client: 'one',
    author: 'Ann',
    base: 1,
    change: { kind: 'set', list: 'activities', key: 'a008', set: { name: 'Blast it' } },
  })
  expect((await look(token)).text).toContain('Blast it')
  const listed = (await call('GET', `/plans/${id}/shares`)).body as Share[]
  expect(listed.find((one) => one.id === share.id)!.openedAt).not.toBeNull()
  const rows = await server.sequelize.query('SELECT * FROM shares', { type: QueryTypes.SELECT })
  expect(JSON.stringify([rows, listed])).not.toContain(token)
})

it('revoked, run out, forged, of a removed plan, of a discarded scenario: all are answered alike', async () => {
  const unknown = await look('A'.repeat(22))
  expect(unknown.status).toBe(404)
  const revoked = await make({ shows: 'all' })
  expect((await look(revoked.token)).status).toBe(200)
  // Only by the plan that it is of.
  expect((await call('DELETE', `/plans/${other}/shares/${revoked.id}`)).status).toBe(404)
  expect((await look(revoked.token)).status).toBe(200)
  expect((await call('DELETE', `/plans/${id}/shares/${revoked.id}`)).status).toBe(204)
  expect((await call('DELETE', `/plans/${id}/shares/${revoked.id}`)).status).toBe(404)

  const over = await make({ shows: 'all', until: new Date().toISOString().slice(0, 10) })
  expect((await look(over.token)).status).toBe(200)
  await server.sequelize.query("UPDATE shares SET until_day = '2020-01-01' WHERE id = :id", {
    replacements: { id: over.id },
  })
  const gone = await make({ shows: 'all' }, other)
  await call('DELETE', `/plans/${other}`)
  const scenario = await make({ shows: 'all', scenario: 's1' })
  expect((await look(scenario.token)).status).toBe(200)
  const { plan } = (await call('GET', `/plans/${id}`)).body as { plan: Plan }
  const discarded = await call('POST', `/plans/${id}/changes`, {
    uid: 'discard-scenario',
    client: 'one',
    author: 'Ann',
    base: 2,
    change: removeScenario(plan, 's1'),
  })
  expect(discarded.status).toBe(200)
  for (const token of [revoked.token, over.token, gone.token, scenario.token, '%00', "'--", 'x'.repeat(3000)])
    for (const what of ['', '/dates.ics']) {
      const { status, text } = await look(token, what)
      expect([status, text]).toEqual([404, unknown.text])
    }
  expect((await call('GET', `/plans/${id}/shares`)).body).not.toContainEqual(
    expect.objectContaining({ id: revoked.id }),
  )
})

it('what no link can be made of is refused, and none is made', async () => {
  const count = async (): Promise<number> =>
    ((await call('GET', `/plans/${id}/shares`)).body as Share[]).length
  const before = await count()
  for (const [asked, status] of [
    [{ shows: 'party' }, 400],
    [{ shows: 'party', owner: '  ' }, 400],
    [{ shows: 'everything' }, 400],
    [{ shows: 'all', until: '2020-01-01' }, 400],
    [{ shows: 'all', until: '30 jun' }, 400],
    [{ shows: 'all', scenario: 'nope' }, 404],
    [{ shows: 'all', fields: ['cost'] }, 400],
  ] as const)
    expect((await call('POST', `/plans/${id}/shares`, asked)).status).toBe(status)
  expect((await call('POST', '/plans/nowhere/shares', { shows: 'all' })).status).toBe(404)
  expect(await count()).toBe(before)
})

it('while the database has no answer, who looks is told to come again, and afterwards the link opens', async () => {
  const { token } = await make({ shows: 'milestones' })
  await server.sequelize.query('RENAME TABLE shares TO shares_away')
  try {
    const { status, text, headers } = await look(token)
    expect([status, headers.get('content-type')]).toEqual([503, 'text/html; charset=utf-8'])
    expect(text).toContain('Try again in a moment')
    expect(text).not.toMatch(/SELECT|shares|Sequelize/)
  } finally {
    await server.sequelize.query('RENAME TABLE shares_away TO shares')
  }
  expect((await look(token)).status).toBe(200)
})

it('who tries many addresses that open nothing is stopped, with a sentence', async () => {
  let last = { status: 0, text: '' }
  for (let k = 0; k < 60 && last.status !== 429; k++) last = await look(`guess-${k}`)
  expect(last.status).toBe(429)
  expect(last.text).toContain('Wait ten minutes')
})
