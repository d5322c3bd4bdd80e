import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { startDatabase } from './database.mjs'
import { checkNode, installPackages, ROOT } from './install.mjs'
import { runMain } from './say.mjs'

/** `npm run dev`: the server from source, and Vite with hot reload on port 4701. */
runMain(async () => {
  checkNode()
  await installPackages()
  const database = await startDatabase(process.env.GEODROME_DATA ?? join(ROOT, '.geodrome'))
  const start = (args, cwd) =>
    spawn(process.execPath, args, {
      cwd,
      stdio: 'inherit',
      env: { ...process.env, ...database.env, GEODROME_DEMO: join(ROOT, 'demo') },
    })
  const children = [
    start(['--conditions=development', '--import', 'tsx', join(ROOT, 'server/src/main.ts')], ROOT),
    start([join(ROOT, 'node_modules/vite/bin/vite.js'), '--port', '4701'], join(ROOT, 'web')),
  ]
  await Promise.race(children.map((child) => new Promise((resolve) => child.on('exit', resolve))))
  children.forEach((child) => child.kill('SIGTERM'))
  await database.stop()
})
