import { readFileSync } from 'node:fs'
import ExcelJS from 'exceljs'
import { QueryTypes } from 'sequelize'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import {
  applyChange,
  datesOf,
  formatInstant,
  parseJson,
  PLAN_FILES,
  readPlan,
  schedule,
  varianceOf,
  writePlanFile,
  type Change,
  type FactsOfPlan,
  type LoggedChange,
  type Plan,
  type PlanSummary,
  type SimulationResult,
} from '@geodrome/core'
import { migrator } from './db/migrate.ts'
import { testServer, type TestServer } from './testing/testServer.ts'

const file = readFileSync(new URL('../../demo/kiln.geodrome.json', import.meta.url), 'utf8')
let server: TestServer
let id: string

const call = async (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
  const response = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
  })
  const text = await response.text()
  return {
    status: response.status,
    body: (text === '' ? null : JSON.parse(text)) as never as Record<string, never>,
  }
}
let count = 0
const sent = (change: Change, base: number, client = 'one', uid = `uid-${process.pid}-${count++}`) => ({
  uid,
  client,
  author: client,
  base,
  change,
})
const send = (change: Change, base: number, client?: string, uid?: string) =>
  call('POST', `/plans/${id}/changes`, sent(change, base, client, uid))
const duration = (key: string, minutes: number): Change => ({
  kind: 'set',
  list: 'activities',
  key,
  set: { duration: minutes },
})
const stored = async (): Promise<Plan> => (await call('GET', `/plans/${id}`)).body.plan as never

beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.stop())
beforeEach(async () => {
  const made = await call('POST', '/plans', file)
  expect(made.status).toBe(201)
  id = made.body.id as never
})

describe('a plan', () => {
  it('comes back from the database as it was imported, and as a file', async () => {
    const { plan } = readPlan(parseJson(file))
    expect(await stored()).toEqual(plan)
    const exported = await fetch(`${server.address}/api/plans/${id}/file`)
    expect(exported.headers.get('content-disposition')).toContain('KILN.geodrome.json')
    expect(readPlan(await exported.json()).plan).toEqual(plan)
  })

  it('holds what its log of changes makes of the imported one, item order included', async () => {
    const changes: Change[] = [
      duration('k4', 960),
      { kind: 'move', list: 'activities', key: 'k8', before: 'k2' },
      {
        kind: 'add',
        list: 'activities',
        before: 'k3',
        item: { id: 'new', code: 'N', duration: 60, confirmed: true },
      },
      {
        kind: 'all',
        changes: [
          { kind: 'add', list: 'links', before: null, item: { id: 'ln', from: 'k1', to: 'new', lag: 0 } },
          { kind: 'remove', list: 'links', key: '4' },
        ],
      },
      { kind: 'project', set: { requiredFinish: '2027-04-01' } },
    ]
    let { plan } = readPlan(parseJson(file))
    for (const [k, change] of changes.entries()) {
      expect((await send(change, k + 1)).status).toBe(200)
      plan = applyChange(plan, change).plan
    }
    // Another server has nothing in memory: it reads the rows.
    const other = await server.another()
    expect((await other.plans.get(id)).plan).toEqual(plan)
    await other.stop()
  })

  it('keeps its order when one place is moved into again and again', async () => {
    let { plan } = readPlan(parseJson(file))
    for (let k = 0; k < 40; k++) {
      const change: Change = { kind: 'move', list: 'activities', key: k % 2 ? 'k8' : 'k7', before: 'k2' }
      await send(change, k + 1)
      plan = applyChange(plan, change).plan
    }
    const other = await server.another()
    expect((await other.plans.get(id)).plan.activities.map((a) => a.id)).toEqual(
      plan.activities.map((a) => a.id),
    )
    await other.stop()
  })

  it('gives its log page by page, back to the first change', async () => {
    for (let k = 0; k < 5; k++) await send(duration('k4', 60 + k), k + 1)
    const revisions = async (query: string): Promise<number[]> =>
      ((await call('GET', `/plans/${id}/changes?${query}`)).body as never as LoggedChange[]).map(
        (c) => c.revision,
      )
    expect(await revisions('before=5')).toEqual([4, 3, 2])
    expect(await revisions('before=2')).toEqual([])
    expect((await call('GET', `/plans/${id}/changes?before=x`)).status).toBe(400)
  })

  it('keeps items apart whose keys a database could take for one', async () => {
    const ids = ['sp', 'sp ', 'SP', 'ſp', ' sp', 'ｓｐ', 'x'.repeat(200)]
    const item = (key: string) => ({ id: key, code: key, duration: 60, confirmed: true })
    const changes = ids.map((key): Change => ({
      kind: 'add',
      list: 'activities',
      item: item(key),
      before: null,
    }))
    const before = (await stored()).activities.length
    expect((await send({ kind: 'all', changes }, 1)).status).toBe(200)
    const long = { check: 'open-end', fingerprint: 'f'.repeat(480), reason: '', by: '', at: '' }
    expect((await send({ kind: 'add', list: 'acceptances', item: long, before: null }, 2)).status).toBe(200)
    // A server that has not seen them knows what the database kept.
    const other = await server.another()
    const { plan } = (await (await fetch(`${other.address}/api/plans/${id}`)).json()) as { plan: Plan }
    await other.stop()
    expect(plan.activities.slice(before).map((a) => a.id)).toEqual(ids)
    expect(plan.acceptances).toHaveLength(1)
    const half = await send({ kind: 'add', list: 'activities', item: item('\ud800'), before: null }, 3)
    expect([half.status, JSON.stringify(half.body)]).toEqual([400, expect.stringContaining('half a letter')])
  })
  it('is hidden when removed, and can be brought back', async () => {
    expect((await call('DELETE', `/plans/${id}`)).status).toBe(204)
    expect((await call('GET', `/plans/${id}`)).status).toBe(404)
    expect((await send(duration('k4', 60), 1)).status).toBe(404)
    await call('POST', `/plans/${id}/restore`)
    expect((await call('GET', `/plans/${id}`)).status).toBe(200)
  })
})

