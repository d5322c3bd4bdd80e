import { spawnSync } from 'node:child_process'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { runMain, say, Stop } from './say.mjs'
import { killing } from './torture/killing.mjs'

const number = (name, fallback) => Number(process.env[name] ?? fallback)

/**
 * `npm run torture`: ten people edit one plan over two servers while servers and database are killed at random; then what was
 * acknowledged is held against what is stored. And the random tests of changes, sessions and networks in large numbers.
 * GEODROME_KILLS, GEODROME_MUTATIONS, GEODROME_SESSIONS, GEODROME_SEED say how much.
 */
runMain(async () => {
  checkNode()
  await installPackages()
  await buildAll()
  await killing(number('GEODROME_KILLS', 200), number('GEODROME_SEED', 1))
  const mutations = number('GEODROME_MUTATIONS', 100_000)
  const sessions = number('GEODROME_SESSIONS', 20_000)
  say(`${mutations} mutated changes, ${sessions} sessions of three clients …`)
  const { status } = spawnSync(
    'npx',
    [
      'vitest',
      'run',
      'anyChange.property',
      'foreign.property',
      'holidayFiles',
      'planSession.model',
      '--testTimeout',
      String(6 * 3_600_000),
    ],
    {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, GEODROME_MUTATIONS: String(mutations), GEODROME_SESSIONS: String(sessions) },
    },
  )
  if (status !== 0) throw new Stop('a random test failed; its seed is above')
  process.exit(0)
})
