import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { applyUnchecked, changeSchema, parseJson, readPlan, type Change, type Plan } from '@geodrome/core'
import type { PlanRepository } from './db/planRepository.ts'
import { planRowsOf } from './db/planRowsOf.ts'

/** Names the import of a demo plan, so that a start that was killed on the way is gone on with by the next. */
const uidOf = (name: string): string => `demo-${name}`
const ENDING = '.geodrome.json'

/** Loads the demo plans once: into a database that never held a plan but these. */
export const loadDemo = async (plans: PlanRepository, root: string): Promise<void> => {
  const files = (await readdir(root)).sort()
  const names = files.filter((file) => file.endsWith(ENDING)).map((file) => file.slice(0, -ENDING.length))
  const isBegun = names[0] !== undefined && (await plans.isImported(uidOf(names[0])))
  if (!isBegun && !(await plans.isNew())) return
  for (const name of names) {
    const uid = uidOf(name)
    const { plan } = readPlan(parseJson(await readFile(join(root, name + ENDING), 'utf8')))
    const past = `${name}.history.json`
    const history = files.includes(past)
      ? livedThrough(plan, historySchema.parse(parseJson(await readFile(join(root, past), 'utf8'))))
      : { first: plan, changes: [] }
    const id = await plans.create(planRowsOf(history.first), uid)
    const known = (await plans.list()).find((one) => one.id === id)
    // It was loaded before, or loaded and removed.
    if (!known || known.revision > history.changes.length) continue
    // A change that is stored already is known by its name, and not made again.
    for (const [k, { author, change }] of history.changes.entries())
      await plans.change(id, { uid: `${uid}-${k + 1}`, client: uid, author, base: k + 1, change })
  }
}

/** What was done to a plan, from its last change back to its first: what takes each back. */
const historySchema = z.array(z.strictObject({ author: z.string(), back: changeSchema }))

/** The plan before everything that its history says, and what made of it what it is, oldest first. */
const livedThrough = (
  plan: Plan,
  history: z.output<typeof historySchema>,
): { readonly first: Plan; readonly changes: readonly { author: string; change: Change }[] } => {
  let first = plan
  const changes: { author: string; change: Change }[] = []
  for (const { author, back } of history) {
    const { plan: before, inverse } = applyUnchecked(first, back)
    first = before
    changes.unshift({ author, change: inverse })
  }
  return { first, changes }
}
