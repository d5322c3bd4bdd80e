import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { parseJson, readPlan } from '@geodrome/core'
import type { PlanRepository } from './db/planRepository.ts'
import { planRowsOf } from './db/planRowsOf.ts'

/** Loads the demo plans once: into a database that never held a plan. */
export const loadDemo = async (plans: PlanRepository, root: string): Promise<void> => {
  if (!(await plans.isNew())) return
  const files = (await readdir(root)).filter((file) => file.endsWith('.geodrome.json')).sort()
  for (const file of files)
    await plans.create(planRowsOf(readPlan(parseJson(await readFile(join(root, file), 'utf8'))).plan))
}
