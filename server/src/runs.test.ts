import { readFileSync } from 'node:fs'
import { QueryTypes } from 'sequelize'
import { afterAll, beforeAll, expect, it, vi } from 'vitest'
import {
  daysOwed,
  driversByRank,
  iterationTable,
  lookAtRun,
  parseJson,
  readPlan,
  runInFullSchema,
  runIterations,
  scenarioPlan,
  seekSettled,
  simulationModel,
  summarise,
  type LookKind,
  type Plan,
  type ReplayLook,
  type Run,
  type RunInFull,
  type SimulationResult,
  type SimulationSummary,
  type TargetLook,
} from '@geodrome/core'
import { JobRepository, type ClaimedJob } from './db/jobRepository.ts'
import { defineModels } from './db/models.ts'
import { configFrom } from './config.ts'
import { Presence } from './db/presence.ts'
import { createLog } from './logging.ts'
import { testServer, type TestServer } from './testing/testServer.ts'

const file = readFileSync(new URL('../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')
const { plan } = readPlan(parseJson(file))
const INPUT = { iterations: 300, seed: 9, sampling: 'lhs', risks: true, scenario: null } as const
let server: TestServer
let id: string
let jobs: JobRepository

const call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const response = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  })
  return (await response.json()) as T
}
const start = (input: object, of = id): Promise<Run> =>
  call('POST', `/plans/${of}/runs`, { kind: 'simulation', input })
const until = async (run: string, wanted: (run: RunInFull) => boolean, of = id): Promise<RunInFull> => {
  for (let k = 0; k < 2000; k++) {
    const now = runInFullSchema.parse(await call('GET', `/plans/${of}/runs/${run}`))
    if (wanted(now)) return now
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error('the run did not get there')
}
const isOver = ({ state }: Run): boolean => ['done', 'failed', 'cancelled'].includes(state)
/** A job as a server left it in the database. */
const leave = (job: string, values: Record<string, unknown>): Promise<unknown> => {
  const row = {
    id: job,
    plan_id: id,
    kind: 'simulation',
    input: JSON.stringify(INPUT),
    state: 'queued',
    done: 0,
    total: 300,
    weight: 300,
    revision: 1,
    created_at: '2026-01-01',
    ...values,
  }
  return server.sequelize.query(
    `INSERT INTO jobs (${Object.keys(row).join(', ')}) VALUES (${Object.keys(row).map((k) => `:${k}`)})`,
    { replacements: row },
  )
}
// Some fifteen thousand iterations here and in the server: on a slow machine that takes a while.
const SLOW_MS = 600_000
it(
  'a run until it is settled is as many whole batches as that takes, and then one like any other',
  async () => {
    const asked = { until: { days: 0.1, percent: 80 }, seed: 5 }
    const options = { iterations: 5000, seed: 5, sampling: 'lhs', risks: true } as const
    const found = seekSettled(plan, options, asked.until)
    expect(found.iterations).toBeGreaterThan(5000)
    const run = await start(asked)
    const done = (await until(run.id, isOver)) as RunInFull<'simulation'>
    expect([done.state, done.total, done.done]).toEqual(['done', found.iterations, found.iterations])
    expect(done.input).toMatchObject({ iterations: found.iterations, batch: 1000, until: asked.until })
    const { settled, finishes, iterations } = done.result!
    expect(settled).toEqual({ percent: 80, halfWidth: found.halfWidth })
    expect([settled!.halfWidth <= 0.1, iterations]).toEqual([true, found.iterations])
    const model = simulationModel(plan, { ...options, iterations: found.iterations, batch: 1000 })
    const table = iterationTable(model)
    runIterations(model, table)
    expect(finishes).toBe(Buffer.from(table.finish.buffer).toString('base64'))
    // What is asked of it afterwards is of the same draws: the last iteration, and what a driver is owed.
    const last = found.iterations - 1
    const replayed = await call<ReplayLook>('POST', `/plans/${id}/runs/${run.id}/look`, {
      kind: 'replay',
      question: { iteration: last + 1 },
    })
    expect(replayed).toEqual(lookAtRun(model, table, 'replay', { iteration: last + 1 }))
    const drivers = driversByRank(model, table).slice(0, 2)
    const owed = await call<Run>('POST', `/plans/${id}/runs`, {
      kind: 'owed',
      input: { ...(done.input as object), percent: 80, drivers },
    })
    const debts = (await until(owed.id, isOver)) as RunInFull<'owed'>
    expect(debts.result!.owed).toEqual(daysOwed(model, 80, drivers))
  },
  SLOW_MS,
)

it('a run that is not settled yet is stopped like any other, and a part of a batch is no run', async () => {
  const run = await start({ until: { days: 0.001 }, seed: 5 })
  const grown = await until(run.id, ({ done, partial }) => done >= 5000 && partial !== null)
  expect((grown as RunInFull<'simulation'>).partial!.dots).toHaveLength(50)
  await call('POST', `/plans/${id}/runs/${run.id}/cancel`)
  expect((await until(run.id, isOver)).state).toBe('cancelled')
  const odd = await until((await start({ iterations: 1500, batch: 1000, seed: 5 })).id, isOver)
  expect([odd.state, odd.error]).toEqual(['failed', '1500 iterations are no whole batches of 1000'])
})

const expected = (
  of: Plan,
  input: Omit<typeof INPUT, 'iterations' | 'seed'> & { iterations: number; seed: number },
): { summary: SimulationSummary; finishes: number[] } => {
  const model = simulationModel(of, input)
  const table = iterationTable(model)
  runIterations(model, table)
  return {
    summary: JSON.parse(JSON.stringify(summarise(model, table))) as SimulationSummary,
    finishes: [...table.finish],
  }
}

beforeAll(async () => {
  server = await testServer()
  id = (await call<{ id: string }>('POST', '/plans', file)).id
  jobs = new JobRepository(server.sequelize, defineModels(server.sequelize))
})
afterAll(() => server.stop())

it('a run on the worker pool gives what the core gives, for the plan and for a scenario', async () => {
  for (const scenario of [null, 's1']) {
    const started = await start({ iterations: 600, seed: 5, scenario })
    const result = (await until(started.id, isOver)).result as SimulationResult
    const { summary, finishes } = expected(scenario === null ? plan : scenarioPlan(plan, scenario).plan, {
      ...INPUT,
      iterations: 600,
      seed: 5,
    })
    expect(result).toMatchObject(summary)
    expect(result.dots).toHaveLength(50)
    const bytes = Buffer.from(result.finishes, 'base64')
    expect([...new Int32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4)]).toEqual(finishes)
  }
})