describe('two people', () => {
  it('keep both their changes when they touch different facts', async () => {
    expect((await send(duration('k4', 960), 1, 'one')).body).toMatchObject({ revision: 2 })
    expect((await send(duration('k3', 480), 1, 'two')).body).toMatchObject({ revision: 3 })
    const { activities } = await stored()
    expect(activities.filter((a) => ['k3', 'k4'].includes(a.id)).map((a) => a.duration)).toEqual([480, 960])
  })

  it('are told of a clash on the same fact, with the other version, and nothing is lost or half done', async () => {
    await send(duration('k4', 960), 1, 'one')
    const refused = await send(duration('k4', 480), 1, 'two')
    expect(refused.status).toBe(409)
    expect(refused.body).toMatchObject({
      error: 'conflict',
      facts: ['activities/k4/duration'],
      theirs: [{ author: 'one', change: duration('k4', 960) }],
    })
    expect((await stored()).activities.find((a) => a.id === 'k4')!.duration).toBe(960)
    // Made again in sight of the other's, it is taken.
    expect((await send(duration('k4', 480), 2, 'two')).status).toBe(200)
  })

  it('cannot close a loop together', async () => {
    const tie = (lid: string, from: string, to: string): Change => ({
      kind: 'add',
      list: 'links',
      before: null,
      item: { id: lid, from, to, lag: 0 },
    })
    expect((await send(tie('x', 'k5', 'k3'), 1, 'one')).status).toBe(200)
    const refused = await send(tie('y', 'k3', 'k5'), 1, 'two')
    expect(refused.status).toBe(400)
    expect(refused.body.message).toMatch(/wait for each other: .*K30/)
  })

  it('sending at once, many times, lose nothing', async () => {
    const keys = ['k2', 'k3', 'k4', 'k5', 'k6', 'k7', 'k8']
    const answers = await Promise.all(keys.map((key, k) => send(duration(key, 100 + k), 1, `c${k}`)))
    expect(answers.map((a) => a.status)).toEqual(keys.map(() => 200))
    expect(answers.map((a) => a.body.revision as never as number).sort((a, b) => a - b)).toEqual([
      2, 3, 4, 5, 6, 7, 8,
    ])
    const { activities } = await stored()
    expect(keys.map((key) => activities.find((a) => a.id === key)!.duration)).toEqual(
      keys.map((_, k) => 100 + k),
    )
  })

  it('each hear of the other’s changes in order, through any server, from where they left off', async () => {
    const other = await server.another()
    const heard: LoggedChange[] = []
    const stop = new AbortController()
    const stream = await fetch(`${other.address}/api/plans/${id}/events?since=1`, { signal: stop.signal })
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader()
    const read = async (n: number): Promise<void> => {
      let text = ''
      while (heard.length < n) {
        text += (await reader.read()).value ?? ''
        for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
          const data = /^event: change\ndata: (.*)$/m.exec(text.slice(0, end))
          if (data) heard.push(JSON.parse(data[1]!) as LoggedChange)
          text = text.slice(end + 2)
        }
      }
    }
    for (let k = 0; k < 3; k++) await send(duration('k4', 500 + k), k + 1)
    await read(3)
    expect(heard.map((c) => c.revision)).toEqual([2, 3, 4])
    stop.abort()
    await other.stop()
  })
})

