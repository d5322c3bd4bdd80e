import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, startDatabase } from './database.mjs'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { runMain } from './say.mjs'
import { needDebian, runProgram } from './shell.mjs'

/** `npm run screenshots`: makes docs/screenshots anew from the demo data. */
runMain(async () => {
  checkNode()
  await installPackages()
  await needDebian('chromium', ['chromium'], 'Chromium')
  await buildAll()
  const folder = mkdtempSync(join(tmpdir(), 'geodrome-pictures-'))
  const database = await startDatabase(folder, 'geodrome_e2e')
  try {
    await runProgram('npm', ['run', '--silent', 'screenshots', '-w', 'e2e'], {
      cwd: ROOT,
      env: { ...database.env, GEODROME_E2E_PORT: String(await freePort()), GEODROME_DEMO: join(ROOT, 'demo') },
      failure: 'the pictures could not be made',
    })
  } finally {
    await database.stop()
    rmSync(folder, { recursive: true, force: true })
  }
})
