import { spawnSync } from 'node:child_process'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { runMain, say, Stop } from './say.mjs'

const number = (name, fallback) => Number(process.env[name] ?? fallback)

/**
 * `npm run torture`, part after part, or the one that is named:
 * - kills: ten people edit one plan over two servers while servers and database are killed at random
 * - starts: first starts and later ones that are killed at any moment
 * - browser: somebody types in a browser that loses server, database, network, storage or tab
 * - heavy: what is heaviest is asked of one server while somebody works beside it
 * - random: the random tests of changes, files and sessions in large numbers
 * GEODROME_KILLS, GEODROME_STARTS, GEODROME_LOSSES, GEODROME_ROUNDS, GEODROME_MUTATIONS, GEODROME_SESSIONS, GEODROME_SEED say how much.
 */
const seed = number('GEODROME_SEED', 1)
// The parts are read when they are asked for: what they import is installed by then.
const PARTS = {
  kills: async () => (await import('./torture/killing.mjs')).killing(number('GEODROME_KILLS', 200), seed),
  starts: async () => (await import('./torture/starting.mjs')).starting(number('GEODROME_STARTS', 20), seed),
  browser: async () => (await import('./torture/browser.mjs')).browser(number('GEODROME_LOSSES', 100), seed),
  heavy: async () => (await import('./torture/heavy.mjs')).heavy(number('GEODROME_ROUNDS', 5), seed),
  random: () => {
    const mutations = number('GEODROME_MUTATIONS', 100_000)
    const sessions = number('GEODROME_SESSIONS', 20_000)
    say(
      `${mutations} mutations each of changes, plan files, lists, workbooks and holidays, ${sessions} sessions …`,
    )
    const tests = [
      'anyChange.property',
      'foreign.property',
      'readWorkbook',
      'holidayFiles',
      'planSession.model',
    ]
    const { status } = spawnSync('npx', ['vitest', 'run', ...tests, '--testTimeout', String(6 * 3_600_000)], {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, GEODROME_MUTATIONS: String(mutations), GEODROME_SESSIONS: String(sessions) },
    })
    if (status !== 0) throw new Stop('a random test failed; its seed is above')
  },
}

runMain(async () => {
  const named = process.argv.slice(2)
  const unknown = named.filter((name) => !(name in PARTS))
  if (unknown.length > 0) throw new Stop(`torture takes ${Object.keys(PARTS).join(', ')}, not ${unknown}`)
  checkNode()
  await installPackages()
  await buildAll()
  for (const [name, run] of Object.entries(PARTS)) if (named.length === 0 || named.includes(name)) await run()
  process.exit(0)
})
