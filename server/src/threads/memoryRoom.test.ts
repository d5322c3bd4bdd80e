import fc from 'fast-check'
import { expect, it } from 'vitest'
import { MemoryRoom, type GiveBack } from './memoryRoom.ts'

/** A room of so many megabytes for large work. */
const roomOf = (mb: number): MemoryRoom => new MemoryRoom(mb + new MemoryRoom(0).mb * -1)

it('lets in what fits, and the others in their order; a small one does not pass a large one', async () => {
  const room = roomOf(100)
  const order: string[] = []
  const first = room.take(80)!
  const large = room.wait(90).then((giveBack) => (order.push('large'), giveBack))
  const small = room.wait(10).then((giveBack) => (order.push('small'), giveBack))
  expect([room.take(1), room.free]).toEqual([null, 0])
  first()
  first()
  const done = await large
  expect(order[0]).toBe('large')
  ;(await small)()
  done()
  expect(order).toEqual(['large', 'small'])
  expect(room.free).toBe(100)
})

it('what is larger than all of it takes all of it; who waits too long is told so', async () => {
  const room = roomOf(100)
  const all = await room.wait(5_000)
  const next = room.wait(60, 20)
  const after = room.wait(10, 60_000)
  await expect(next).rejects.toThrow('the server has large work in hand and no memory for more; try again')
  expect(room.take(1)).toBe(null)
  all()
  ;(await after)()
  expect(room.free).toBe(100)
})

it('never gives more than there is, and all comes back', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 120 }), fc.boolean()), { maxLength: 40 }),
      async (asked) => {
        const room = roomOf(100)
        let [held, spare, most] = [0, 0, 0]
        const kept: GiveBack[] = []
        room.mayGiveUp(() => {
          const giveBack = kept.shift()
          giveBack?.()
          return giveBack !== undefined
        })
        await Promise.all(
          asked.map(async ([wanted, isKept]) => {
            const mb = Math.min(100, wanted)
            const giveBack = await room.wait(wanted)
            held += mb
            most = Math.max(most, held + spare)
            await Promise.resolve()
            held -= mb
            if (!isKept) return giveBack()
            spare += mb
            kept.push(() => {
              spare -= mb
              giveBack()
            })
            room.serve()
          }),
        )
        expect(most).toBeLessThanOrEqual(100)
        while (kept.length > 0) kept.shift()!()
        expect(room.free).toBe(100)
      },
    ),
  )
})
