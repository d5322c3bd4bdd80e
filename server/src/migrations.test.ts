import { readdirSync } from 'node:fs'
import { afterAll, beforeAll, expect, it } from 'vitest'
import {
  applyChange,
  readPlan,
  writePlan,
  type Change,
  type Item,
  type LoggedChange,
  type Plan,
} from '@geodrome/core'
import { QueryTypes } from 'sequelize'
import { MIGRATIONS, migrator } from './db/migrate.ts'
import { splitScenarioChanges } from './db/migrations/20261128-0106-scenario-changes.ts'
import { testServer, type TestServer } from './testing/testServer.ts'

let server: TestServer
beforeAll(async () => void (server = await testServer()))
afterAll(() => server.stop())

const call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const response = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  return (await response.json()) as T
}
const duration = (minutes: number) => ({
  kind: 'set',
  list: 'activities',
  key: 'a',
  set: { duration: minutes },
})
const FILE = {
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  activities: [{ id: 'a', duration: 60 }],
  scenarios: [
    { id: 's', name: 'Faster', changes: [duration(30), duration(20)] },
    { id: 't', name: 'Slower', changes: [duration(90)] },
  ],
}

it('every migration of the folder is run, in the order of their names', () => {
  const files = readdirSync(new URL('./db/migrations', import.meta.url)).map((name) =>
    name.replace(/\.ts$/, ''),
  )
  expect(MIGRATIONS.map(([name]) => name)).toEqual(files.sort())
})

it('what forecasts draw from becomes items of plans that were kept before there were such lists', async () => {
  const { id } = await call<{ id: string }>('POST', '/plans', FILE)
  const factor = { id: 'f', name: 'Yard', scope: {}, low: 0.9, likely: 1, high: 1.2, shape: 'triangular' }
  const heads = await server.sequelize.query<{ head: string }>('SELECT head FROM plans WHERE id = :id', {
    type: QueryTypes.SELECT,
    replacements: { id },
  })
  const head = JSON.stringify({ ...(JSON.parse(heads[0]!.head) as object), factors: [factor] })
  await server.sequelize.query('UPDATE plans SET head = :head WHERE id = :id', { replacements: { id, head } })
  await server.sequelize.query("DELETE FROM migrations WHERE name LIKE '%-forecast-inputs'")
  // A server that starts finds the plan of one of before.
  const other = await server.another()
  try {
    const file = (await (await fetch(`${other.address}/api/plans/${id}/file`)).json()) as Item
    expect(file.factors).toEqual([factor])
  } finally {
    await other.stop()
  }
})

it('the changes of scenarios become items of their own, in the plan and in what its log takes back', async () => {
  const { id } = await call<{ id: string }>('POST', '/plans', FILE)
  const before = await call<Item>('GET', `/plans/${id}/file`)
  const inPlan = { replacements: { id } }
  const list = (changes: unknown[]): Item => ({ kind: 'set', list: 'scenarios', key: 's', set: { changes } })
  // As a version of before kept it: the plan of revision 3, to which two changes of scenario "s" led.
  await server.sequelize.query(
    "DELETE FROM plan_items WHERE plan_id = :id AND list = 'scenarioChanges'",
    inPlan,
  )
  for (const { id: key, ...rest } of FILE.scenarios)
    await server.sequelize.query(
      "UPDATE plan_items SET body = :body WHERE plan_id = :id AND list = 'scenarios' AND item_key = :key",
      { replacements: { id, key, body: JSON.stringify({ id: key, by: '', why: '', holdsIf: '', ...rest }) } },
    )
  await server.sequelize.query('UPDATE plans SET revision = 3 WHERE id = :id', inPlan)
  const log = [
    [2, list([duration(30)]), list([])],
    [3, list([duration(30), duration(20)]), list([duration(30)])],
  ] as const
  for (const [revision, body, inverse] of log)
    await server.sequelize.query(
      "INSERT INTO changes (plan_id, revision, uid, client, author, body, inverse, at) VALUES (:id, :revision, :uid, 'c', 'Ana', :body, :inverse, '2027-01-01')",
      {
        replacements: {
          id,
          revision,
          uid: `change-${revision}`,
          body: JSON.stringify(body),
          inverse: JSON.stringify(inverse),
        },
      },
    )
  await server.sequelize.query("DELETE FROM migrations WHERE name LIKE '%-scenario-changes'")

  await migrator(server.sequelize).up()
  expect(await call('GET', `/plans/${id}/file`)).toEqual(before)
  const at = async (revision: number): Promise<number[]> =>
    (await call<Plan>('GET', `/plans/${id}/revisions/${revision}`)).scenarioChanges
      .filter(({ scenario }) => scenario === 's')
      .map(({ change }) => (change as ReturnType<typeof duration>).set.duration)
  expect(await Promise.all([at(3), at(2), at(1)])).toEqual([[30, 20], [30], []])
  const undo = { uid: 'take-back', client: 'c', author: 'Ana', base: 3, undoes: 'change-3' }
  expect(await call<LoggedChange>('POST', `/plans/${id}/changes`, undo)).toMatchObject({ revision: 4 })
  expect(await at(4)).toEqual([30])

  // Once more, as after a kill between its steps: nothing is there twice.
  await server.sequelize.query("DELETE FROM migrations WHERE name LIKE '%-scenario-changes'")
  await migrator(server.sequelize).up()
  expect(await at(4)).toEqual([30])
})

