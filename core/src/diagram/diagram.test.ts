import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Link } from '../plan/index.ts'
import { arrowMap, orderOf, type ArrowMap } from './arrowMap.ts'
import { layeredLayout } from './layeredLayout.ts'

const links = (text: string): Link[] =>
  text.split(' ').filter(Boolean).map((pair, k) => {
    const [, from, to, type, lag] = /^(\w)>(\w)(?::(\w\w)(\d+)?)?$/.exec(pair)!
    return { id: String(k), from: from!, to: to!, type: (type ?? 'FS') as 'FS', lag: Number(lag ?? 0), lagOn: null, nature: 'hard', reason: '' }
  })
const dummies = (map: ArrowMap): number => map.arrows.filter((a) => a.kind === 'dummy').length
const drawn = (ids: string, text: string): ArrowMap => arrowMap([...ids], links(text))
/** Which activity waits for which by the links themselves. */
const orderByLinks = (ids: readonly string[], all: readonly Link[]): Set<string> => {
  const order = new Set(all.map((l) => `${l.from}<${l.to}`))
  for (let size = -1; size !== order.size; ) {
    size = order.size
    for (const pair of [...order]) {
      const [a, b] = pair.split('<')
      for (const c of ids) if (order.has(`${b}<${c}`)) order.add(`${a}<${c}`)
    }
  }
  return order
}

describe('arrow map', () => {
  it.each([
    ['a chain needs none', 'abc', 'a>b b>c', 0],
    ['two before two, each pair told apart', 'abcd', 'a>c a>d b>c b>d', 2],
    ['two after two that begin apart need none', 'abcdef', 'a>c b>d c>e c>f d>e d>f', 1],
    ['two that begin and end alike need one, or they could not be told apart', 'ab', '', 1],
    ['one that waits for both, one for a alone', 'abcd', 'a>c a>d b>d', 1],
    ['two sets that share their middle need two', 'abcde', 'a>d b>d b>e c>e', 2],
    ['implied links count for nothing', 'abc', 'a>b b>c a>c', 0],
    ['a nested set is pulled through its part', 'abcdef', 'a>d b>d a>e b>e c>e d>f', 2],
  ])('%s', (_title, ids, text, least) => {
    const map = drawn(ids, text)
    expect(dummies(map)).toBe(least)
    expect(orderOf(map)).toEqual(orderByLinks([...ids], links(text)))
  })

  const network = fc.integer({ min: 1, max: 9 }).chain((n) =>
    fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 16 }).map((pairs) => {
      const ids = [...'abcdefghi'].slice(0, n)
      return { ids, text: pairs.filter(([a, b]) => a < b).map(([a, b]) => `${ids[a]}>${ids[b]}`).join(' ') }
    }),
  )
  it('says exactly what the network says, and has no dummy that could go', () => {
    fc.assert(
      fc.property(network, ({ ids, text }) => {
        const map = drawn(ids.join(''), text)
        const order = orderByLinks(ids, links(text))
        expect(orderOf(map)).toEqual(order)
        // Every activity has its own pair of events, and the drawing one beginning and one end.
        const isTold = (m: ArrowMap): boolean => {
          const at = (side: 'from' | 'to') => new Set(m.arrows.map((a) => a[side]))
          const [from, to] = [at('from'), at('to')]
          const isOne = [...from].filter((e) => !to.has(e)).length === 1 && [...to].filter((e) => !from.has(e)).length === 1
          return isOne && new Set(m.arrows.filter((a) => a.kind === 'work').map((a) => `${a.from}|${a.to}`)).size === ids.length
        }
        expect(isTold(map)).toBe(true)
        map.arrows.forEach((dummy, k) => {
          if (dummy.kind !== 'dummy') return
          const without = { ...map, arrows: map.arrows.toSpliced(k, 1) }
          const shrunk = { ...map, arrows: without.arrows.map((a) => ({ ...a, from: a.from === dummy.to ? dummy.from : a.from, to: a.to === dummy.to ? dummy.from : a.to })) }
          const canGo = [without, shrunk].some((m) => isTold(m) && m.arrows.every((a) => a.from !== a.to) && same(orderOf(m), order))
          expect(canGo, `${dummy.from}→${dummy.to} of ${text}`).toBe(false)
        })
      }),
      { numRuns: 400 },
    )
  })
  const same = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean => a.size === b.size && [...a].every((x) => b.has(x))

  it('numbers rise along every arrow; other links are arrows of their own', () => {
    const map = drawn('abcd', 'a>b:SS60 b>c c>d:FS480 a>d:FF')
    for (const arrow of map.arrows) expect(map.events[arrow.to]!.number).toBeGreaterThan(map.events[arrow.from]!.number)
    expect(map.arrows.filter((a) => a.kind === 'wait').map((a) => a.link).sort()).toEqual(['0', '2', '3'])
  })
})

describe('layered layout', () => {
  it('runs left to right, and no two nodes of a layer come closer than their height', () => {
    const edges = fc.integer({ min: 1, max: 30 }).chain((n) => fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 60 }).map((pairs) => ({ n, pairs: pairs.filter(([a, b]) => a < b) })))
    fc.assert(
      fc.property(edges, ({ n, pairs }) => {
        const { layer, row } = layeredLayout(n, pairs.map(([a]) => a), pairs.map(([, b]) => b))
        for (const [a, b] of pairs) expect(layer[a]!).toBeLessThan(layer[b]!)
        for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) if (layer[i] === layer[j]) expect(Math.abs(row[i]! - row[j]!)).toBeGreaterThanOrEqual(1 - 1e-9)
      }),
    )
  })
  it('refuses a loop', () => expect(() => layeredLayout(2, [0, 1], [1, 0])).toThrow('loop'))
})