describe('a change that is', () => {
  it('sent twice is applied once', async () => {
    const first = await send(duration('k4', 960), 1, 'one', 'same-uid-1')
    const again = await send(duration('k4', 960), 1, 'one', 'same-uid-1')
    expect(again).toEqual(first)
    expect((await call('GET', `/plans/${id}`)).body.revision).toBe(2)
  })

  it('taken back restores the rows byte for byte, and can be done again', async () => {
    const rows = () =>
      server.sequelize.query(
        'SELECT list, item_key, place, body FROM plan_items WHERE plan_id = :id ORDER BY list, item_key',
        { replacements: { id }, type: QueryTypes.SELECT },
      )
    const before = await rows()
    const made = await send(
      { kind: 'set', list: 'activities', key: 'k4', set: { duration: 1, owner: 'X', colour: 'red' } },
      1,
    )
    const undo = await call('POST', `/plans/${id}/changes`, {
      uid: 'undo-uid-1',
      client: 'one',
      author: 'one',
      base: 2,
      undoes: made.body.uid,
    })
    expect(undo.status).toBe(200)
    expect(await rows()).toEqual(before)
    await call('POST', `/plans/${id}/changes`, {
      uid: 'redo-uid-1',
      client: 'one',
      author: 'one',
      base: 3,
      undoes: 'undo-uid-1',
    })
    expect((await stored()).activities.find((a) => a.id === 'k4')).toMatchObject({
      duration: 1,
      colour: 'red',
    })
  })

  it('taken back after others rest on it is refused with who', async () => {
    const made = await send(duration('k4', 960), 1, 'one')
    await send(duration('k4', 480), 2, 'two')
    const undo = await call('POST', `/plans/${id}/changes`, {
      uid: 'undo-uid-2',
      client: 'one',
      author: 'one',
      base: 3,
      undoes: made.body.uid,
    })
    expect(undo.status).toBe(409)
    expect(undo.body.message).toMatch(/later changes rest on this one \(by two\)/)
  })
})

