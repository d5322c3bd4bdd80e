import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { freePort } from '../database.mjs'
import { ROOT } from '../install.mjs'
import { say, Stop } from '../say.mjs'
import { random } from './application.mjs'

const DEMO = readdirSync(join(ROOT, 'demo'))
  .map((file) => JSON.parse(readFileSync(join(ROOT, 'demo', file), 'utf8')).project.code)
  .sort()

/** A first start takes about so long; later ones half of it. */
const FIRST_MS = 9000
const LATER_MS = 4000
/** Within which a start after a kill serves. */
const SERVES_MS = 120_000

const start = (folder, port) =>
  spawn(process.execPath, [join(ROOT, 'scripts/start.mjs')], {
    env: { ...process.env, GEODROME_DATA: folder, GEODROME_PORT: String(port) },
    stdio: 'ignore',
  })
const kill = (pid) => {
  try {
    process.kill(pid, 'SIGKILL')
  } catch {
    // It is not there yet, or no longer.
  }
}
const numberIn = (file, of) => (existsSync(file) ? of(readFileSync(file, 'utf8')) : 0)

/** Kills the start script, and by chance the server and the database that it started. */
const killSome = (script, folder, roll) => {
  script.kill('SIGKILL')
  if (roll() < 0.5)
    kill(numberIn(join(folder, 'running.json'), (text) => JSON.parse(text).server) || 999_999_999)
  if (roll() < 0.5) kill(numberIn(join(folder, 'mariadb.pid'), Number) || 999_999_999)
}

const serves = async (port) => {
  const until = Date.now() + SERVES_MS
  for (;;) {
    const isHealthy = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (response) => response.ok,
      () => false,
    )
    if (isHealthy) return
    if (Date.now() > until) throw new Stop('after a kill the application does not come up again')
    await wait(100)
  }
}

/**
 * First starts and later ones that are killed at any moment, with or without what they had started; the next start must serve, with the
 * demo data once and what was kept before. @throws Stop if it does not
 */
export const starting = async (kills, seed) => {
  const roll = random(seed)
  const firsts = Math.ceil(kills / 2)
  let done = 0
  while (done < kills) {
    const folder = mkdtempSync(join(tmpdir(), 'geodrome-starting-'))
    const port = await freePort()
    // The first start of a folder, killed on the way; then it serves.
    const isFirst = done < firsts
    for (let k = 0; k < (isFirst ? 1 : kills - firsts); k++) {
      const script = start(folder, port)
      await wait(roll() * (isFirst ? FIRST_MS : LATER_MS))
      killSome(script, folder, roll)
      done++
      const again = start(folder, port)
      await serves(port)
      const plans = await (await fetch(`http://127.0.0.1:${port}/api/plans`)).json()
      const codes = plans.map(({ code }) => code).sort()
      if (String(codes) !== String(DEMO)) throw new Stop(`after kill ${done} the demo is ${codes}`)
      again.kill('SIGTERM')
      await new Promise((resolve) => again.on('exit', resolve))
    }
    rmSync(folder, { recursive: true, force: true })
  }
  say(
    `${kills} kills of starts, ${firsts} of them first ones: each next start served, with the demo data once`,
  )
}