const ask = <T>(run: string, kind: string, question: object, of = id, at = server.address): Promise<T> =>
  fetch(`${at}/api/plans/${of}/runs/${run}/look`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ kind, question }),
  }).then((response) => response.json() as Promise<T>)

it('a run that is there is asked about any target, on another server and after others as well', async () => {
  const started = await start({ iterations: 500, seed: 5, scenario: 's1' })
  await until(started.id, isOver)
  const model = simulationModel(scenarioPlan(plan, 's1').plan, { ...INPUT, iterations: 500, seed: 5 })
  const table = iterationTable(model)
  runIterations(model, table)
  const questions = {
    target: {
      target: { what: 'finish', of: 'activity', id: plan.activities.at(-1)!.id },
      given: { by: 'risk', id: plan.risks[0]!.id, happened: true },
      asked: '2027-06-16',
    },
    contingency: { percent: 80 },
    replay: { percent: 80 },
    merges: {},
    joint: { percent: 70 },
  } as const
  for (const [kind, question] of Object.entries(questions) as [LookKind, never][])
    expect(await ask(started.id, kind, question), kind).toEqual(
      JSON.parse(JSON.stringify(lookAtRun(model, table, kind, question))),
    )
  const other = await server.another()
  try {
    // That server did not run it: it draws the iterations again.
    const [first, second] = await Promise.all(
      [80, 20].map((percent) => ask<ReplayLook>(started.id, 'replay', { percent }, id, other.address)),
    )
    expect(first).toEqual(JSON.parse(JSON.stringify(lookAtRun(model, table, 'replay', { percent: 80 }))))
    expect(second!.finish <= first!.finish).toBe(true)
  } finally {
    await other.stop()
  }
})

it('is of the plan as it was at the revision of the run, whatever was changed since', async () => {
  const { id: own } = await call<{ id: string }>('POST', '/plans', file)
  const started = await start(INPUT, own)
  await until(started.id, isOver, own)
  const before = await ask<TargetLook>(started.id, 'target', { target: FINISH }, own)
  await call('POST', `/plans/${own}/changes`, {
    uid: 'make-longer',
    client: 'c',
    author: 'Ana',
    base: 1,
    change: { kind: 'set', list: 'activities', key: plan.activities[0]!.id, set: { duration: 99_000 } },
  })
  const other = await server.another()
  try {
    expect(await ask(started.id, 'target', { target: FINISH }, own, other.address)).toEqual(before)
  } finally {
    await other.stop()
  }
  const again = await call<Run>('POST', `/plans/${own}/runs`, {
    kind: 'simulation',
    input: INPUT,
    revision: 1,
  })
  expect(again.revision).toBe(1)
  const { result } = await until(again.id, isOver, own)
  expect((result as SimulationResult).finishes).toBe(
    ((await until(started.id, isOver, own)).result as SimulationResult).finishes,
  )
})

