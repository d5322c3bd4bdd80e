import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange, parseJson, readPlan, writePlan, type Link } from '../plan/index.ts'
import { arrowMap, orderOf, type ArrowMap } from './arrowMap.ts'
import { arrowLayout } from './arrowLayout.ts'
import { foldedNetwork, withoutImpliedParts } from './foldedNetwork.ts'
import { keepEvents, numberEvents, whyNotNumber, type KnownEvent } from './eventNumbers.ts'
import { layeredLayout } from './layeredLayout.ts'
import { routedLayout } from './routedLayout.ts'

const links = (text: string): Link[] =>
  text
    .split(' ')
    .filter(Boolean)
    .map((pair, k) => {
      const [, from, to, type, lag] = /^(\w)>(\w)(?::(\w\w)(-?\d+)?)?$/.exec(pair)!
      return {
        id: String(k),
        from: from!,
        to: to!,
        type: (type ?? 'FS') as 'FS',
        lag: Number(lag ?? 0),
        lagOn: null,
        nature: 'hard',
        reason: '',
      }
    })
const dummies = (map: ArrowMap): number => map.arrows.filter((a) => a.kind === 'dummy').length
const drawn = (ids: string, text: string): ArrowMap => arrowMap([...ids], links(text))
/** Which activity waits for which by the links themselves. */
const orderByLinks = (ids: readonly string[], all: readonly Link[]): Set<string> => {
  const order = new Set(all.map((l) => `${l.from}<${l.to}`))
  for (let size = -1; size !== order.size;) {
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

  it('a lead says no order: what it leads to may come first, so the dummy beside it stays', () => {
    const order = (text: string): boolean =>
      orderOf({
        ...drawn('abc', text),
        arrows: drawn('abc', text).arrows.filter((a) => a.kind !== 'wait'),
      }).has('a<c')
    expect(order('a>c a>b:FF-60 b>c')).toBe(true)
    expect(dummies(drawn('abc', 'a>c a>b:FF-60 b>c'))).toBe(dummies(drawn('abc', 'a>c a>b:FF60 b>c')) + 1)
  })

  it('two links side by side with the same ends keep no dummy from going elsewhere', () => {
    // Both b and c begin at the first event, so that their links to the start of d run side by side.
    const map = drawn('bcde', 'b>d:SS c>d:SS b>e')
    expect(map.arrows.filter((a) => a.kind === 'wait')).toHaveLength(2)
    expect(dummies(map)).toBe(0)
  })

  const network = fc.integer({ min: 1, max: 9 }).chain((n) =>
    fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 16 }).map((pairs) => {
      const ids = [...'abcdefghi'].slice(0, n)
      return {
        ids,
        text: pairs
          .filter(([a, b]) => a < b)
          .map(([a, b]) => `${ids[a]}>${ids[b]}`)
          .join(' '),
      }
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
          const isOne =
            [...from].filter((e) => !to.has(e)).length === 1 &&
            [...to].filter((e) => !from.has(e)).length === 1
          return (
            isOne &&
            new Set(m.arrows.filter((a) => a.kind === 'work').map((a) => `${a.from}|${a.to}`)).size ===
              ids.length
          )
        }
        expect(isTold(map)).toBe(true)
        map.arrows.forEach((dummy, k) => {
          if (dummy.kind !== 'dummy') return
          const without = { ...map, arrows: map.arrows.toSpliced(k, 1) }
          const shrunk = {
            ...map,
            arrows: without.arrows.map((a) => ({
              ...a,
              from: a.from === dummy.to ? dummy.from : a.from,
              to: a.to === dummy.to ? dummy.from : a.to,
            })),
          }
          const canGo = [without, shrunk].some(
            (m) => isTold(m) && m.arrows.every((a) => a.from !== a.to) && same(orderOf(m), order),
          )
          expect(canGo, `${dummy.from}→${dummy.to} of ${text}`).toBe(false)
        })
      }),
      { numRuns: 400 },
    )
  })
  const same = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean =>
    a.size === b.size && [...a].every((x) => b.has(x))

  it('other links are arrows of their own', () => {
    const map = drawn('abcd', 'a>b:SS60 b>c c>d:FS480 a>d:FF')
    expect(
      map.arrows
        .filter((a) => a.kind === 'wait')
        .map((a) => a.link!)
        .sort(),
    ).toEqual(['0', '2', '3'])
  })
})

