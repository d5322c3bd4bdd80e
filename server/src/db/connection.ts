import { Sequelize } from 'sequelize'
import type { Config } from '../config.ts'

export const connect = (
  config: Config['database'],
  log: ((sql: string) => void) | false = false,
): Sequelize =>
  new Sequelize(config.name, config.user, config.password, {
    host: config.host,
    port: config.port,
    dialect: 'mariadb',
    logging: log,
    pool: { max: 10, acquire: 10_000 },
    // a connection waits its turn in a busy server: the driver's own second is over before it is looked at
    dialectOptions: { charset: 'utf8mb4', connectTimeout: 10_000 },
    define: { timestamps: false, underscored: true },
  })