const FINISH = { what: 'finish', of: 'project', id: null }

it('what cannot be told of a run is said in a sentence', async () => {
  const { id: run } = await start(INPUT)
  await until(run, isOver)
  const said = async (kind: string, question: object): Promise<string> =>
    (await ask<{ message: string }>(run, kind, question)).message
  expect(await said('replay', { iteration: 301 })).toBe('this run has 300 iterations')
  expect(await said('replay', { iteration: 0 })).toMatch(/iteration/)
  expect(await said('contingency', { percent: 100 })).toMatch(/100/)
  expect(await said('target', { target: { ...FINISH, of: 'group', id: 'none' } })).toBe(
    'the plan of this run has no group "none"',
  )
  expect(await said('target', { target: FINISH, asked: '31.6.' })).toMatch(/YYYY-MM-DD/)
  expect(await said('dance', {})).toMatch(/target/)
  const long = await start({ ...INPUT, iterations: 50_000 })
  expect((await ask<{ message: string }>(long.id, 'merges', {})).message).toMatch(/not come to its end/)
  await call('POST', `/plans/${id}/runs/${long.id}/cancel`)
  expect((await ask<{ message: string }>('nowhere', 'merges', {})).message).toMatch(/no run "nowhere"/)
})

it('days owed to each driver are those of the core, grow, and have nothing that is asked', async () => {
  const simulated = await start(INPUT)
  const { drivers } = (await until(simulated.id, isOver)).result as SimulationResult
  const model = simulationModel(plan, INPUT)
  const table = iterationTable(model)
  runIterations(model, table)
  expect(drivers).toEqual(driversByRank(model, table).slice(0, 20))
  const chosen = drivers.slice(0, 4)
  const owed: Run = await call('POST', `/plans/${id}/runs`, {
    kind: 'owed',
    input: { ...INPUT, percent: 80, drivers: chosen },
    revision: 1,
  })
  expect(owed.total).toBe(300)
  const done = await until(owed.id, isOver)
  expect(done.result).toEqual({ owed: daysOwed(model, 80, chosen) })
  expect((await ask<{ message: string }>(owed.id, 'merges', {})).message).toMatch(/nothing can be asked/)
})

it('a run that is named is kept however many come after it; one that has ended can be dropped', async () => {
  const { id: own } = await call<{ id: string }>('POST', '/plans', file)
  const kept = await start(INPUT, own)
  await until(kept.id, isOver, own)
  expect(
    await call('PATCH', `/plans/${own}/runs/${kept.id}`, { name: '  Before the yard’s word ' }),
  ).toMatchObject({
    name: 'Before the yard’s word',
  })
  const rows = Array.from({ length: 60 }, (_, k) => ({ plan_id: own, state: 'done', job: `old-${own}-${k}` }))
  for (const { job, ...row } of rows) await leave(job.slice(-24), row)
  await server.sequelize.query("UPDATE jobs SET created_at = '2025-01-01' WHERE id = :id", {
    replacements: { id: kept.id },
  })
  const next = await start(INPUT, own)
  await until(next.id, isOver, own)
  const listed = await call<Run[]>('GET', `/plans/${own}/runs`)
  expect(listed.at(-1)).toMatchObject({ id: kept.id, name: 'Before the yard’s word', state: 'done' })
  expect(listed).toHaveLength(21)
  expect(await call('PATCH', `/plans/${own}/runs/${kept.id}`, { name: '' })).toMatchObject({ name: null })
  expect(
    await call<{ message: string }>('PATCH', `/plans/${own}/runs/${kept.id}`, { name: 'x'.repeat(121) }),
  ).toHaveProperty('message')
  const dropped = await fetch(`${server.address}/api/plans/${own}/runs/${next.id}`, { method: 'DELETE' })
  expect(dropped.status).toBe(204)
  expect((await call<{ message: string }>('GET', `/plans/${own}/runs/${next.id}`)).message).toMatch(/no run/)
  const long = await start({ ...INPUT, iterations: 50_000 }, own)
  expect((await call<{ message: string }>('DELETE', `/plans/${own}/runs/${long.id}`)).message).toMatch(
    /stop it first/,
  )
  await call('POST', `/plans/${own}/runs/${long.id}/cancel`)
})

