import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { ROOT } from './install.mjs'
import { say, Stop } from './say.mjs'

export const isAlive = (pid) => {
  try {
    process.kill(pid, 0)
    // One that has ended and that nobody asked how is no longer alive.
    return !/^State:\s+Z/m.test(
      existsSync(`/proc/${pid}/status`) ? readFileSync(`/proc/${pid}/status`, 'utf8') : '',
    )
  } catch {
    return false
  }
}

/** What a process was started with; empty where there is no such process. A number may have been given to another since. */
export const commandLine = (pid) => {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8')
  } catch {
    return ''
  }
}

const SCRIPT = 'scripts/start.mjs'
const SERVER = 'server/dist/main.js'
const END_MS = 20_000

/**
 * How a server is started: so that what large work took is given back when it ends. Left alone, the allocator keeps what threads and
 * files of some MB took, and each thread lets its young objects grow; together some 200 MB under heavy work.
 */
export const serverProcess = {
  args: ['--max-semi-space-size=4', join(ROOT, SERVER)],
  env: { MALLOC_ARENA_MAX: '1', MALLOC_MMAP_THRESHOLD_: '262144', MALLOC_TRIM_THRESHOLD_: '131072' },
}

/**
 * One application a folder. Where another start script runs it, this one stops; a server whose start script was killed is ended.
 * @returns {Promise<{ server(pid: number): void, end(): void }>} to note the server that was started, and that all has ended
 */
export const claimFolder = async (folder) => {
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'running.json')
  const before = readNote(file)
  if (before.start !== process.pid && commandLine(before.start).includes(SCRIPT))
    throw new Stop(
      `Geodrome runs already on ${folder} (process ${before.start}); stop it there, or set GEODROME_DATA to another folder`,
    )
  if (commandLine(before.server).includes(SERVER)) {
    say('ending a server that was left running …')
    process.kill(before.server, 'SIGTERM')
    const until = Date.now() + END_MS
    while (isAlive(before.server) && Date.now() < until) await wait(50)
    if (isAlive(before.server)) process.kill(before.server, 'SIGKILL')
  }
  const note = (server) => writeFileSync(file, JSON.stringify({ start: process.pid, server }))
  note(0)
  return { server: note, end: () => rmSync(file, { force: true }) }
}

const readNote = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return { start: 0, server: 0 }
  }
}
