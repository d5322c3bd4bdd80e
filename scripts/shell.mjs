import { spawn, spawnSync } from 'node:child_process'
import { Stop } from './say.mjs'

/** Whether a program can be found on the path. */
export const hasProgram = (name) =>
  spawnSync('sh', ['-c', `command -v ${name}`], { stdio: 'ignore' }).status === 0

/** Runs a program to its end, its output shown. @throws Stop with the sentence given if it fails */
export const runProgram = (program, args, { env = {}, cwd, failure, quiet = false } = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: quiet ? ['ignore', 'ignore', 'pipe'] : ['ignore', 'inherit', 'inherit'],
    })
    let errors = ''
    child.stderr?.on('data', (chunk) => (errors += chunk))
    child.on('error', (error) =>
      reject(new Stop(`${failure ?? `${program} could not be run`}: ${error.message}`)),
    )
    child.on('exit', (code) =>
      code === 0
        ? resolve()
        : reject(
            new Stop(
              `${failure ?? `${program} failed`}${errors ? `:\n${errors.trim().split('\n').slice(-8).join('\n')}` : ''}`,
            ),
          ),
    )
  })

let listsAreFresh = false

/** Installs Debian packages where the program they bring is missing. */
export const needDebian = async (program, packages, what) => {
  if (hasProgram(program)) return
  if (!hasProgram('apt-get'))
    throw new Stop(
      `${what} is not installed, and this machine has no apt-get to install it with; install ${packages.join(' ')} by hand`,
    )
  const isRoot = process.getuid?.() === 0
  if (!isRoot && !hasProgram('sudo'))
    throw new Stop(`${what} is not installed; run as root, or install ${packages.join(' ')} by hand`)
  const apt = (args) =>
    runProgram(isRoot ? 'apt-get' : 'sudo', isRoot ? args : ['apt-get', ...args], {
      env: { DEBIAN_FRONTEND: 'noninteractive' },
      quiet: true,
      failure: `${what} could not be installed`,
    })
  process.stdout.write(`Installing ${what} …\n`)
  if (!listsAreFresh) await apt(['update'])
  listsAreFresh = true
  await apt(['install', '-y', '--no-install-recommends', ...packages])
}
