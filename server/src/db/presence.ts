import { createConnection, type Connection } from 'mariadb'
import type { Logger } from 'pino'
import type { Config } from '../config.ts'
import { newId } from './planRows.ts'

const AGAIN_AFTER_MS = 500
/** A database that was just started again has no locks yet: so long its servers have to come back. */
const COME_BACK_S = 10
const LOCK = 'geodrome-'

/**
 * SQL: true of a row whose column `server` names a server that is no longer there; unknown ones are there.
 * A lock of the database ends with the connection that holds it, so a server that is killed is known to be gone at once.
 */
export const SERVER_IS_GONE = `(server IS NOT NULL AND IS_FREE_LOCK(CONCAT('${LOCK}', server)) = 1 AND
  (SELECT VARIABLE_VALUE + 0 FROM information_schema.GLOBAL_STATUS WHERE VARIABLE_NAME = 'UPTIME') > ${COME_BACK_S})`

/** Says in the database that this server is there, by a lock that it holds as long as it is. */
export class Presence {
  readonly server = newId()
  private readonly config: Config['database']
  private readonly log: Logger
  private connection: Connection | null = null
  private isOver = false

  private constructor(config: Config['database'], log: Logger) {
    this.config = config
    this.log = log
  }

  /** @throws if the database cannot be reached */
  static async begin(config: Config['database'], log: Logger): Promise<Presence> {
    const presence = new Presence(config, log)
    await presence.hold()
    return presence
  }

  async end(): Promise<void> {
    this.isOver = true
    await this.connection?.end().catch(() => undefined) // it is gone already, and the lock with it
  }

  private async hold(): Promise<void> {
    const { host, port, user, password } = this.config
    const connection = await createConnection({ host, port, user, password, connectTimeout: 10_000 })
    // Listened to before anything is asked: an error that nobody hears ends the server.
    connection.on('error', () => undefined)
    try {
      // A connection that says nothing is closed by the database after a while of its own.
      await connection.query('SET SESSION wait_timeout = 31536000')
      await connection.query('SELECT GET_LOCK(?, 0)', [LOCK + this.server])
    } catch (error) {
      connection.destroy()
      throw error
    }
    this.connection = connection
    connection.on('end', () => this.holdAgain())
    if (this.isOver) await connection.end()
  }

  private holdAgain(): void {
    this.connection = null
    if (this.isOver) return
    setTimeout(() => {
      this.hold().catch((error: unknown) => {
        this.log.debug({ err: error as Error }, 'the database is away')
        this.holdAgain()
      })
    }, AGAIN_AFTER_MS).unref()
  }
}
