import { readFileSync } from 'node:fs'
import { afterAll, beforeAll, expect, it } from 'vitest'
import {
  joinRanges,
  parseJson,
  readPlan,
  runIterations,
  scenarioPlan,
  simulationModel,
  summarise,
} from '@geodrome/core'
import { JobRepository, type Job } from './db/jobRepository.ts'
import { defineModels } from './db/models.ts'
import type { RunResult } from '@geodrome/core'
import { testServer, type TestServer } from './testing/testServer.ts'

const file = readFileSync(new URL('../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')
let server: TestServer
let id: string
const call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const response = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  })
  return (await response.json()) as T
}
const until = async (run: string, wanted: (job: Job) => boolean): Promise<Job> => {
  for (let k = 0; k < 300; k++) {
    const job = await call<Job>('GET', `/runs/${run}`)
    if (wanted(job)) return job
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error('the run did not get there')
}
const isOver = (job: Job): boolean => ['done', 'failed', 'cancelled'].includes(job.state)

beforeAll(async () => {
  server = await testServer()
  id = (await call<{ id: string }>('POST', '/plans', file)).id
})
afterAll(() => server.stop())

it('a run on the worker pool gives what the core gives, for the plan and for a scenario', async () => {
  const { plan } = readPlan(parseJson(file))
  for (const scenario of [null, 's1']) {
    const started = await call<Job>('POST', `/plans/${id}/runs`, { iterations: 600, seed: 5, scenario })
    const { result } = (await until(started.id, isOver)) as { result: RunResult }
    const model = simulationModel(scenario === null ? plan : scenarioPlan(plan, scenario).plan, {
      iterations: 600,
      seed: 5,
      sampling: 'lhs',
      risks: true,
    })
    const all = runIterations(model, 0, 600)
    expect(result).toMatchObject(JSON.parse(JSON.stringify(summarise(model, joinRanges([all])))) as object)
    expect(result.dots).toHaveLength(50)
    const bytes = Buffer.from(result.finishes, 'base64')
    expect([...new Int32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4)]).toEqual([...all.finish])
  }
})

it('a run can be stopped, and stays stopped', async () => {
  const started = await call<Job>('POST', `/plans/${id}/runs`, { iterations: 100_000, seed: 5 })
  await until(started.id, (job) => job.state === 'running')
  expect((await call<Job>('POST', `/runs/${started.id}/cancel`)).state).toBe('cancelled')
  await new Promise((resolve) => setTimeout(resolve, 600))
  expect(await call<Job>('GET', `/runs/${started.id}`)).toMatchObject({ state: 'cancelled', result: null })
})

it('a run whose server died is taken up again and gives the same answer', async () => {
  const input = { iterations: 300, seed: 9, sampling: 'lhs', risks: true, scenario: null }
  // Claimed by a server that is gone: running, with a lease that has run out.
  await server.sequelize.query(
    `INSERT INTO jobs (id, plan_id, kind, input, state, done, total, lease_until, created_at) VALUES ('orphan', :id, 'simulation', :input, 'running', 100, 300, '2026-01-01', '2026-01-01')`,
    { replacements: { id, input: JSON.stringify(input) } },
  )
  const orphan = await until('orphan', isOver)
  const fresh = await until((await call<Job>('POST', `/plans/${id}/runs`, input)).id, isOver)
  expect(orphan.state).toBe('done')
  expect(orphan.result).toEqual(fresh.result)
})

it('a run is of the plan that was looked at, whatever is changed while it waits', async () => {
  const { plan } = readPlan(parseJson(file))
  const own = (await call<{ id: string }>('POST', '/plans', file)).id
  const input = { iterations: 300, seed: 9, sampling: 'lhs', risks: true, scenario: null }
  await server.sequelize.query(
    `INSERT INTO jobs (id, plan_id, kind, input, state, done, total, revision, created_at) VALUES ('waits', :own, 'simulation', :input, 'cancelled', 0, 300, 1, '2026-01-01')`,
    { replacements: { own, input: JSON.stringify(input) } },
  )
  const change = { kind: 'set', list: 'activities', key: plan.activities[20]!.id, set: { duration: 99_999 } }
  const sent = { uid: 'while-it-waits', client: 'x', author: 'Ana', base: 1, change }
  await call('POST', `/plans/${own}/changes`, sent)
  await server.sequelize.query("UPDATE jobs SET state = 'queued' WHERE id = 'waits'")
  const { result } = (await until('waits', isOver)) as { result: RunResult }
  const model = simulationModel(plan, { iterations: 300, seed: 9, sampling: 'lhs', risks: true })
  expect(result.percentiles).toEqual(summarise(model, runIterations(model, 0, 300)).percentiles)
  expect(result.revision).toBe(1)
})

it('a server that wakes up late writes nothing into a run that another has taken up', async () => {
  const input = { iterations: 300, seed: 9, sampling: 'lhs', risks: true, scenario: null }
  await server.sequelize.query(
    `INSERT INTO jobs (id, plan_id, kind, input, state, done, total, owner, lease_until, created_at) VALUES ('taken', :id, 'simulation', :input, 'running', 0, 300, 'another', '2099-01-01', '2026-01-01')`,
    { replacements: { id, input: JSON.stringify(input) } },
  )
  const jobs = new JobRepository(server.sequelize, defineModels(server.sequelize))
  const late = { ...(await jobs.get('taken')), owner: 'the late one', revision: 1 }
  expect(await jobs.progress(late, 200)).toBe(false)
  await jobs.finish(late, { wrong: true }, 300)
  await jobs.fail(late, 'wrong')
  expect(await jobs.get('taken')).toMatchObject({ state: 'running', done: 0, result: null, error: null })
  expect(await jobs.progress({ ...late, owner: 'another' }, 200)).toBe(true)
})

it('what cannot be run says why', async () => {
  expect(await call('POST', `/plans/${id}/runs`, { iterations: 1, seed: 5 })).toMatchObject({
    error: 'bad-request',
  })
  expect(
    await call('POST', `/plans/${id}/runs`, { iterations: 500, seed: 5, scenario: 'gone' }),
  ).toMatchObject({ message: 'there is no scenario "gone"' })
})