it.each([
  ['damages', '20261128-0108-damages', 'd', { due: '2027-07-01', steps: [{ from: 1, amount: 5 }] }],
  ['periods', '20261128-0109-periods', 'p', { statusDate: '2027-07-01', dates: { a: ['2027-03-01', 1] } }],
])(
  '%s that were kept with the plan become items of their own, and go back',
  async (list, migration, prefix, fields) => {
    const item = { id: `${prefix}1`, name: 'First', ...fields }
    const { id } = await call<{ id: string }>('POST', '/plans', { ...FILE, scenarios: [], [list]: [item] })
    const before = await call<Record<string, Item[]>>('GET', `/plans/${id}/file`)
    expect(before[list]).toMatchObject([item])
    // As a version of before kept them: in the head of the plan, one of them without an id.
    const [row] = await server.sequelize.query<{ head: string }>('SELECT head FROM plans WHERE id = :id', {
      replacements: { id },
      type: QueryTypes.SELECT,
    })
    const head = {
      ...(JSON.parse(row!.head) as Item),
      [list]: [...before[list]!, { ...fields, name: 'Other' }],
    }
    await server.sequelize.query('UPDATE plans SET head = :head WHERE id = :id', {
      replacements: { id, head: JSON.stringify(head) },
    })
    await server.sequelize.query('DELETE FROM plan_items WHERE plan_id = :id AND list = :list', {
      replacements: { id, list },
    })
    await server.sequelize.query('DELETE FROM migrations WHERE name = :migration', {
      replacements: { migration },
    })
    await migrator(server.sequelize).up()
    const items = (): Promise<{ item_key: string; body: string }[]> =>
      server.sequelize.query<{ item_key: string; body: string }>(
        'SELECT item_key, body FROM plan_items WHERE plan_id = :id AND list = :list ORDER BY place',
        { replacements: { id, list }, type: QueryTypes.SELECT },
      )
    expect((await items()).map(({ item_key }) => item_key)).toEqual([`${prefix}1`, `${prefix}2`])
    expect(JSON.parse((await items())[0]!.body)).toEqual(before[list]![0])

    await migrator(server.sequelize).down({ to: migration })
    expect(await items()).toEqual([])
    await migrator(server.sequelize).up()
    expect((await items()).map(({ item_key }) => item_key)).toEqual([`${prefix}1`, `${prefix}2`])
  },
)

it('whatever an old log did to scenarios is done and taken back item by item', () => {
  const empty: Plan = readPlan({ ...FILE, scenarios: [{ id: 's', name: 'A', changes: [1, 2, 3] }] }).plan
  const scenario = (changes: unknown[]): Item => ({
    id: 's',
    name: 'A',
    by: '',
    why: '',
    holdsIf: '',
    changes,
  })
  const cases: readonly (readonly [change: unknown, inverse: unknown, left: unknown[] | null])[] = [
    [{ set: { changes: [1, 4] } }, { set: { changes: [1, 2, 3] } }, [1, 4]],
    [{ set: { name: 'B', changes: [] } }, { set: { name: 'A', changes: [1, 2, 3] } }, []],
    [{ set: { changes: [3, 2, 1, 0] } }, { set: { changes: [1, 2, 3] } }, [3, 2, 1, 0]],
    [{ kind: 'remove' }, { kind: 'add', item: scenario([1, 2, 3]), before: null }, null],
  ]
  const whole = (part: unknown): Change =>
    ({ kind: 'set', list: 'scenarios', key: 's', ...(part as object) }) as Change
  for (const [change, inverse, left] of cases) {
    for (const isNested of [false, true]) {
      const [forth, back] = isNested
        ? splitScenarioChanges(
            { kind: 'all', changes: [{ kind: 'project', set: { name: 'x' } }, whole(change)] },
            { kind: 'all', changes: [whole(inverse), { kind: 'project', set: { name: '' } }] },
          )
        : splitScenarioChanges(whole(change), whole(inverse))
      const after = applyChange(empty, forth).plan
      expect(after.scenarios.length === 0 ? null : after.scenarioChanges.map((item) => item.change)).toEqual(
        left,
      )
      expect(writePlan(applyChange(after, back).plan)).toBe(writePlan(empty))
    }
  }
})
