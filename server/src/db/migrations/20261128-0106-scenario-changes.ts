import { QueryTypes } from 'sequelize'
import type { Change, Item } from '@geodrome/core'
import type { Migration } from '../migration.ts'

interface ItemRow {
  plan_id: string
  item_key: string
  place: number
  body: string
}
interface LogRow {
  plan_id: string
  revision: number
  body: string
  inverse: string
}

/** The changes of a scenario become items of their own, each named by its place in the scenario, in the plans and in their logs. */
export const up: Migration = async (sql) => {
  const scenarios = (await sql("SELECT * FROM plan_items WHERE list = 'scenarios' ORDER BY plan_id, place", {
    type: QueryTypes.SELECT,
  })) as ItemRow[]
  for (const row of scenarios) {
    const { changes, ...scenario } = JSON.parse(row.body) as Item & { id: string; changes?: unknown[] }
    if (changes === undefined) continue
    for (const [k, change] of changes.entries())
      await sql(
        "INSERT IGNORE INTO plan_items (plan_id, list, item_key, place, body) VALUES (:plan, 'scenarioChanges', :key, :place, :body)",
        {
          replacements: {
            plan: row.plan_id,
            key: keyAt(scenario.id, k),
            place: row.place * 1000 + k + 1,
            body: JSON.stringify(itemAt(scenario.id, k, change)),
          },
        },
      )
    await sql(
      "UPDATE plan_items SET body = :body WHERE plan_id = :plan AND list = 'scenarios' AND item_key = :key",
      { replacements: { plan: row.plan_id, key: row.item_key, body: JSON.stringify(scenario) } },
    )
  }
  const log = (await sql(
    `SELECT plan_id, revision, body, inverse FROM changes WHERE body LIKE '%"scenarios"%' OR inverse LIKE '%"scenarios"%'`,
    { type: QueryTypes.SELECT },
  )) as LogRow[]
  for (const { plan_id, revision, body, inverse } of log) {
    const [change, back] = splitScenarioChanges(JSON.parse(body) as Change, JSON.parse(inverse) as Change)
    await sql(
      'UPDATE changes SET body = :body, inverse = :inverse WHERE plan_id = :plan AND revision = :revision',
      {
        replacements: {
          plan: plan_id,
          revision,
          body: JSON.stringify(change),
          inverse: JSON.stringify(back),
        },
      },
    )
  }
}

/** Puts them back into their scenarios. The log keeps them as items: what was undone in it stays undone. */
export const down: Migration = async (sql) => {
  const scenarios = (await sql("SELECT * FROM plan_items WHERE list = 'scenarios'", {
    type: QueryTypes.SELECT,
  })) as ItemRow[]
  for (const row of scenarios) {
    const items = (await sql(
      "SELECT body FROM plan_items WHERE plan_id = :plan AND list = 'scenarioChanges' ORDER BY place",
      { type: QueryTypes.SELECT, replacements: { plan: row.plan_id } },
    )) as ItemRow[]
    const changes = items
      .map(({ body }) => JSON.parse(body) as Item)
      .filter(({ scenario }) => scenario === row.item_key)
      .map(({ change }) => change)
    await sql(
      "UPDATE plan_items SET body = :body WHERE plan_id = :plan AND list = 'scenarios' AND item_key = :key",
      {
        replacements: {
          plan: row.plan_id,
          key: row.item_key,
          body: JSON.stringify({ ...(JSON.parse(row.body) as Item), changes }),
        },
      },
    )
  }
  return sql("DELETE FROM plan_items WHERE list = 'scenarioChanges'")
}

const keyAt = (scenario: string, k: number): string => `${scenario}/${k + 1}`
const itemAt = (scenario: string, k: number, change: unknown): Item => ({
  id: String(k + 1),
  scenario,
  change,
})
/** A step and what takes it back. */
type Step = readonly [change: Change, inverse: Change]

const set = (scenario: string, k: number, change: unknown): Change => ({
  kind: 'set',
  list: 'scenarioChanges',
  key: keyAt(scenario, k),
  set: { change },
})
const add = (scenario: string, k: number, change: unknown): Change => ({
  kind: 'add',
  list: 'scenarioChanges',
  item: itemAt(scenario, k, change),
  before: null,
})
const remove = (scenario: string, k: number): Change => ({
  kind: 'remove',
  list: 'scenarioChanges',
  key: keyAt(scenario, k),
})

/** A change of the log and its inverse, with the changes of scenarios as items. */
export const splitScenarioChanges = (change: Change, inverse: Change): Step => {
  const steps = stepsOf(change, inverse)
  if (steps.length === 1) return steps[0]!
  return [
    { kind: 'all', changes: steps.map(([forth]) => forth) },
    { kind: 'all', changes: steps.map(([, back]) => back).reverse() },
  ]
}

const stepsOf = (change: Change, inverse: Change): Step[] => {
  if (change.kind === 'all' && inverse.kind === 'all') {
    const last = inverse.changes.length - 1
    const parts = change.changes.map((part, k) => splitScenarioChanges(part, inverse.changes[last - k]!))
    return [
      [
        { kind: 'all', changes: parts.map(([forth]) => forth) },
        { kind: 'all', changes: parts.map(([, back]) => back).reverse() },
      ],
    ]
  }
  const isOfScenarios = 'list' in change && change.list === 'scenarios'
  if (isOfScenarios && change.kind === 'set' && inverse.kind === 'set' && 'changes' in change.set) {
    const { changes: next, ...others } = change.set as Item & { changes?: unknown[] }
    const { changes: former, ...othersBefore } = inverse.set as Item & { changes?: unknown[] }
    const steps = replaced(change.key, former ?? [], next ?? [])
    if (Object.keys(others).length > 0)
      steps.unshift([
        { ...change, set: others },
        { ...inverse, set: othersBefore },
      ])
    return steps
  }
  if (isOfScenarios && change.kind === 'add' && 'changes' in change.item) {
    const { changes, ...item } = change.item as Item & { id: string; changes?: unknown[] }
    return [[{ ...change, item }, inverse], ...replaced(item.id, [], changes ?? [])]
  }
  if (isOfScenarios && change.kind === 'remove' && inverse.kind === 'add' && 'changes' in inverse.item) {
    const { changes, ...item } = inverse.item as Item & { id: string; changes?: unknown[] }
    return [...replaced(item.id, changes ?? [], []), [change, { ...inverse, item }]]
  }
  return [[change, inverse]]
}

/** One list of changes put in the place of another, item by item; what goes, goes from the end, so that it comes back in order. */
const replaced = (scenario: string, former: readonly unknown[], next: readonly unknown[]): Step[] => {
  const steps: Step[] = []
  for (let k = 0; k < Math.min(former.length, next.length); k++)
    if (JSON.stringify(former[k]) !== JSON.stringify(next[k]))
      steps.push([set(scenario, k, next[k]), set(scenario, k, former[k])])
  for (let k = former.length; k < next.length; k++)
    steps.push([add(scenario, k, next[k]), remove(scenario, k)])
  for (let k = former.length - 1; k >= next.length; k--)
    steps.push([remove(scenario, k), add(scenario, k, former[k])])
  return steps
}
