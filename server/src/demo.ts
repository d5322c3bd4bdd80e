import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { parseJson, readPlan } from '@geodrome/core'
import type { PlanRepository } from './db/planRepository.ts'
import { planRowsOf } from './db/planRowsOf.ts'

/** Names the import of a demo plan, so that a start that was killed on the way is gone on with by the next. */
const uidOf = (file: string): string => `demo-${file.replace('.geodrome.json', '')}`

/** Loads the demo plans once: into a database that never held a plan but these. */
export const loadDemo = async (plans: PlanRepository, root: string): Promise<void> => {
  const files = (await readdir(root)).filter((file) => file.endsWith('.geodrome.json')).sort()
  const isBegun = files[0] !== undefined && (await plans.isImported(uidOf(files[0])))
  if (!isBegun && !(await plans.isNew())) return
  for (const file of files) {
    if (await plans.isImported(uidOf(file))) continue
    const { plan } = readPlan(parseJson(await readFile(join(root, file), 'utf8')))
    await plans.create(planRowsOf(plan), uidOf(file))
  }
}
