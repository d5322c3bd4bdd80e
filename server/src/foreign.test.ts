import { request } from 'node:http'
import { Writable } from 'node:stream'
import ExcelJS from 'exceljs'
import { zipSync, unzipSync, strToU8 } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LoggedChange } from '@geodrome/core'
import { createLog } from './logging.ts'
import { testServer, type TestServer } from './testing/testServer.ts'

/** What anybody on the network, or on a page that is open beside ours, may send. */

let server: TestServer
beforeAll(async () => void (server = await testServer()))
afterAll(() => server.stop())

const PLAN = {
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  activities: [{ id: 'a', duration: 60 }],
}
const post = async (path: string, body: string | Uint8Array) => {
  const response = await fetch(`${server.address}/api${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', connection: 'close' },
    body: body as never,
  })
  return { status: response.status, body: (await response.json()) as Record<string, never> }
}
const imported = async (uid?: string): Promise<string> =>
  (await post(`/plans${uid === undefined ? '' : `?uid=${uid}`}`, JSON.stringify(PLAN))).body.id!
/** The server goes on answering while something is asked of it. */
const longestAnswer = async (work: Promise<unknown>): Promise<number> => {
  let isOver = false
  void work.finally(() => (isOver = true))
  let longest = 0
  while (!isOver) {
    const began = performance.now()
    await fetch(`${server.address}/api/plans`)
    longest = Math.max(longest, performance.now() - began)
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
  return longest
}

describe('a page of another name that resolves to this machine', () => {
  const under = (host: string, method: string, path: string): Promise<number> =>
    new Promise((resolve, reject) => {
      const { hostname, port } = new URL(server.address)
      const asked = request({ hostname, port, method, path, headers: { host } }, (response) => {
        response.resume()
        resolve(response.statusCode!)
      })
      asked.on('error', reject)
      asked.end()
    })
  it.each<[host: string, status: number]>([
    ['localhost:4700', 200],
    ['127.0.0.1', 200],
    ['[::1]:4700', 200],
    ['10.1.2.3:80', 200],
    ['LOCALHOST', 200],
    ['rebound.example', 421],
    ['rebound.example:4700', 421],
    ['localhost.rebound.example', 421],
    ['127.0.0.1.rebound.example', 421],
    ['::::', 421],
  ])('as %s gets %i', async (host, status) => {
    for (const path of ['/api/plans', '/api/health']) expect(await under(host, 'GET', path)).toBe(status)
  })
  it('neither reads nor writes nor loads the application', async () => {
    const id = await imported()
    for (const method of ['GET', 'POST', 'PUT', 'DELETE', 'OPTIONS', 'HEAD'])
      for (const path of [`/api/plans/${id}`, `/api/plans/${id}/file`, '/', '/assets/x.js'])
        expect(await under('rebound.example', method, path), `${method} ${path}`).toBe(421)
    expect((await fetch(`${server.address}/api/plans/${id}`)).status).toBe(200)
  })
  it('may not send a form of ours elsewhere', async () => {
    const { headers } = await fetch(`${server.address}/api/health`)
    expect(headers.get('content-security-policy')).toContain("form-action 'self'")
  })
})

describe('an import', () => {
  it('that is sent again makes no second plan, at once or later', async () => {
    const ids = await Promise.all([imported('import-one'), imported('import-one'), imported('import-one')])
    expect(new Set([...ids, await imported('import-one')]).size).toBe(1)
    expect(await imported('IMPORT-ONE')).not.toBe(ids[0])
    expect(await imported()).not.toBe(await imported())
  })

  it.each<[what: string, file: () => string, says: RegExp]>([
    [
      'of sixty megabytes of nothing',
      () =>
        `{"format":"geodrome-plan","version":1,"project":{"start":"2027-03-01"},"x":[${'{},'.repeat(20_000_000)}{}]}`,
      /more than 4 million objects and lists/,
    ],
    [
      'with a link between two groups of four thousand',
      () =>
        JSON.stringify({
          ...PLAN,
          groups: [{ id: 'g' }, { id: 'h' }],
          activities: Array.from({ length: 8000 }, (_, k) => ({ id: `a${k}`, group: k % 2 ? 'g' : 'h' })),
          links: [{ from: 'g', to: 'h' }],
        }),
      /means 16,000,000 links/,
    ],
    ['that is no text', () => '\u0000\u0001\ufffd', /not a JSON file/],
    ['of nothing at all', () => '', /not a JSON file/],
    ['of an array without end', () => '['.repeat(1_000_000), /not a JSON file/],
  ])(
    '%s is refused with its reason, and others are answered meanwhile',
    async (_, file, says) => {
      const asked = post('/plans', file())
      const longest = await longestAnswer(asked)
      const { status, body } = await asked
      expect(status).toBe(400)
      expect(body.message).toMatch(says)
      // On a quiet machine it is tens of milliseconds; parsed beside the requests it was minutes.
      expect(longest).toBeLessThan(5000)
      expect(await imported()).toMatch(/^[\w-]+$/)
    },
    90_000,
  )

  it('too large for one file says the limit that holds there', async () => {
    expect(await post('/plans', `"${'x'.repeat(65 * 1024 * 1024)}"`)).toMatchObject({
      status: 413,
      body: { message: 'this is larger than can be taken here: at most 64 MB' },
    })
    const id = await imported()
    expect(await post(`/plans/${id}/changes`, `"${'x'.repeat(9 * 1024 * 1024)}"`)).toMatchObject({
      status: 413,
      body: { message: 'this is larger than can be taken here: at most 8 MB' },
    })
  })
})

describe('a workbook', () => {
  const book = async (rows: number, more: (sheet: string) => string = (xml) => xml): Promise<Uint8Array> => {
    const workbook = new ExcelJS.Workbook()
    const sheet = workbook.addWorksheet('Work')
    for (let k = 0; k < rows; k++) sheet.addRow([`K${k}`, 'Shut down', k])
    const parts = unzipSync(new Uint8Array(await workbook.xlsx.writeBuffer()))
    const at = 'xl/worksheets/sheet1.xml'
    return zipSync({ ...parts, [at]: strToU8(more(Buffer.from(parts[at]!).toString('utf8'))) })
  }
  const before = (mark: string, xml: string) => (sheet: string) => sheet.replace(mark, `${xml}${mark}`)

  it.each<[what: string, xml: string]>([
    ['merged as a whole', '<mergeCells count="1"><mergeCell ref="A1:XFD200000"/></mergeCells>'],
    [
      'with drop-downs on whole columns',
      `<dataValidations count="5">${['A', 'B', 'C', 'D', 'E'].map((c) => `<dataValidation type="list" sqref="${c}1:${c}1048576"><formula1>"a,b"</formula1></dataValidation>`).join('')}</dataValidations>`,
    ],
  ])('%s is read for what is in its cells', async (_, xml) => {
    const { status, body } = await post('/tables', await book(3, before('</worksheet>', xml)))
    expect(status).toBe(200)
    expect(body).toMatchObject([
      {
        name: 'Work',
        rows: [
          ['K0', 'Shut down', '0'],
          ['K1', 'Shut down', '1'],
          ['K2', 'Shut down', '2'],
        ],
      },
    ])
  })

  it('with a million rows is refused before they are read', async () => {
    const rows = Array.from({ length: 250_000 }, (_, k) => `<row r="${k + 10}"/>`).join('')
    expect((await post('/tables', await book(1, before('</sheetData>', rows)))).body.message).toMatch(
      /more than 200000 rows/,
    )
    const far = await book(1, before('</sheetData>', '<row r="1048576"><c r="A1048576"><v>1</v></c></row>'))
    expect((await post('/tables', far)).body.message).toMatch(/more than 200000 rows/)
  })

  it('that unpacks to more than it says is refused as soon as it does', async () => {
    const bomb = Buffer.from(
      zipSync(
        { 'xl/workbook.xml': strToU8(' '), 'xl/worksheets/sheet1.xml': new Uint8Array(160 * 1024 * 1024) },
        { level: 1 },
      ),
    )
    // What the archive says of its sizes is a lie: 100 bytes each.
    for (let at = 0; (at = bomb.indexOf('PK\u0001\u0002', at, 'latin1')) >= 0; at += 4)
      bomb.writeUInt32LE(100, at + 24)
    for (let at = 0; (at = bomb.indexOf('PK\u0003\u0004', at, 'latin1')) >= 0; at += 4)
      bomb.writeUInt32LE(100, at + 22)
    const { status, body } = await post('/tables', bomb)
    expect(status).toBe(400)
    expect(body.message).toMatch(/unpacks to more than \d+ MB/)
  })

  it('that is none is refused in the user’s terms', async () => {
    for (const file of [strToU8('Code,Name'), zipSync({ 'a.txt': strToU8('x') }), new Uint8Array()])
      expect((await post('/tables', file)).body.message).toMatch(/not a workbook/)
  })
})

describe('the stream of changes', () => {
  const stream = async (
    id: string,
    since: number,
    headers = {},
  ): Promise<{ response: Response; stop: () => void }> => {
    const abort = new AbortController()
    const response = await fetch(`${server.address}/api/plans/${id}/events?since=${since}`, {
      signal: abort.signal,
      headers,
    })
    return { response, stop: () => abort.abort() }
  }
  const heard = async (response: Response, count: number): Promise<number[]> => {
    const reader = response.body!.getReader()
    let text = ''
    while ((text.match(/^data: .*\n\n/gm) ?? []).length < count)
      text += Buffer.from((await reader.read()).value ?? []).toString('utf8')
    return [...text.matchAll(/^data: (.*)\n\n/gm)].map(
      ([, data]) => (JSON.parse(data!) as LoggedChange).revision,
    )
  }
  const change = (id: string, base: number, notes: string) =>
    post(
      `/plans/${id}/changes`,
      JSON.stringify({
        uid: `uid-${id}-${base}`,
        client: 'c',
        author: 'Ana',
        base,
        change: { kind: 'set', list: 'activities', key: 'a', set: { notes } },
      }),
    )

  it('goes on where a browser that lost it left off', async () => {
    const id = await imported()
    for (let base = 1; base <= 4; base++) await change(id, base, `${base}`)
    const first = await stream(id, 1)
    expect(await heard(first.response, 4)).toEqual([2, 3, 4, 5])
    first.stop()
    const again = await stream(id, 1, { 'last-event-id': '4' })
    expect(await heard(again.response, 1)).toEqual([5])
    again.stop()
  })

  it('gives a long history page by page, and so do the answers', async () => {
    const id = await imported()
    const large = 'x'.repeat(19_000)
    for (let base = 1; base <= 150; base++) expect((await change(id, base, large)).status).toBe(200)
    const { response, stop } = await stream(id, 1)
    expect(await heard(response, 150)).toEqual(Array.from({ length: 150 }, (_, k) => k + 2))
    stop()
    const opened = (await (await fetch(`${server.address}/api/plans/${id}`)).text()).length
    expect(opened).toBeLessThan(1_200_000)
    const seen: number[] = []
    for (let since = 1; ;) {
      const page = (await (
        await fetch(`${server.address}/api/plans/${id}/changes?since=${since}`)
      ).json()) as LoggedChange[]
      if (page.length === 0) break
      seen.push(...page.map(({ revision }) => revision))
      since = seen.at(-1)!
    }
    expect(seen).toEqual(Array.from({ length: 150 }, (_, k) => k + 2))
  }, 30_000)

  it('is not filled for those who do not read, and takes no more than there is room for', async () => {
    const id = await imported()
    for (let base = 1; base <= 60; base++) await change(id, base, 'y'.repeat(19_000))
    const before = process.memoryUsage().rss
    const opened = []
    for (let k = 0; k < 40; k++) opened.push(await stream(id, 1))
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect(process.memoryUsage().rss - before).toBeLessThan(300e6)
    const more = await Promise.all(Array.from({ length: 300 }, () => stream(id, 61)))
    const refused = more.filter(({ response }) => response.status === 503)
    expect(refused.length).toBe(40)
    expect(await refused[0]!.response.json()).toMatchObject({
      error: 'busy',
      message: '300 pages listen already; close some of them',
    })
    for (const { stop } of [...opened, ...more]) stop()
    // Whoever is gone makes room.
    await new Promise((resolve) => setTimeout(resolve, 500))
    const late = await stream(id, 60)
    expect(await heard(late.response, 1)).toEqual([61])
    late.stop()
  }, 30_000)
})

it('health says what is true of the database', async () => {
  const health = async (of: { address: string }) => {
    const response = await fetch(`${of.address}/api/health`)
    return [response.status, await response.json()]
  }
  expect(await health(server)).toEqual([200, { ok: true, database: 'answers' }])
})

describe('a log', () => {
  it('holds not one word of a plan, whatever went wrong', () => {
    let written = ''
    const log = createLog(
      'info',
      new Writable({ write: (chunk: Buffer, _, done) => ((written += chunk.toString()), done()) }),
    )
    const error = Object.assign(new Error('Duplicate entry “Secret hull” for key'), {
      name: 'SequelizeDatabaseError',
      sql: "INSERT INTO plan_items VALUES ('Secret hull')",
      parameters: ['Secret hull'],
      parent: Object.assign(new Error('Secret hull'), {
        code: 'ER_DUP_ENTRY',
        errno: 1062,
        sqlState: '23000',
        sql: 'Secret hull',
      }),
      cause: new Error('Secret hull'),
    })
    log.error({ err: error }, 'unexpected error')
    log.info(
      { req: { id: 1, method: 'GET', url: '/api/plans/x/review.csv?scenario=Secret%20hull' } },
      'asked',
    )
    expect(written).not.toContain('Secret')
    expect(JSON.parse(written.split('\n')[0]!)).toMatchObject({
      err: {
        name: 'SequelizeDatabaseError',
        code: 'ER_DUP_ENTRY',
        errno: 1062,
        sqlState: '23000',
        stack: expect.stringContaining('foreign.test.ts'),
      },
    })
    expect(JSON.parse(written.split('\n')[1]!)).toMatchObject({
      req: { method: 'GET', path: '/api/plans/x/review.csv' },
    })
  })
})
