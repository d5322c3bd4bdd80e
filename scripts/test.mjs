import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, startDatabase } from './database.mjs'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { runMain, say } from './say.mjs'
import { needDebian } from './shell.mjs'

/** `npm test`: installs what it needs and runs everything; the last line is the sum of the runners' own results. */
const results = { passed: 0, failed: 0 }
const failures = []

const step = (title, program, args, env = {}) => {
  say(`\n— ${title}`)
  const began = Date.now()
  const { status } = spawnSync(program, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  })
  if (status !== 0) failures.push(title)
  say(`${title}: ${status === 0 ? 'good' : 'failed'}, ${((Date.now() - began) / 1000).toFixed(1)} s`)
  return status === 0
}

/** Takes the counts from a runner's report; a runner that left none has failed as a whole. */
const count = (file, read) => {
  if (!existsSync(file)) {
    results.failed += 1
    return
  }
  const { passed, failed } = read(JSON.parse(readFileSync(file, 'utf8')))
  results.passed += passed
  results.failed += failed
}

runMain(async () => {
  checkNode()
  await installPackages()
  await needDebian('chromium', ['chromium'], 'Chromium')
  await buildAll()
  step('types', 'npm', ['run', '--silent', 'typecheck'])
  step('lint', 'npm', ['run', '--silent', 'lint'])

  const folder = mkdtempSync(join(tmpdir(), 'geodrome-test-'))
  const database = await startDatabase(join(folder, 'database'), 'geodrome_e2e')
  try {
    const unit = join(folder, 'unit.json')
    step(
      'core, server, command line',
      'npx',
      ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`],
      database.env,
    )
    count(unit, (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + (r.numTotalTests === 0 ? 1 : 0),
    }))
    const browser = join(folder, 'browser.json')
    const port = await freePort()
    step('journeys in the browser', 'npm', ['run', '--silent', 'test', '-w', 'e2e'], {
      ...database.env,
      GEODROME_E2E_REPORT: browser,
      GEODROME_E2E_PORT: String(port),
    })
    count(browser, ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }))
  } finally {
    await database.stop()
    rmSync(folder, { recursive: true, force: true })
  }
  if (failures.length > 0) {
    say(`\nfailed: ${failures.join(', ')}`)
    // A failed step that counts no tests (types, lint) must not read as all passed.
    if (results.failed === 0) results.failed = failures.length
  }
  say(`\n${results.passed} passed, ${results.failed} failed`)
  process.exit(failures.length === 0 ? 0 : 1)
})
