import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { say, Stop } from './say.mjs'
import { runProgram } from './shell.mjs'

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)))

export const checkNode = () => {
  const major = Number(process.versions.node.split('.')[0])
  if (major < 20) throw new Stop(`Geodrome needs Node 20 or newer; this is ${process.version}`)
}

/** Installs npm packages where the lock file is not the one they were installed from. */
export const installPackages = async () => {
  const stamp = join(ROOT, 'node_modules', '.geodrome-installed')
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  say('Installing packages …')
  await runProgram('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: ROOT,
    failure: 'the npm packages could not be installed',
  })
  writeFileSync(stamp, lock)
}

const SOURCES = ['core', 'print', 'cli', 'server', 'web']

const newest = (folder) => {
  let latest = 0
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (entry.name === 'node_modules' || entry.name === 'dist') continue
    const path = join(folder, entry.name)
    latest = Math.max(latest, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs)
  }
  return latest
}

/** Builds everything where a source is newer than the last build. */
export const buildAll = async () => {
  const stamp = join(ROOT, 'web', 'dist', '.built')
  const sources = Math.max(...SOURCES.map((folder) => newest(join(ROOT, folder))))
  if (existsSync(stamp) && statSync(stamp).mtimeMs > sources) return
  say('Building …')
  await runProgram('npm', ['run', '--silent', 'build'], { cwd: ROOT, failure: 'the build failed' })
  writeFileSync(stamp, new Date().toISOString())
}
