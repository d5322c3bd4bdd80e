import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { startDatabase } from './database.mjs'
import { buildAll, checkNode, installPackages, ROOT } from './install.mjs'
import { claimFolder, serverProcess } from './processes.mjs'
import { runMain, say } from './say.mjs'

/** `npm start`: everything from a bare machine to the served application; Ctrl-C stops all of it. */
runMain(async () => {
  checkNode()
  await installPackages()
  await buildAll()
  const folder = process.env.GEODROME_DATA ?? join(ROOT, '.geodrome')
  const claim = await claimFolder(folder)
  say('Starting the database …')
  const database = await startDatabase(folder)
  const server = spawn(process.execPath, serverProcess.args, {
    env: {
      ...serverProcess.env,
      GEODROME_WEB: join(ROOT, 'web/dist'),
      GEODROME_DEMO: join(ROOT, 'demo'),
      GEODROME_LOG: 'warn',
      NODE_ENV: 'production',
      ...process.env,
      ...database.env,
    },
    stdio: ['ignore', 'inherit', 'inherit'],
    detached: true,
  })
  claim.server(server.pid)
  const stopServer = () => server.kill('SIGTERM')
  process.on('SIGINT', stopServer)
  process.on('SIGTERM', stopServer)
  process.on('SIGHUP', stopServer)
  const code = await new Promise((resolve) => server.on('exit', (exitCode) => resolve(exitCode ?? 1)))
  await database.stop()
  claim.end()
  process.exit(code)
})