describe('what is wrong is answered with what and where', () => {
  it.each<[string, string, string, unknown, number, RegExp]>([
    ['a file that is not JSON', 'POST', '/plans', '{"a":', 400, /not a JSON file/],
    [
      'a plan with errors',
      'POST',
      '/plans',
      { format: 'geodrome-plan', version: 1, project: { start: 'soon' } },
      400,
      /"soon" is not a date/,
    ],
    [
      'a calendar that ends',
      'POST',
      '/plans',
      {
        format: 'geodrome-plan',
        version: 1,
        project: { start: '2027-03-01', calendar: 't' },
        calendars: [{ id: 't', windows: [['2027-03-02T00:00', '2027-03-02T01:00']] }],
        activities: [{ id: 'a', duration: '2h' }],
      },
      400,
      /calendar "t" has no working time/,
    ],
    ['an unknown plan', 'GET', '/plans/none', undefined, 404, /no plan "none"/],
    ['an unknown address', 'GET', '/nowhere', undefined, 404, /nothing at this address/],
    ['an address that cannot be decoded', 'GET', '/plans/%E0%A4%A', undefined, 400, /cannot be read/],
    ['a run of an unknown plan', 'GET', '/plans/none/runs/none', undefined, 404, /no plan "none"/],
  ])('%s', async (_, method, path, body, status, message) => {
    const answer = await call(method, path, body)
    expect(answer.status).toBe(status)
    expect(answer.body.message).toMatch(message)
    expect(JSON.stringify(answer.body)).not.toMatch(/\.ts:|node_modules|at \w+ \(/)
  })

  it('changes of the wrong shape or to what is not there', async () => {
    expect((await call('POST', `/plans/${id}/changes`, { uid: 'short' })).status).toBe(400)
    expect((await send({ kind: 'set', list: 'nothing' as never, key: 'x', set: {} }, 1)).status).toBe(400)
    expect((await send(duration('gone', 1), 1)).body.message).toMatch(/no "gone" in activities/)
    expect(
      (await send({ kind: 'set', list: 'activities', key: 'k4', set: { duration: 'ten' } }, 1)).body,
    ).toMatchObject({ error: 'plan', issues: [{ pointer: '/activities/3/duration' }] })
    expect((await call('GET', `/plans/${id}`)).body.revision).toBe(1)
  })

  it('a body beyond the limit, and a write from another site', async () => {
    expect((await call('POST', '/plans', `"${'x'.repeat(65 * 1024 * 1024)}"`)).status).toBe(413)
    expect((await call('POST', '/plans', file, { origin: 'http://elsewhere.example' })).status).toBe(403)
  })
})

it('a first start that was killed between two demo plans is gone on with; what was removed stays removed', async () => {
  const root = new URL('../../demo', import.meta.url).pathname
  const own = await testServer(root)
  const codes = async () => (await own.plans.list()).map((p) => p.code).sort()
  await own.sequelize.query("DELETE FROM plans WHERE code <> 'KILN'")
  const next = await own.another()
  expect(await codes()).toEqual(['KILN', 'KITE', 'KITE-MAY'])
  await next.stop()
  const [first] = await own.plans.list()
  await own.plans.setRemoved(first!.id, true)
  await (await own.another()).stop()
  expect(await codes()).toHaveLength(2)
  // A database whose plans are all of people gets none of the demo.
  await own.sequelize.query('UPDATE plans SET import_uid = NULL')
  await own.sequelize.query("DELETE FROM plans WHERE code <> 'KILN'")
  const before = await codes()
  await (await own.another()).stop()
  expect(await codes()).toEqual(before)
  await own.stop()
})

describe('the plan as it was when something of it was kept', () => {
  const baseline = (key: string): Change => ({
    kind: 'add',
    list: 'baselines',
    item: { id: key, name: `Agreed ${key}`, activities: {} },
    before: null,
  })
  const kept = (list: string, key: string) => call('GET', `/plans/${id}/kept/${list}/${key}`)

  it('is found in the log, however it was changed since, and whatever the same change did later', async () => {
    await send(duration('k4', 1000), 1)
    const both: Change = { kind: 'all', changes: [baseline('b"1%'), duration('k4', 2000)] }
    await send(both, 2)
    await send({ kind: 'set', list: 'baselines', key: 'b"1%', set: { name: 'Signed' } }, 3)
    const found = await kept('baselines', encodeURIComponent('b"1%'))
    expect(found.status).toBe(200)
    const { plan, revision, author } = found.body as never as { plan: Plan; revision: number; author: string }
    expect([revision, author]).toEqual([3, 'one'])
    expect(plan.activities.find((a) => a.id === 'k4')!.duration).toBe(1000)
    expect(plan.baselines.map(({ name }) => name)).toEqual(['Agreed b"1%'])
    // Tables of it are asked for by the same name.
    const query = `kept=${encodeURIComponent('baselines/b"1%')}`
    const list = await fetch(`${server.address}/api/plans/${id}/files/csv?${query}`)
    expect(list.status).toBe(200)
    expect(await list.text()).not.toBe(
      await (await fetch(`${server.address}/api/plans/${id}/files/csv`)).text(),
    )
  })

  it('is that of the first time, though it was taken away and brought back', async () => {
    await send(baseline('b'), 1)
    const gone = await send({ kind: 'remove', list: 'baselines', key: 'b' }, 2)
    expect((await kept('baselines', 'b')).status).toBe(404)
    await send(duration('k4', 3000), 3)
    const { uid } = gone.body as never as LoggedChange
    await call('POST', `/plans/${id}/changes`, {
      uid: `${uid}-back`,
      client: 'one',
      author: 'one',
      base: 4,
      undoes: uid,
    })
    const { plan, revision } = (await kept('baselines', 'b')).body as never as {
      plan: Plan
      revision: number
    }
    expect(revision).toBe(2)
    expect(plan.activities.find((a) => a.id === 'k4')!.duration).not.toBe(3000)
  })

  it('is not there for what came with a file, nor for what is not there: each has its sentence', async () => {
    const raw = JSON.parse(file) as object
    const withOne = { ...raw, baselines: [{ id: 'b', name: 'Theirs' }] }
    id = (await call('POST', '/plans', withOne)).body.id as never
    const came = await kept('baselines', 'b')
    expect([came.status, came.body.message]).toEqual([
      404,
      'Theirs came with the file: it holds dates, and not the plan that they came of',
    ])
    expect((await kept('baselines', 'c')).body.message).toBe('the plan has no baseline "c"')
    expect((await kept('links', 'c')).body.message).toContain('it is in baselines and periods')
  })
})

it('a plan with much that was kept opens without it, but for the baseline compared with, and gives it when asked', async () => {
  const activities = Array.from({ length: 2100 }, (_, k) => ({ id: `a${k}`, code: `A${k}`, duration: 60 }))
  const each = (said: unknown) => Object.fromEntries(activities.map(({ id: a }) => [a, said]))
  const body = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'clock', baseline: 'b1' },
    activities,
    baselines: ['b1', 'b2'].map((b) => ({ id: b, activities: each({ finish: '2027-03-02' }) })),
    periods: Array.from({ length: 8 }, (_, k) => ({
      id: `p ${k}`,
      statusDate: '2027-03-01',
      dates: each(['2027-03-01', '2027-03-02', 0, k]),
    })),
  }
  id = (await call('POST', '/plans', body)).body.id as never
  const opened = (await call('GET', `/plans/${id}`)).body as never as {
    plan: Plan
    left: [string, string][]
  }
  expect(opened.left).toHaveLength(9)
  expect(opened.left.at(-1)).toEqual(['periods', 'p 7'])
  expect(opened.plan.baselines.map((b) => Object.keys(b.activities).length)).toEqual([2100, 0])
  expect(opened.plan.periods.every(({ dates }) => Object.keys(dates).length === 0)).toBe(true)
  const said = await call('GET', `/plans/${id}/said/periods/${encodeURIComponent('p 7')}`)
  expect(said.body.a2099).toEqual(['2027-03-01', '2027-03-02', 0, 7])
  expect((await call('GET', `/plans/${id}/said/periods/none`)).status).toBe(404)
  // Taken away by somebody who has not read it yet, and brought back: it is whole.
  await send({ kind: 'remove', list: 'periods', key: 'p 7' }, 1, 'one', 'uid-of-removal')
  await call('POST', `/plans/${id}/changes`, {
    uid: 'uid-of-return',
    client: 'one',
    author: 'one',
    base: 2,
    undoes: 'uid-of-removal',
  })
  const again = await call('GET', `/plans/${id}/said/periods/${encodeURIComponent('p 7')}`)
  expect(again.body).toEqual(said.body)
})