/** Which event comes before which. */
const eventOrder = (map: ArrowMap): Set<string> =>
  orderByLinks(
    map.events.map((_, e) => String(e)),
    map.arrows.map((a) => ({ from: String(a.from), to: String(a.to) })) as never,
  )

describe('folded groups', () => {
  const folded = fc.record({
    pairs: fc
      .array(fc.tuple(fc.nat(9), fc.nat(9), fc.constantFrom('FS', 'FS', 'FS', 'SS', 'FF', 'SF')), {
        maxLength: 20,
      })
      .map((all) => all.filter(([a, b]) => a < b)),
    unit: fc.array(fc.nat(5), { minLength: 10, maxLength: 10 }).map((raw) => {
      const seen = [...new Set(raw)]
      return raw.map((u) => seen.indexOf(u))
    }),
  })
  it('are before another exactly where all in them is, and what only part of them does makes no loop', () => {
    fc.assert(
      fc.property(folded, ({ pairs, unit }) => {
        const all = pairs.map(([from, to, type], k) => ({
          id: String(k),
          from,
          to,
          type: type as 'FS',
          lag: 0,
        }))
        const units = Math.max(...unit) + 1
        const ids = [...Array(units).keys()].map(String)
        const drawing = arrowMap(ids, foldedNetwork(10, unit, units, all))
        for (const { from, to } of drawing.arrows) expect(to).toBeGreaterThan(from)
        const names = [...Array(10).keys()].map(String)
        const plain = orderByLinks(
          names,
          all
            .filter((l) => l.type === 'FS')
            .map((l) => ({ ...l, from: String(l.from), to: String(l.to) })) as never,
        )
        const members = (u: string): string[] => names.filter((i) => unit[Number(i)] === Number(u))
        // Starts and finishes in time, by all links: what any arrow says must follow from it.
        const edge = (side: string, i: number): string => (side === 'S' ? `s${i}` : `f${i}`)
        const edges = names.flatMap((i) => [`s${i}`, `f${i}`])
        const inTime = orderByLinks(edges, [
          ...names.map((i) => ({ from: `s${i}`, to: `f${i}` })),
          ...all.map((l) => ({ from: edge(l.type[0]!, l.from), to: edge(l.type[1]!, l.to) })),
        ] as never)
        const isBeforeInTime = (u: string, v: string): boolean =>
          members(u).every((a) => members(v).every((b) => inTime.has(`f${a}<s${b}`)))
        const isBefore = (u: string, v: string): boolean =>
          u !== v && members(u).every((a) => members(v).every((b) => plain.has(`${a}<${b}`)))
        // All that is before another is drawn so, be it by way of other links; and nothing else by events and dummies alone.
        const said = orderOf(drawing)
        const whole = orderOf({ ...drawing, arrows: drawing.arrows.filter((a) => a.kind !== 'wait') })
        // What is left out of the drawing as said anyhow is said: as many ways lead on as before.
        const fewer = withoutImpliedParts(drawing)
        expect(fewer.map.arrows.length + fewer.leftOut).toBe(drawing.arrows.length)
        expect(eventOrder(fewer.map)).toEqual(eventOrder(drawing))
        for (const u of ids)
          for (const v of ids) {
            if (isBefore(u, v)) expect(said.has(`${u}<${v}`), `${u} before ${v}`).toBe(true)
            if (said.has(`${u}<${v}`)) expect(isBeforeInTime(u, v), `${u} before ${v} in time`).toBe(true)
            if (whole.has(`${u}<${v}`)) expect(isBefore(u, v), `${u} before ${v}`).toBe(true)
          }
      }),
      {
        examples: [
          [
            {
              pairs: [
                [1, 4, 'FS'],
                [4, 6, 'FS'],
                [5, 6, 'FS'],
              ],
              unit: [0, 1, 2, 0, 3, 3, 4, 0, 0, 0],
            },
          ],
          [
            {
              pairs: [
                [0, 1, 'SS'],
                [1, 3, 'FS'],
                [2, 3, 'FS'],
              ],
              unit: [0, 1, 1, 2, 3, 4, 5, 6, 7, 8],
            },
          ],
        ],
      },
    )
  })
  it('a lead of a part says no more order than the part has', () => {
    const leads = (lag: number, other: number): number[] =>
      foldedNetwork(3, [0, 1, 1], 2, [
        { id: 'a', from: 0, to: 1, type: 'FS', lag },
        { id: 'b', from: 0, to: 1, type: 'FF', lag: other },
      ]).map((l) => Math.sign(l.lag))
    expect([leads(-60, -30), leads(-60, 0), leads(60, -30)]).toEqual([[-1], [0], [0]])
  })
  it('what is drawn with nothing folded is the network itself', () => {
    const all = links('a>b b>c:SS60 a>c').map((l) => ({
      ...l,
      from: 'abc'.indexOf(l.from),
      to: 'abc'.indexOf(l.to),
    }))
    const drawing = arrowMap(['0', '1', '2'], foldedNetwork(3, [0, 1, 2], 3, all))
    expect(drawing.arrows.filter((a) => a.kind === 'wait').map((a) => a.link)).toEqual(['1'])
  })
})

