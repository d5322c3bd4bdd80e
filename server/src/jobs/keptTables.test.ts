import { expect, it } from 'vitest'
import { KeptTables } from './keptTables.ts'

const never = (): Promise<string> => Promise.reject(new Error('this is here'))

it('makes what is not here once for all who wait, and keeps the latest within its room', async () => {
  const tables = new KeptTables<string>(100)
  let made = 0
  const make = async (): Promise<string> => `made ${++made}`
  expect(await Promise.all([tables.get('a', 60, make), tables.get('a', 60, never)])).toEqual([
    'made 1',
    'made 1',
  ])
  tables.keep('b', 40, Promise.resolve('b'))
  expect(await tables.get('a', 60, never)).toBe('made 1')
  // Beyond the room goes what was asked for longest ago.
  tables.keep('c', 40, Promise.resolve('c'))
  expect(await tables.get('b', 40, make)).toBe('made 2')
  // One alone may be larger than the room.
  tables.keep('d', 500, Promise.resolve('d'))
  expect(await tables.get('d', 500, never)).toBe('d')
  expect(await tables.get('c', 40, make)).toBe('made 3')
})

it('forgets what failed', async () => {
  const tables = new KeptTables<string>()
  await expect(tables.get('a', 1, () => Promise.reject(new Error('no')))).rejects.toThrow('no')
  expect(await tables.get('a', 1, async () => 'now')).toBe('now')
})
