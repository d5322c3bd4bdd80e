import { isIPv4 } from 'node:net'
import { totalmem } from 'node:os'

/** Settings from the environment, read once at the start. */
export interface Config {
  readonly host: string
  readonly port: number
  /** Names under which it answers, beside localhost. */
  readonly hosts: readonly string[]
  /** Whether people sign in; else whoever is at this machine does everything. */
  readonly people: boolean
  /** Proxies in front of it whose word is taken for who asks and by which protocol. */
  readonly proxies: number
  readonly database: {
    readonly host: string
    readonly port: number
    readonly name: string
    readonly user: string
    readonly password: string
  }
  /** Folder of the built web application; null serves the API alone. */
  readonly webRoot: string | null
  /** Folder of plan files that are loaded into an empty database; null for none. */
  readonly demoRoot: string | null
  readonly logLevel: string
  /** What the server may take with all its threads; more of it lets more large work run beside each other. */
  readonly memoryMb: number
}

const LEAST_MB = 600
const USUAL_MB = 2000

/** A quarter of what the machine has, unless it is said. */
const memory = (text: string | undefined): number => {
  const usual = Math.max(LEAST_MB, Math.min(USUAL_MB, totalmem() / 4 / 1024 ** 2))
  const mb = text === undefined ? usual : Number(text)
  if (!(mb >= LEAST_MB))
    throw new RangeError(`GEODROME_MEMORY_MB: "${text}" is not a number from ${LEAST_MB} up`)
  return mb
}

const port = (text: string | undefined, fallback: number): number => {
  const number = text === undefined ? fallback : Number(text)
  if (!Number.isInteger(number) || number < 0 || number > 65535)
    throw new RangeError(`"${text}" is not a port`)
  return number
}

const proxies = (text: string): number => {
  const count = Number(text)
  if (Number.isInteger(count) && count >= 0 && count <= 9) return count
  throw new RangeError(`GEODROME_PROXIES is how many proxies stand in front, 0 to 9, not "${text}"`)
}

const LOOPBACK = '127.0.0.1'
const ON: Readonly<Record<string, boolean>> = { on: true, off: false }

/** Whether an address can be reached from this machine alone. */
const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || (isIPv4(host) && host.startsWith('127.'))

const people = (text: string, host: string): boolean => {
  const isOn = ON[text]
  if (isOn === undefined) throw new RangeError(`GEODROME_PEOPLE is on or off, not "${text}"`)
  if (isOn || isLoopback(host)) return isOn
  throw new RangeError(
    `at ${host} others could reach every plan: set GEODROME_PEOPLE=on, so that people sign in, or leave GEODROME_HOST out`,
  )
}

/** @throws RangeError with what is wrong and how to mend it */
export const configFrom = (env: Readonly<Record<string, string | undefined>>): Config => ({
  host: env.GEODROME_HOST ?? LOOPBACK,
  people: people(env.GEODROME_PEOPLE ?? 'off', env.GEODROME_HOST ?? LOOPBACK),
  proxies: proxies(env.GEODROME_PROXIES ?? '0'),
  port: port(env.GEODROME_PORT, 4700),
  hosts: (env.GEODROME_HOSTS ?? '').split(/[\s,]+/).filter(Boolean),
  database: {
    host: '127.0.0.1',
    port: port(env.GEODROME_DB_PORT, 3316),
    name: env.GEODROME_DB_NAME ?? 'geodrome',
    user: env.GEODROME_DB_USER ?? 'geodrome',
    password: env.GEODROME_DB_PASSWORD ?? '',
  },
  webRoot: env.GEODROME_WEB ?? null,
  demoRoot: env.GEODROME_DEMO ?? null,
  logLevel: env.GEODROME_LOG ?? 'info',
  memoryMb: memory(env.GEODROME_MEMORY_MB),
})