describe('arrow layout', () => {
  it('runs from left to right along every arrow, and the words of no two arrows meet each other or an event', () => {
    const pairs = fc
      .array(fc.tuple(fc.nat(11), fc.nat(11)), { maxLength: 24 })
      .map((all) =>
        all.filter(([a, b]) => a < b).map(([a, b]) => `${'abcdefghijkl'[a]}>${'abcdefghijkl'[b]}`),
      )
    fc.assert(
      fc.property(pairs, (all) => {
        const map = drawn('abcdefghijkl', all.join(' '))
        const { events, ways, shafts } = arrowLayout(map)
        for (const [k, way] of ways.entries()) {
          for (let c = 1; c < way.length; c++) expect(way[c]![0]).toBeGreaterThan(way[c - 1]![0])
          expect(way[0]![0]).toBeGreaterThan(events[map.arrows[k]!.from]![0])
          expect(way.at(-1)![0]).toBeLessThan(events[map.arrows[k]!.to]![0])
        }
        const words = shafts.filter((at) => at !== null)
        words.forEach(([x, y], k) => {
          for (const [ox, oy] of words.slice(0, k))
            if (Math.abs(ox - x) < 140) expect(Math.abs(oy - y)).toBeGreaterThan(40)
          for (const [ex] of events) expect(Math.abs(ex - x)).toBeGreaterThan(90)
        })
      }),
    )
  })
})

describe('event numbers', () => {
  const pairs = fc
    .array(fc.tuple(fc.nat(8), fc.nat(8)), { maxLength: 14 })
    .map((all) => all.filter(([a, b]) => a < b).map(([a, b]) => `${'abcdefghi'[a]}>${'abcdefghi'[b]}`))
  const known = (map: ArrowMap, numbers: readonly number[]): KnownEvent[] =>
    map.events.map(({ ends, begins }, e) => ({ id: null, number: numbers[e]!, name: '', ends, begins }))
  it('rise along every arrow, are unique, and do not change where the drawing does not', () => {
    fc.assert(
      fc.property(pairs, pairs, (first, more) => {
        const before = drawn('abcdefghi', first.join(' '))
        const numbers = numberEvents(before, []).map((l) => l.number)
        expect(numberEvents(before, known(before, numbers)).map((l) => l.number)).toEqual(numbers)
        const after = drawn('abcdefghi', [...first, ...more].join(' '))
        const next = numberEvents(after, known(before, numbers)).map((l) => l.number)
        expect(new Set(next).size).toBe(next.length)
        for (const { from, to } of after.arrows) expect(next[to]!).toBeGreaterThan(next[from]!)
      }),
    )
  })
  it('an event that comes in between takes a number between; the others keep theirs', () => {
    const before = drawn('abc', 'a>b b>c')
    const numbers = numberEvents(before, []).map((l) => l.number)
    expect(numbers).toEqual([10, 20, 30, 40])
    const after = drawn('abcx', 'a>x x>b b>c')
    expect(numberEvents(after, known(before, numbers)).map((l) => l.number)).toEqual([10, 20, 25, 30, 40])
  })
  it('a name and number are kept with the plan, and a number that would not rise is refused', () => {
    const plan = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01' },
      activities: [...'abc'].map((id) => ({ id, duration: 60 })),
      links: [
        { from: 'a', to: 'b' },
        { from: 'b', to: 'c' },
      ],
    }).plan
    const map = arrowMap(['a', 'b', 'c'], plan.links)
    const labels = numberEvents(map, [])
    let k = 0
    const kept = applyChange(
      plan,
      keepEvents(plan, map, labels, () => `e${k++}`, { event: 1, number: 17, name: 'Hull dry' })!,
    ).plan
    const again = numberEvents(map, kept.events)
    expect(again.map((l) => `${l.number} ${l.name}`.trim())).toEqual(['10', '17 Hull dry', '30', '40'])
    expect(keepEvents(kept, map, again, () => 'x', null)).toBeNull()
    expect(readPlan(parseJson(writePlan(kept))).plan.events).toEqual(kept.events)
    // What ends or begins nowhere any more is given up with the next keeping.
    const gone = applyChange(kept, {
      kind: 'add',
      list: 'events',
      before: null,
      item: { id: 'old', number: 70, ends: ['z'], begins: [] },
    }).plan
    expect(keepEvents(gone, map, numberEvents(map, gone.events), () => 'x', null)).toEqual({
      kind: 'remove',
      list: 'events',
      key: 'old',
    })
    expect(whyNotNumber(map, again, 1, 30)).toMatch('above 10 and below 30')
    expect(whyNotNumber(map, again, 1, 29)).toBe('')
    expect(whyNotNumber(map, again, 3, 30)).toMatch('above 30')
  })
})