it('the demo has a past: every baseline and period opens as the plan that its dates came of', async () => {
  const root = new URL('../../demo', import.meta.url)
  const own = await testServer(root.pathname)
  const { id: may } = (await own.plans.list()).find(({ code }) => code === 'KITE-MAY')!
  const { plan } = await own.plans.get(may)
  const text = readFileSync(new URL('../../demo/kittiwake-may.geodrome.json', import.meta.url), 'utf8')
  expect(plan).toEqual(readPlan(parseJson(text)).plan)
  expect(plan.baselines.length + plan.periods.length).toBe(6)
  for (const { id: key } of plan.baselines) {
    const then = schedule((await own.plans.kept(may, 'baselines', key)).plan)
    const { baselines } = then.network.plan
    const { start, finish } = varianceOf(
      then,
      baselines.find((one) => one.id === key)!,
      null,
    )
    expect([...start, ...finish].every((by) => by === 0)).toBe(true)
  }
  for (const { id: key } of plan.periods) {
    const then = schedule((await own.plans.kept(may, 'periods', key)).plan)
    const period = then.network.plan.periods.find((one) => one.id === key)!
    expect(period.finish).toBe(formatInstant(then.projectFinish))
    const dates = datesOf(period)
    expect(then.network.activities.map(({ id: a }) => dates.get(a)?.finish)).toEqual([...then.finish])
  }
  // A second start makes nothing twice.
  await (await own.another()).stop()
  expect((await own.plans.get(may)).revision).toBe(8)
  await own.stop()
})

