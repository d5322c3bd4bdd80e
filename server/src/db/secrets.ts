import { createHash, randomBytes, scrypt, timingSafeEqual } from 'node:crypto'

/** What opens something is told once and kept as a digest: who reads the database opens nothing with it. */
export const digest = (token: string): string => createHash('sha256').update(token).digest('hex')
/** @param bytes - 16 cannot be guessed */
export const newToken = (bytes: number): string => randomBytes(bytes).toString('base64url')

/** Costs of scrypt: 32 MB and some 60 ms for each password that is tried. */
const COST = { log: 15, block: 8, parallel: 1 }
const HASH_BYTES = 32
const SALT_BYTES = 16
const MAX_MEMORY = 128 * 1024 * 1024

const hashed = (password: string, salt: Buffer, { log, block, parallel }: typeof COST): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    const cost = { N: 2 ** log, r: block, p: parallel, maxmem: MAX_MEMORY }
    // One word however it was typed: an é may be one letter or two.
    scrypt(password.normalize('NFKC'), salt, HASH_BYTES, cost, (error, key) =>
      error ? reject(error) : resolve(key),
    )
  })

/** What a password is held against later: scrypt with its costs and a salt of its own. */
export const keptPassword = async (password: string): Promise<string> => {
  const salt = randomBytes(SALT_BYTES)
  const key = await hashed(password, salt, COST)
  return [
    'scrypt',
    COST.log,
    COST.block,
    COST.parallel,
    salt.toString('base64'),
    key.toString('base64'),
  ].join('$')
}

/** What is tried where there is no password; made when it is first needed. */
let nobodys: Promise<string> | null = null

/** Whether a password is the one that was kept. Takes as long where there is none: nobody learns from it who has an account. */
export const isPassword = async (password: string, kept: string | null): Promise<boolean> => {
  const [, log, block, parallel, salt, key] = (
    kept ?? (await (nobodys ??= keptPassword(newToken(SALT_BYTES))))
  ).split('$')
  const cost = { log: Number(log), block: Number(block), parallel: Number(parallel) }
  const tried = await hashed(password, Buffer.from(salt!, 'base64'), cost)
  return timingSafeEqual(tried, Buffer.from(key!, 'base64')) && kept !== null
}
