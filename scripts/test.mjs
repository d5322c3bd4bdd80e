import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, startDatabase } from './database.mjs'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { runMain, say, Stop } from './say.mjs'
import { needDebian } from './shell.mjs'

/**
 * `npm test` installs what it needs and runs everything; `npm test -- unit server` runs the parts named.
 * The last line is the sum of the runners' own results.
 */
const results = { passed: 0, failed: 0 }
const failures = []
/** The tests that failed, each with the first line of why: they stand at the end, where they are looked for. */
const fallen = []

const step = (title, program, args, env = {}) => {
  say(`\n— ${title}`)
  const began = Date.now()
  const { status } = spawnSync(program, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  })
  ended(title, status, began)
}
const ended = (title, status, began) => {
  if (status !== 0) failures.push(title)
  say(`${title}: ${status === 0 ? 'good' : 'failed'}, ${((Date.now() - began) / 1000).toFixed(1)} s`)
}
/** A script of the repository beside others: what it says stands together, once it has ended. */
const script = (title, name) =>
  new Promise((resolve) => {
    const began = Date.now()
    const child = spawn('npm', ['run', '--silent', name], { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] })
    const said = []
    child.stdout.on('data', (text) => said.push(text))
    child.stderr.on('data', (text) => said.push(text))
    child.on('error', (error) => said.push(Buffer.from(`${error.message}\n`)))
    child.on('close', (status) => {
      say(`\n— ${title}`)
      process.stdout.write(Buffer.concat(said))
      ended(title, status, began)
      resolve()
    })
  })

/** Takes the counts from a runner's report; a runner that left none, or ran nothing, has failed as a whole. */
const count = (file, read) => {
  const nothing = { passed: 0, failed: 1, names: [] }
  const { passed, failed, names } = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : nothing
  fallen.push(...names)
  results.passed += passed
  results.failed += passed + failed === 0 ? 1 : failed
}
const firstLine = (text) => (text ?? '').split('\n').find((line) => line.trim() !== '') ?? ''
const fallenIn = ({ testResults }) =>
  testResults.flatMap(({ assertionResults, message, status }) => {
    const named = assertionResults
      .filter((one) => one.status === 'failed')
      .map((one) => `${one.fullName}: ${firstLine(one.failureMessages[0])}`)
    return named.length === 0 && status === 'failed' ? [firstLine(message)] : named
  })
const specsIn = ({ suites = [], specs = [] }) => [...suites.flatMap(specsIn), ...specs]
const specName = (spec) => `${spec.file}: ${spec.title}`
const vitest = (title, folders, report, env) => {
  const outputs = ['--reporter=default', '--reporter=json', `--outputFile.json=${report}`]
  step(title, 'npx', ['vitest', 'run', ...outputs, ...folders], env)
  count(report, (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests, names: fallenIn(r) }))
}

/** What `npm test` is made of; each part runs alone. */
const PARTS = {
  /** Format, types, lint, imports, unused code, subjects of commits: two at a time, as each keeps one core busy. */
  check: async () => {
    const oneByOne = async (scripts) => {
      for (const [title, name] of scripts) await script(title, name)
    }
    await Promise.all([
      oneByOne([
        ['types', 'typecheck'],
        ['imports', 'imports'],
        ['unused', 'unused'],
      ]),
      oneByOne([
        ['format', 'format:check'],
        ['lint', 'lint'],
        ['commits', 'commits'],
      ]),
    ])
  },
  /** Core, printing, command line, stores and workers. */
  unit: ({ folder }) => vitest('unit', ['core/', 'print/', 'cli/', 'web/'], join(folder, 'unit.json')),
  /** The server on a real database. */
  server: async ({ folder, database }) => {
    vitest('server', ['server/'], join(folder, 'server.json'), (await database()).env)
    step('kills of servers and database', process.execPath, ['scripts/torture/short.mjs'])
  },
  /** A practitioner's tasks in the browser. */
  browser: async ({ folder, database }) => {
    await needDebian('chromium', ['chromium'], 'Chromium')
    const report = join(folder, 'browser.json')
    step('browser', 'npm', ['run', '--silent', 'test', '-w', 'e2e'], {
      ...(await database()).env,
      GEODROME_E2E_REPORT: report,
      GEODROME_E2E_PORT: String(await freePort()),
    })
    count(report, ({ stats, suites }) => {
      const specs = specsIn({ suites })
      const again = specs.filter((spec) => spec.tests.some((one) => one.status === 'flaky'))
      for (const spec of again) say(`passed only when tried again: ${specName(spec)}`)
      return {
        passed: stats.expected + stats.flaky,
        failed: stats.unexpected,
        names: specs.filter((spec) => !spec.ok).map(specName),
      }
    })
  },
}

runMain(async () => {
  checkNode()
  const asked = process.argv.slice(2)
  const unknown = asked.find((name) => !(name in PARTS))
  if (unknown !== undefined)
    throw new Stop(`there is no part "${unknown}"; the parts are ${Object.keys(PARTS).join(', ')}`)
  await installPackages()
  await buildAll()
  const folder = mkdtempSync(join(tmpdir(), 'geodrome-test-'))
  let started
  const database = () => (started ??= startDatabase(join(folder, 'database'), 'geodrome_e2e'))
  try {
    for (const name of asked.length > 0 ? asked : Object.keys(PARTS)) await PARTS[name]({ folder, database })
  } finally {
    await (await started)?.stop()
    rmSync(folder, { recursive: true, force: true })
  }
  if (failures.length > 0) {
    for (const name of fallen) say(`✗ ${name}`)
    say(`\nfailed: ${failures.join(', ')}`)
    // A failed step that counts no tests (types, lint) must not read as all passed.
    if (results.failed === 0) results.failed = failures.length
  }
  say(`\n${results.passed} passed, ${results.failed} failed`)
  process.exit(failures.length === 0 && results.failed === 0 ? 0 : 1)
})