it('migrations go up, down and up again on a seeded database', async () => {
  const own = await testServer(new URL('../../demo', import.meta.url).pathname)
  const tables = async () => (await own.sequelize.query('SHOW TABLES', { type: QueryTypes.SELECT })).length
  const before = await tables()
  expect((await own.plans.list()).map((p) => p.code).sort()).toEqual(['KILN', 'KITE', 'KITE-MAY'])
  await migrator(own.sequelize).down({ to: 0 })
  expect(await tables()).toBe(1)
  await migrator(own.sequelize).up()
  expect(await tables()).toBe(before)
  await own.stop()
})

describe('a workbook', () => {
  const post = (body: Uint8Array) =>
    fetch(`${server.address}/api/tables`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: body as never,
    })
  it('becomes tables of text: dates, results of formulas and rich text included', async () => {
    const workbook = new ExcelJS.Workbook()
    const sheet = workbook.addWorksheet('Work')
    sheet.addRow(['Code', 'Name', 'Start', 'Days'])
    sheet.addRow([
      'K10',
      { richText: [{ text: 'Shut ' }, { text: 'down' }] },
      new Date('2027-03-01T07:30:00Z'),
      { formula: '1+2', result: 3 },
    ])
    workbook.addWorksheet('Links').addRow(['From', 'To'])
    const response = await post(new Uint8Array(await workbook.xlsx.writeBuffer()))
    expect(await response.json()).toEqual([
      {
        name: 'Work',
        rows: [
          ['Code', 'Name', 'Start', 'Days'],
          ['K10', 'Shut down', '2027-03-01T07:30', '3'],
        ],
      },
      { name: 'Links', rows: [['From', 'To']] },
    ])
  })
  it('that is none is refused in the user’s terms', async () => {
    const response = await post(new TextEncoder().encode('Code,Name'))
    expect(response.status).toBe(400)
    expect(await response.json()).toMatchObject({ message: expect.stringContaining('not a workbook') })
  })
})