it('the list of runs is without what came of them', async () => {
  const { id: run } = await start(INPUT)
  await until(run, isOver)
  const listed = await call<Record<string, unknown>[]>('GET', `/plans/${id}/runs`)
  expect(listed[0]).toMatchObject({ id: run, kind: 'simulation', state: 'done', revision: 1, input: INPUT })
  expect(listed.every((item) => !('result' in item) && !('partial' in item))).toBe(true)
})

it('a run grows, can be stopped, and stays stopped', async () => {
  const started = await start({ iterations: 100_000, seed: 5 })
  const growing = await until(started.id, ({ partial }) => partial !== null)
  expect(growing).toMatchObject({ state: 'running', total: 100_000 })
  expect(growing.done).toBeGreaterThan(0)
  expect((growing as RunInFull<'simulation'>).partial!.dots).toHaveLength(50)
  expect((await call<Run>('POST', `/plans/${id}/runs/${started.id}/cancel`)).state).toBe('cancelled')
  await new Promise((resolve) => setTimeout(resolve, 600))
  expect(await until(started.id, () => true)).toMatchObject({
    state: 'cancelled',
    partial: null,
    result: null,
  })
})

it('a small run does not wait for a large one', async () => {
  const large = await start({ iterations: 100_000, seed: 5 })
  await until(large.id, ({ state }) => state === 'running')
  const small = await start({ iterations: 100, seed: 5 })
  expect((await until(small.id, isOver)).state).toBe('done')
  expect((await until(large.id, () => true)).state).toBe('running')
  await call('POST', `/plans/${id}/runs/${large.id}/cancel`)
})

it('a run whose server died waits, is taken up again and gives the same answer', async () => {
  await leave('orphan', { state: 'running', done: 100, attempts: 1, lease_until: '2026-01-01' })
  expect(['queued', 'running', 'done']).toContain((await until('orphan', () => true)).state)
  const orphan = await until('orphan', isOver)
  const fresh = await until((await start(INPUT)).id, isOver)
  expect(orphan.state).toBe('done')
  expect(orphan.result).toEqual(fresh.result)
})

it('a run whose server is gone waits at once, though its lease has long to go', async () => {
  const config = configFrom(process.env).database
  const presence = await Presence.begin(config, createLog('silent'))
  const away = { state: 'running', attempts: 1, owner: 'x', lease_until: '2099-01-01' }
  // More than the server beside this test has room for, so that it is not taken up.
  await leave('theirs', { ...away, server: presence.server, weight: 100_000_000 })
  expect((await until('theirs', () => true)).state).toBe('running')
  await presence.end()
  // A database that has just started waits some seconds for its servers to come back.
  await until('theirs', ({ state }) => state === 'queued')
  const listed = await call<Run[]>('GET', `/plans/${id}/runs`)
  expect(listed.find((run) => run.id === 'theirs')?.state).toBe('queued')
  expect((await jobs.claim(200_000_000))?.id).toBe('theirs')
  await call('POST', `/plans/${id}/runs/theirs/cancel`)
})

it('a server that lost its connection is there again', async () => {
  const presence = await Presence.begin(configFrom(process.env).database, createLog('silent'))
  const holder = async (): Promise<number | null> => {
    const [row] = await server.sequelize.query<{ holder: number | null }>(
      'SELECT IS_USED_LOCK(:name) AS holder',
      { type: QueryTypes.SELECT, replacements: { name: `geodrome-${presence.server}` } },
    )
    return row!.holder === null ? null : Number(row!.holder)
  }
  const first = (await holder())!
  await server.sequelize.query(`KILL ${first}`)
  await vi.waitFor(async () => expect(await holder()).toBeGreaterThan(first), 5_000)
  await presence.end()
  await vi.waitFor(async () => expect(await holder()).toBe(null), 5_000)
})

it('a run that stops every server is not begun for ever', async () => {
  await leave('poison', { state: 'running', attempts: 3, lease_until: '2026-01-01' })
  expect(await until('poison', isOver)).toMatchObject({
    state: 'failed',
    error: 'the server stopped 3 times while it ran this; it is not begun again',
  })
})

it('a run is of the plan that was looked at, whatever is changed while it waits', async () => {
  const own = (await call<{ id: string }>('POST', '/plans', file)).id
  await leave('waits', { plan_id: own, state: 'cancelled' })
  const change = { kind: 'set', list: 'activities', key: plan.activities[20]!.id, set: { duration: 99_999 } }
  const sent = { uid: 'while-it-waits', client: 'x', author: 'Ana', base: 1, change }
  await call('POST', `/plans/${own}/changes`, sent)
  await server.sequelize.query("UPDATE jobs SET state = 'queued' WHERE id = 'waits'")
  const run = await until('waits', isOver, own)
  expect(run.result).toMatchObject({ percentiles: expected(plan, INPUT).summary.percentiles })
  expect(run.revision).toBe(1)
})