const edges = fc
  .integer({ min: 1, max: 30 })
  .chain((n) =>
    fc
      .array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 60 })
      .map((pairs) => ({ n, pairs: pairs.filter(([a, b]) => a < b) })),
  )

describe('layered layout', () => {
  it('runs left to right, and no two nodes of a layer come closer than their height', () => {
    fc.assert(
      fc.property(edges, ({ n, pairs }) => {
        const { layer, row } = layeredLayout(
          n,
          pairs.map(([a]) => a),
          pairs.map(([, b]) => b),
        )
        for (const [a, b] of pairs) expect(layer[a]!).toBeLessThan(layer[b]!)
        for (let i = 0; i < n; i++)
          for (let j = 0; j < i; j++)
            if (layer[i] === layer[j]) expect(Math.abs(row[i]! - row[j]!)).toBeGreaterThanOrEqual(1 - 1e-9)
      }),
    )
  })
  it('refuses a loop', () => expect(() => layeredLayout(2, [0, 1], [1, 0])).toThrow('loop'))
})

describe('routed layout', () => {
  it('a long edge passes every layer between its ends, beside all nodes of it', () => {
    fc.assert(
      fc.property(edges, ({ n, pairs }) => {
        const from = pairs.map(([a]) => a)
        const { layer, row, passes } = routedLayout(
          n,
          from,
          pairs.map(([, b]) => b),
        )
        for (const [k, [a, b]] of pairs.entries()) {
          expect(passes[k]).toHaveLength(layer[b]! - layer[a]! - 1)
          for (const [step, level] of passes[k]!.entries())
            for (let i = 0; i < n; i++)
              if (layer[i] === layer[a]! + 1 + step)
                // Half a node with half its gap, and half a place to pass.
                expect(Math.abs(row[i]! - level)).toBeGreaterThanOrEqual(0.65 - 1e-9)
        }
      }),
    )
  })
  it('edges of one source share their places until one of them arrives', () => {
    // a>b>c>d, a>c and a>d
    const { passes } = routedLayout(4, [0, 1, 2, 0, 0], [1, 2, 3, 2, 3])
    expect(passes.map((levels) => levels.length)).toEqual([0, 0, 0, 1, 2])
    expect(passes[4]![0]).toBe(passes[3]![0])
  })
  it('where more pass than can be laid out, the longest edges run straight and the rest still passes', () => {
    // A chain of 300, from each of which an edge leads to the last: 44,551 places.
    const n = 300
    const chain = Array.from({ length: n - 1 }, (_, i) => i)
    const from = [...chain, ...chain.slice(0, -1)]
    const to = [...chain.map((i) => i + 1), ...chain.slice(0, -1).map(() => n - 1)]
    const { passes, layer } = routedLayout(n, from, to)
    const places = passes.reduce((sum, levels) => sum + levels.length, 0)
    expect(places).toBeGreaterThan(0)
    expect(places).toBeLessThanOrEqual(20_000)
    const spans = from.map((a, k) => layer[to[k]!]! - layer[a]!)
    const longestRouted = Math.max(...spans.filter((_, k) => passes[k]!.length > 0))
    expect(spans.every((span, k) => span <= longestRouted === (passes[k]!.length === span - 1))).toBe(true)
  })
})
