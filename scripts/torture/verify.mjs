import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from '../install.mjs'

/** The whole log of a plan, oldest first. */
const logOf = async (address, id) => {
  const log = []
  for (let since = 1; ; since = log.at(-1).revision) {
    const page = await (await fetch(`${address}/plans/${id}/changes?since=${since}`)).json()
    if (page.length === 0) return log
    log.push(...page)
  }
}

/**
 * Holds what was acknowledged against what is stored: every change in the log once, with its revision, none missing between; and the
 * plan that the log makes of the imported one is the plan in the rows.
 * @returns what is wrong; empty if nothing is
 */
export const verify = async (addresses, id, people) => {
  const { applyUnchecked, parseJson, readPlan, writePlan } = await import(join(ROOT, 'core/dist/index.js'))
  const wrong = []
  const log = await logOf(addresses[0], id)
  log.forEach(
    ({ revision }, k) =>
      revision !== k + 2 && wrong.push(`revision ${revision} stands where ${k + 2} belongs`),
  )
  const stored = new Map(log.map((entry) => [entry.uid, entry.revision]))
  if (stored.size !== log.length) wrong.push('a change is in the log twice')
  for (const { acknowledged } of people)
    for (const [uid, revision] of acknowledged)
      if (stored.get(uid) !== revision)
        wrong.push(`${uid}, acknowledged as ${revision}, is ${stored.get(uid) ?? 'not there'}`)
  let { plan } = readPlan(parseJson(readFileSync(join(ROOT, 'demo/kittiwake.geodrome.json'), 'utf8')))
  for (const { change } of log) plan = applyUnchecked(plan, change).plan
  const replayed = writePlan(plan)
  for (const address of addresses) {
    const file = await (await fetch(`${address}/plans/${id}/file`)).text()
    if (file !== replayed) wrong.push('the rows are not what the log makes')
  }
  return { wrong, changes: log.length }
}
