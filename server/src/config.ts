/** Settings from the environment, read once at the start. */
export interface Config {
  readonly host: string
  readonly port: number
  /** Names under which it answers, beside localhost. */
  readonly hosts: readonly string[]
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
}

const port = (text: string | undefined, fallback: number): number => {
  const number = text === undefined ? fallback : Number(text)
  if (!Number.isInteger(number) || number < 0 || number > 65535)
    throw new RangeError(`"${text}" is not a port`)
  return number
}

export const configFrom = (env: Readonly<Record<string, string | undefined>>): Config => ({
  host: env.GEODROME_HOST ?? '127.0.0.1',
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
})
