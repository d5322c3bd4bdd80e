import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { freePort, startDatabase } from '../database.mjs'
import { serverProcess } from '../processes.mjs'

/**
 * A database and several servers on it that can be killed: each is started again at once, as a supervisor would.
 * @param {{ servers: number, oldMb?: number, env?: Record<string, string> }} options - the heap that each server may have, and settings
 */
export const startApplication = async (folder, { servers, oldMb = 600, env = {} }) => {
  const database = await startDatabase(folder)
  const running = []
  let stopping = false
  const start = async (k) => {
    const port = running[k]?.port ?? (await freePort())
    const child = spawn(process.execPath, [`--max-old-space-size=${oldMb}`, ...serverProcess.args], {
      env: {
        ...serverProcess.env,
        ...process.env,
        ...env,
        ...database.env,
        GEODROME_PORT: String(port),
        GEODROME_LOG: 'fatal',
      },
      stdio: 'ignore',
    })
    running[k] = { port, child, address: `http://127.0.0.1:${port}/api` }
    child.on('exit', () => !stopping && setTimeout(() => !stopping && void start(k), 100))
  }
  for (let k = 0; k < servers; k++) await start(k)
  const application = {
    addresses: () => running.map(({ address }) => address),
    pid: (k) => running[k].child.pid,
    killServer: (k) => running[k].child.kill('SIGKILL'),
    killDatabase() {
      try {
        process.kill(Number(readFileSync(join(folder, 'mariadb.pid'), 'utf8')), 'SIGKILL')
      } catch {
        // It is being started again just now.
      }
    },
    /** Waits until all of it answers. */
    async healthy() {
      for (const { address } of running)
        for (let tries = 0; ; tries++) {
          const isHealthy = await fetch(`${address}/health`).then(
            (response) => response.ok,
            () => false,
          )
          if (isHealthy) break
          if (tries > 900) throw new Error('the application does not come up again')
          await wait(100)
        }
    },
    async stop() {
      stopping = true
      running.forEach(({ child }) => child.kill('SIGTERM'))
      await database.stop()
    },
  }
  await application.healthy()
  return application
}

export const random = (seed) => {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
}
