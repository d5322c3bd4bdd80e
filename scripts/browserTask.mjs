import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, startDatabase } from './database.mjs'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { runMain } from './say.mjs'
import { needDebian, runProgram } from './shell.mjs'

/** Runs a script of e2e/ in the browser, on the built application with the demo data and a database of its own. */
export const browserTask = (script, failure) =>
  runMain(async () => {
    checkNode()
    await installPackages()
    await needDebian('chromium', ['chromium'], 'Chromium')
    await buildAll()
    const folder = mkdtempSync(join(tmpdir(), 'geodrome-browser-'))
    const database = await startDatabase(folder, 'geodrome_e2e')
    try {
      await runProgram('npm', ['run', '--silent', script, '-w', 'e2e'], {
        cwd: ROOT,
        env: {
          ...database.env,
          GEODROME_E2E_PORT: String(await freePort()),
          GEODROME_DEMO: join(ROOT, 'demo'),
        },
        failure,
      })
    } finally {
      await database.stop()
      rmSync(folder, { recursive: true, force: true })
    }
  })
