import { readFileSync } from 'node:fs'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { ReportLine } from '@geodrome/core'
import { testServer, type TestServer } from './testing/testServer.ts'

const read = (name: string): string =>
  readFileSync(new URL(`../../demo/${name}.geodrome.json`, import.meta.url), 'utf8')
let server: TestServer
let id: string

beforeAll(async () => {
  server = await testServer()
  const made = await fetch(`${server.address}/api/plans`, { method: 'POST', body: read('kittiwake') })
  id = ((await made.json()) as { id: string }).id
})
afterAll(() => server.stop())

const ask = (query: string, headers: Record<string, string> = {}) =>
  fetch(`${server.address}/api/plans/${id}/report?${query}`, { headers })
const LINES = { accept: 'application/x-ndjson' }
const linesOf = async (answer: Response): Promise<ReportLine[]> =>
  (await answer.text())
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as ReportLine)

it('a report is a file under the name of its plan, of the parts that were asked for', async () => {
  const page = await ask('to=html&parts=summary,milestones&iterations=100')
  expect([page.status, page.headers.get('content-type'), page.headers.get('content-disposition')]).toEqual([
    200,
    'text/html; charset=utf-8',
    'attachment; filename=KITE-report.html',
  ])
  expect((await page.text()).match(/data-part="\w+"/g)).toEqual([
    'data-part="summary"',
    'data-part="milestones"',
  ])
  const pdf = await ask('to=pdf&parts=summary&iterations=100')
  expect(pdf.headers.get('content-type')).toBe('application/pdf')
  expect(Buffer.from(await pdf.arrayBuffer()).toString('latin1', 0, 5)).toBe('%PDF-')
})

it('says how far it is, part by part, and gives the file last', async () => {
  const lines = await linesOf(await ask('to=html&parts=summary,money&iterations=100&scenario=s1', LINES))
  expect(lines.slice(0, -1)).toEqual([
    { doing: 'The answer', done: 0, of: 3 },
    { doing: 'Money', done: 1, of: 3 },
    { doing: 'Writing the page', done: 2, of: 3 },
  ])
  const page = Buffer.from((lines.at(-1) as { file: string }).file, 'base64').toString('utf8')
  expect(page).toContain('scenario Double shift on the hull')
})

it('what cannot be made is refused with its reason, and the next one is made all the same', async () => {
  const refused = async (query: string): Promise<[number, string]> => {
    const answer = await ask(query)
    return [answer.status, ((await answer.json()) as { message: string }).message]
  }
  expect(await refused('to=html&parts=summary,cover')).toEqual([400, expect.stringContaining('not cover')])
  expect(await refused('to=html&scenario=nope')).toEqual([404, 'there is no scenario "nope"'])
  expect((await refused('to=docx'))[0]).toBe(400)
  expect((await refused('to=html&iterations=9999999'))[0]).toBe(400)
  expect((await refused('to=html&colour=red'))[0]).toBe(400)
  expect((await ask('to=html&parts=summary&iterations=50')).status).toBe(200)
})

it('who goes away while it is made leaves the way free for others', async () => {
  const gone = new AbortController()
  const answer = await fetch(`${server.address}/api/plans/${id}/report?to=pdf&iterations=20000`, {
    headers: LINES,
    signal: gone.signal,
  })
  const reader = answer.body!.getReader()
  expect(Buffer.from((await reader.read()).value!).toString()).toContain('The answer')
  gone.abort()
  expect((await ask('to=html&parts=money')).status).toBe(200)
})
