import { expect, it } from 'vitest'
import { fromEdge, linkTypeOf, toEdge } from './links.ts'

it.each([
  ['FS', 'finish', 'start'],
  ['SS', 'start', 'start'],
  ['FF', 'finish', 'finish'],
  ['SF', 'start', 'finish'],
] as const)(
  '%s counts from the %s of the predecessor and limits the %s of the successor',
  (type, from, to) => {
    expect([fromEdge(type), toEdge(type), linkTypeOf(from, to)]).toEqual([from, to, type])
  },
)