describe('the plan in open formats', () => {
  const file = (format: string) => fetch(`${server.address}/api/plans/${id}/files/${format}`)
  it('comes in each of them, named and typed, and says which there are', async () => {
    for (const [format, { ending, type }] of Object.entries(PLAN_FILES)) {
      const response = await file(format)
      expect([format, response.status]).toEqual([format, 200])
      expect(response.headers.get('content-type')).toContain(type)
      expect(response.headers.get('content-disposition')!.replace(/"$/, '').endsWith(`.${ending}`)).toBe(true)
      expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(500)
    }
    const wrong = await file('toString')
    expect(wrong.status).toBe(404)
    expect(await wrong.json()).toMatchObject({
      message: 'there is no file "toString"; there are json, xlsx, csv, ics, graphml, dot',
    })
  })
  it('says the same as it does on the command line', async () => {
    const { plan } = (await (await fetch(`${server.address}/api/plans/${id}`)).json()) as { plan: Plan }
    for (const format of ['ics', 'graphml', 'dot', 'csv'] as const)
      expect(await (await file(format)).text()).toBe(await writePlanFile(format, plan))
  })
})

describe('the review', () => {
  it('comes as a workbook and as CSV, texts that look like formulas kept as texts', async () => {
    await send({ kind: 'set', list: 'activities', key: 'k4', set: { code: '=1+1', duration: 0 } }, 1)
    const book = new ExcelJS.Workbook()
    await book.xlsx.load(await (await fetch(`${server.address}/api/plans/${id}/review.xlsx`)).arrayBuffer())
    expect(book.worksheets.map((sheet) => sheet.name)).toEqual(['Findings', 'Checks', '14 points', 'Record'])
    const zero = book.worksheets[0]!.getSheetValues().find(
      (row) => Array.isArray(row) && row[4] === 'Work without a duration',
    ) as string[]
    expect(zero.slice(5, 7)).toEqual(['=1+1 is work, but takes no time', '=1+1'])
    const csv = await (await fetch(`${server.address}/api/plans/${id}/review.csv`)).text()
    expect(csv).toContain("'=1+1 is work, but takes no time")
    expect((await call('GET', `/plans/${id}/review.csv?scenario=none`)).status).toBe(404)
  })

  it('resources, load and cost come as a workbook and as CSV, a table each', async () => {
    await send(
      {
        kind: 'all',
        changes: [
          {
            kind: 'add',
            list: 'resources',
            item: { id: 'r', code: '=R', name: 'Bricklayers', price: 60 },
            before: null,
          },
          {
            kind: 'add',
            list: 'assignments',
            item: { id: 'x', activity: 'k4', resource: 'r', amount: 2 },
            before: null,
          },
        ],
      },
      1,
    )
    const book = new ExcelJS.Workbook()
    await book.xlsx.load(
      await (await fetch(`${server.address}/api/plans/${id}/resources.xlsx`)).arrayBuffer(),
    )
    expect(book.worksheets.map((sheet) => sheet.name)).toEqual([
      'Resources',
      'Assignments',
      'Load',
      'Overloads',
      'Cost',
      'Cost over time',
      'Damages',
      'Payments',
      'Hammocks',
    ])
    expect((book.getWorksheet('Resources')!.getRow(2).values as unknown[]).slice(1, 5)).toEqual([
      '=R',
      'Bricklayers',
      'people',
      60,
    ])
    const csv = async (table: string): Promise<string> =>
      (
        await fetch(`${server.address}/api/plans/${id}/resources.csv?table=${encodeURIComponent(table)}`)
      ).text()
    expect(await csv('Resources')).toContain("'=R,Bricklayers,people,60")
    // Five days of eight hours, two at 60.
    expect(await csv('Cost')).toContain('K40,Lay new lining,Kiln,,4800,4800,0')
    expect(await csv('Load')).toMatch(/^day,Bricklayers\r\n2027-03-01,0\r\n/)
    const none = await call('GET', `/plans/${id}/resources.csv?table=Nothing`)
    expect([none.status, none.body]).toMatchObject([
      404,
      { message: expect.stringContaining('there are Resources') },
    ])
  })

  it('says the years of a plan that lasts longer than one', async () => {
    await send({ kind: 'project', set: { requiredFinish: '2027-03-01' } }, 1)
    const csv = async (): Promise<string> =>
      (await fetch(`${server.address}/api/plans/${id}/review.csv`)).text()
    expect(await csv()).toContain('The required finish Mon 1 Mar cannot be kept')
    await send(duration('k4', 480 * 300), 2)
    expect(await csv()).toContain('The required finish Mon 1 Mar ’27 cannot be kept')
  })

  it('can be compared with any earlier state of the plan, taken back from the log', async () => {
    const { plan: first } = readPlan(parseJson(file))
    await send(duration('k4', 999), 1)
    await send({ kind: 'remove', list: 'links', key: '4' }, 2)
    await send({ kind: 'project', set: { name: 'Other' } }, 3)
    expect((await call('GET', `/plans/${id}/revisions/1`)).body).toEqual(first)
    expect((await call('GET', `/plans/${id}/revisions/3`)).body).toMatchObject({
      project: { name: first.project.name },
      links: first.links.filter((l) => l.id !== '4'),
    })
    expect((await call('GET', `/plans/${id}/revisions/9`)).status).toBe(404)
  })

  it('keeps acceptances and kept reviews over a restart', async () => {
    await send(
      {
        kind: 'add',
        list: 'acceptances',
        before: null,
        item: {
          check: 'long-lag',
          fingerprint: '4#x',
          reason: 'cure',
          by: 'Ana',
          at: '2027-03-01',
          facts: { lag: '6 d' },
        },
      },
      1,
    )
    await send(
      {
        kind: 'add',
        list: 'reviews',
        before: null,
        item: { id: 'v1', at: '2027-03-01', counts: { 'open-end': 2 }, open: [['open-end', 'k1 start']] },
      },
      2,
    )
    const other = await server.another()
    const { plan } = await other.plans.get(id)
    await other.stop()
    expect(plan.acceptances).toMatchObject([{ reason: 'cure', facts: { lag: '6 d' } }])
    expect(plan.reviews).toMatchObject([{ counts: { 'open-end': 2 }, open: [['open-end', 'k1 start']] }])
  })
})

describe('what plans share', () => {
  it('calendars of every plan that is there, each with its plan, and nothing else of it', async () => {
    const listed = (await call('GET', '/plans/calendars')).body as never as {
      planId: string
      plan: string
      calendars: { id: string }[]
    }[]
    const { plan } = readPlan(parseJson(file))
    expect(listed.find((l) => l.planId === id)).toEqual({
      planId: id,
      plan: plan.project.name,
      calendars: plan.calendars,
    })
    await call('DELETE', `/plans/${id}`)
    expect(
      ((await call('GET', '/plans/calendars')).body as never as { planId: string }[]).some(
        (l) => l.planId === id,
      ),
    ).toBe(false)
  })
  it('how a sender’s columns are read: the latest word of each counts, and comes first', async () => {
    const keep = (heads: string, sender: string, code: number) =>
      call('PUT', '/sheet-mappings', { heads, sender, mapping: { code } })
    expect((await keep('no|what', '', 0)).status).toBe(204)
    await keep('no|what', 'Brandt', 1)
    await keep('no|what', 'brandt', 2)
    await keep('no|what', 'Brandt', 3)
    expect((await call('GET', '/sheet-mappings')).body).toMatchObject([
      { sender: 'Brandt', mapping: { code: 3 } },
      { sender: '' },
    ])
    expect((await call('PUT', '/sheet-mappings', { heads: '', sender: '', mapping: {} })).status).toBe(400)
  })
})

describe('the list of plans', () => {
  const facts = async () => (await call('GET', `/plans/${id}/facts`)).body as unknown as FactsOfPlan
  it('says what each comes to, of its revision: after a change anew, and the 80 % date of a run as past', async () => {
    const before = await facts()
    expect(before).toMatchObject({
      revision: 1,
      activities: 9,
      finish: '2027-03-18T16:00',
      findings: 0,
      movers: 0,
      p80: null,
      problem: null,
    })
    expect(before.short).toBe(-6 * before.dayMinutes)
    // Kept: a second server, or a second look, finds the same without scheduling.
    const [kept] = await server.sequelize.query<{ revision: number; body: string }>(
      'SELECT revision, body FROM plan_facts WHERE plan_id = :id',
      { type: QueryTypes.SELECT, replacements: { id } },
    )
    expect([kept!.revision, JSON.parse(kept!.body)]).toMatchObject([1, { finish: '2027-03-18T16:00' }])

    const run = await call('POST', `/plans/${id}/runs`, {
      kind: 'simulation',
      input: { iterations: 50, seed: 1 },
    })
    const path = `/plans/${id}/runs/${String(run.body.id)}`
    for (let k = 0; k < 600 && (await call('GET', path)).body.state !== ('done' as never); k++)
      await new Promise((resolve) => setTimeout(resolve, 100))
    const { result } = (await call('GET', path)).body as unknown as { result: SimulationResult }
    expect((await facts()).p80).toEqual({ date: result.percentiles['80'], isPast: false })

    // A note moves no forecast, a duration does.
    await send({ kind: 'set', list: 'activities', key: 'k5', set: { notes: 'n' } }, 1)
    expect(await facts()).toMatchObject({ revision: 2, p80: { isPast: false } })
    await send(duration('k4', 480 * 6), 2)
    const after = await facts()
    expect(after).toMatchObject({ revision: 3, p80: { isPast: true } })
    expect(after.finish! > before.finish!).toBe(true)
  })
  it('names a plan that is put away as that, and only what is a plan can be put away', async () => {
    const listed = async () =>
      ((await call('GET', '/plans')).body as unknown as PlanSummary[]).find((one) => one.id === id)!.archived
    expect(await listed()).toBe(false)
    expect((await call('PATCH', `/plans/${id}`, { archived: true })).status).toBe(204)
    expect(await listed()).toBe(true)
    expect((await call('GET', `/plans/${id}`)).status).toBe(200)
    expect((await call('PATCH', `/plans/${id}`, { archived: false })).status).toBe(204)
    expect(await listed()).toBe(false)
    expect((await call('PATCH', '/plans/nowhere', { archived: true })).status).toBe(404)
    expect((await call('PATCH', `/plans/${id}`, { archived: 'yes', name: 'x' })).status).toBe(400)
  })
})
