import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, statfsSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir, userInfo } from 'node:os'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { commandLine, isAlive } from './processes.mjs'
import { say, Stop } from './say.mjs'
import { needDebian, runProgram } from './shell.mjs'

/** Before a database that died is started again. */
const RESTART_MS = 1000
const NEEDED_BYTES = 300 * 1024 * 1024
const PASSWORD = 'on-loopback-only'

/** A port that is free now on loopback. */
export const freePort = () =>
  new Promise((resolve, reject) => {
    const server = createServer()
    server.once('error', reject)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })

/**
 * Starts a MariaDB of our own on loopback with its data in `folder`, installed first where it is missing.
 * @returns {Promise<{ env: Record<string, string>, stop(): Promise<void> }>} settings for the server, and how to stop it
 */
export const startDatabase = async (folder, databaseName = 'geodrome') => {
  await needDebian('mariadbd', ['mariadb-server'], 'MariaDB')
  const data = join(folder, 'data')
  const pidFile = join(folder, 'mariadb.pid')
  // A socket's path may be about a hundred characters long: a deep folder would not do.
  const socket = join(tmpdir(), `geodrome-${process.pid}-${Math.random().toString(36).slice(2, 8)}.sock`)
  mkdirSync(folder, { recursive: true })
  await endLeftBehind(pidFile, data)
  const { bavail, bsize } = statfsSync(folder)
  if (bavail * bsize < NEEDED_BYTES)
    throw new Stop(`the disk that holds ${folder} is full: at least 300 MB must be free for the database`)

  const user = userInfo().username
  if (!existsSync(join(data, 'mysql'))) {
    // Made aside and then renamed: one that is killed on the way leaves nothing that looks like a database.
    const aside = join(folder, 'data-in-the-making')
    rmSync(aside, { recursive: true, force: true })
    await runProgram(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--user=${user}`,
        `--datadir=${aside}`,
        '--auth-root-authentication-method=socket',
        `--auth-root-socket-user=${user}`,
        '--skip-test-db',
      ],
      { quiet: true, failure: 'the database could not be set up' },
    )
    rmSync(data, { recursive: true, force: true })
    renameSync(aside, data)
  }
  const port = await freePort()
  const errorLog = join(folder, 'mariadb.err')
  const programArguments = [
    '--no-defaults',
    `--user=${user}`,
    `--datadir=${data}`,
    `--socket=${socket}`,
    `--pid-file=${pidFile}`,
    `--log-error=${errorLog}`,
    '--bind-address=127.0.0.1',
    `--port=${port}`,
    '--skip-name-resolve',
    '--skip-log-bin',
    '--character-set-server=utf8mb4',
    '--collation-server=utf8mb4_unicode_ci',
    '--innodb-buffer-pool-size=256M',
    '--max-allowed-packet=64M',
    '--innodb-flush-log-at-trx-commit=1',
  ]
  let child
  let exited = false
  let isUp = false
  let stopping = false
  const run = () => {
    exited = false
    // Its own process group: Ctrl-C reaches us first, and we stop it after the server.
    child = spawn('mariadbd', programArguments, { stdio: 'ignore', detached: true })
    child.on('exit', () => {
      exited = true
      // One that dies under us is started again with its data; the server waits and says so until it answers.
      if (!isUp || stopping) return
      say('the database has stopped; it is started again')
      setTimeout(() => !stopping && run(), RESTART_MS)
    })
  }
  run()
  const stop = async () => {
    stopping = true
    if (!exited) child.kill('SIGTERM')
    for (let i = 0; i < 300 && !exited; i++) await wait(50)
    rmSync(socket, { force: true })
  }
  for (let i = 0; !answers(socket, user); i++) {
    if (exited || i > 600) {
      await stop()
      throw new Stop(`the database did not start; its log ends:\n${tail(errorLog)}`)
    }
    await wait(50)
  }
  const sql = [
    `CREATE DATABASE IF NOT EXISTS \`${databaseName}\` CHARACTER SET utf8mb4`,
    `CREATE USER IF NOT EXISTS 'geodrome'@'127.0.0.1' IDENTIFIED BY '${PASSWORD}'`,
    "GRANT ALL ON `geodrome%`.* TO 'geodrome'@'127.0.0.1'",
  ].join(';')
  const made = spawnSync('mariadb', ['--no-defaults', `--socket=${socket}`, `-u${user}`, '-e', sql], {
    encoding: 'utf8',
  })
  if (made.status !== 0) {
    await stop()
    throw new Stop(`the database could not be prepared: ${made.stderr}`)
  }
  isUp = true
  return {
    env: {
      GEODROME_DB_PORT: String(port),
      GEODROME_DB_NAME: databaseName,
      GEODROME_DB_USER: 'geodrome',
      GEODROME_DB_PASSWORD: PASSWORD,
    },
    stop,
  }
}

/** How long a database may take to end in good order. */
const END_MS = 60_000

/** Ends a database of this folder that nobody looks after any more: whoever started it was killed. */
const endLeftBehind = async (pidFile, data) => {
  const pid = existsSync(pidFile) ? Number(readFileSync(pidFile, 'utf8').trim()) : 0
  if (pid > 0 && commandLine(pid).includes(`--datadir=${data}`)) {
    say('ending a database that was left running …')
    process.kill(pid, 'SIGTERM')
    const until = Date.now() + END_MS
    while (isAlive(pid) && Date.now() < until) await wait(50)
    if (isAlive(pid))
      throw new Stop(`the database in ${data} (process ${pid}) does not end; end it and start again`)
  }
  rmSync(pidFile, { force: true })
}

const answers = (socket, user) =>
  existsSync(socket) &&
  spawnSync('mariadb-admin', ['--no-defaults', `--socket=${socket}`, `-u${user}`, 'ping'], {
    stdio: 'ignore',
  }).status === 0

const tail = (file) =>
  existsSync(file) ? readFileSync(file, 'utf8').trim().split('\n').slice(-6).join('\n') : '(no log)'
