import { expect, it } from 'vitest'
import { KeptTables } from './keptTables.ts'

const never = (): Promise<string> => Promise.reject(new Error('this is here'))

it('makes what is not here once for all who wait, and keeps the latest within its room', async () => {
  const dropped: string[] = []
  const tables = new KeptTables<string>((table) => dropped.push(table), 100)
  let made = 0
  const make = async (): Promise<string> => `made ${++made}`
  expect(await Promise.all([tables.get('a', 60, make), tables.get('a', 60, never)])).toEqual([
    'made 1',
    'made 1',
  ])
  tables.keep('b', 40, 'b')
  expect(await tables.get('a', 60, never)).toBe('made 1')
  // Beyond the room goes what was asked for longest ago.
  tables.keep('c', 40, 'c')
  expect(dropped).toEqual(['b'])
  expect(await tables.get('b', 40, make)).toBe('made 2')
  // One alone may be larger than the room.
  tables.keep('d', 500, 'd')
  expect(await tables.get('d', 500, never)).toBe('d')
  expect(dropped).toEqual(['b', 'made 1', 'c', 'made 2'])
  expect(await tables.get('c', 40, make)).toBe('made 3')
})

it('forgets what failed', async () => {
  const tables = new KeptTables<string>(() => undefined)
  await expect(tables.get('a', 1, () => Promise.reject(new Error('no')))).rejects.toThrow('no')
  expect(await tables.get('a', 1, async () => 'now')).toBe('now')
})

it('gives up what was asked for longest ago, not what is being computed, and says what is given up', async () => {
  const dropped: string[] = []
  const tables = new KeptTables<string>((table) => dropped.push(table))
  let compute = (_: string): void => undefined
  const slow = tables.get('slow', 7, () => new Promise<string>((resolve) => (compute = resolve)))
  tables.keep('a', 10, 'a')
  tables.keep('b', 20, 'b')
  await tables.get('a', 10, never)
  expect(tables.numbers).toBe(30)
  expect([tables.giveUp(), tables.giveUp(), tables.giveUp()]).toEqual([true, true, false])
  expect(dropped).toEqual(['b', 'a'])
  compute('slow')
  await slow
  expect([tables.numbers, tables.giveUp(), dropped.at(-1)]).toEqual([7, true, 'slow'])
})
