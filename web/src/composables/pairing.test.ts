import fc from 'fast-check'
import { expect, it } from 'vitest'
import { pairFinishes } from './pairing.ts'

const base64 = (values: number[]): string => Buffer.from(Int32Array.from(values).buffer).toString('base64')

it('paired runs are counted iteration by iteration', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 0, max: 50 })), {
        minLength: 1,
        maxLength: 200,
      }),
      (pairs) => {
        const counted = pairFinishes(base64(pairs.map(([a]) => a)), base64(pairs.map(([, b]) => b)))
        expect(counted).toEqual({
          pairs: pairs.length,
          earlier: pairs.filter(([a, b]) => b < a).length,
          equal: pairs.filter(([a, b]) => a === b).length,
        })
      },
    ),
  )
})