it('a server that wakes up late writes nothing into a run that another has taken up', async () => {
  await leave('taken', { state: 'running', attempts: 1, owner: 'another', lease_until: '2099-01-01' })
  const late: ClaimedJob = { ...(await jobs.get(id, 'taken')), owner: 'the late one', weight: 300 }
  expect(await jobs.progress(late, 200, null)).toBe(false)
  expect(await jobs.renew(late)).toBe(false)
  expect(await jobs.finish(late, { wrong: true })).toBe(false)
  expect(await jobs.fail(late, 'wrong')).toBe(false)
  expect(await jobs.get(id, 'taken')).toMatchObject({ state: 'running', done: 0, result: null, error: null })
  const owner = { ...late, owner: 'another' }
  // Written though the row may say the same already.
  expect(await Promise.all([jobs.renew(owner), jobs.renew(owner), jobs.renew(owner)])).toEqual([
    true,
    true,
    true,
  ])
  await call('POST', `/plans/${id}/runs/taken/cancel`)
})

it('of many that wait the smallest is next, few of one plan at once, and what waited long goes first', async () => {
  const other = (await call<{ id: string }>('POST', '/plans', file)).id
  const alone = new JobRepository(server.sequelize, defineModels(server.sequelize))
  const now = new Date()
  const soon = new Date(now.getTime() + 3_600_000)
  // More than a server that runs beside this test has room for, so that only this test claims them.
  const HUGE = 100_000_000
  await leave('busy1', { state: 'running', attempts: 1, owner: 'x', lease_until: soon, created_at: now })
  await leave('busy2', { state: 'running', attempts: 1, owner: 'x', lease_until: soon, created_at: now })
  await leave('third', { weight: HUGE, created_at: now })
  await leave('large', { plan_id: other, weight: HUGE + 9, created_at: now })
  await leave('small', { plan_id: other, weight: HUGE + 1, created_at: now })
  await leave('old', { plan_id: other, weight: HUGE + 9_999, created_at: new Date(now.getTime() - 120_000) })
  const claimed = []
  for (let k = 0; k < 3; k++) claimed.push((await alone.claim(HUGE + 5_000))?.id)
  expect(claimed).toEqual(['small', 'large', undefined])
  await server.sequelize.query("UPDATE jobs SET state = 'queued' WHERE id IN ('small', 'large')")
  expect((await alone.claim(2 * HUGE))?.id).toBe('old')
  await server.sequelize.query("UPDATE jobs SET state = 'cancelled' WHERE state IN ('queued', 'running')")
})

it('what cannot be run says why', async () => {
  expect(await start({ iterations: 1, seed: 5 })).toMatchObject({ error: 'bad-request' })
  expect(await start({ iterations: 500, seed: 5, scenario: 'gone' })).toMatchObject({
    message: 'there is no scenario "gone"',
  })
  expect(await call('POST', `/plans/${id}/runs`, { kind: 'wish', input: {} })).toMatchObject({
    error: 'bad-request',
  })
  expect(await call('GET', `/plans/nowhere/runs`)).toMatchObject({ error: 'not-found' })
  const other = (await call<{ id: string }>('POST', '/plans', file)).id
  const { id: run } = await start(INPUT)
  expect(await call('GET', `/plans/${other}/runs/${run}`)).toMatchObject({
    message: `this plan has no run "${run}"`,
  })
  await leave('before', { state: 'queued', weight: 4_000_000_000 })
  // One of them may be begun meanwhile: alone it may take all the room there is.
  for (let k = 1; k < 21; k++) await leave(`wait${k}`, { state: 'queued', weight: 4_000_000_000 })
  expect(await start(INPUT)).toMatchObject({
    message: expect.stringMatching(
      /^2[01] runs of this plan wait already; stop some of them first$/,
    ) as string,
  })
})

it('a run larger than there is room for is refused when it is asked for', async () => {
  const wide = {
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01' },
    activities: Array.from({ length: 2000 }, (_, k) => ({ id: `a${k}`, duration: '1d' })),
  }
  const of = (await call<{ id: string }>('POST', '/plans', wide)).id
  expect(await start({ iterations: 100_000, seed: 5 }, of)).toMatchObject({
    error: 'bad-request',
    message:
      '2000 activities × 100000 iterations is more than one run can hold; take at most 50000 iterations',
  })
})
