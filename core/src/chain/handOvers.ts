import type { PlacedFromFinish } from '../cost/level/level.ts'
import { countsFromStart, limitsFinish, type Network } from '../network/network.ts'

/** A unit of a resource that passes from one activity to the other; positions. */
export interface HandOver {
  readonly resource: string
  readonly from: number
  readonly to: number
}

/** Who gets something from whom: takers by giver, positions. */
export type HandOversByGiver = Map<number, number[]>
export const addHandOver = (byGiver: HandOversByGiver, { from, to }: HandOver): void => {
  const takers = byGiver.get(from)
  if (takers) takers.push(to)
  else byGiver.set(from, [to])
}

/** Sums of fractions: what is less is nothing. */
const GRAIN = 1e-6

/**
 * Who hands what to whom (semantics2.md section 16, step 2): in the order of starts, each activity takes its units from those that finished
 * latest. Where a path of links already guarantees that one finishes before the other starts, nothing is added.
 */
export const handOversOf = (placed: PlacedFromFinish): HandOver[] => {
  const { network } = placed.joint
  const idOf = (i: number): string => network.activities[i]!.id
  const found: HandOver[] = []
  const byGiver: HandOversByGiver = new Map()
  for (const { resource, most, by } of placed.needs) {
    const inOrder = [...by].sort(
      (a, b) =>
        placed.start[a.activity]! - placed.start[b.activity]! ||
        (idOf(a.activity) < idOf(b.activity) ? -1 : 1),
    )
    /** Units that are free, and who had them; those that nobody had come last. */
    const free: { from: number | null; at: number; amount: number }[] = [
      { from: null, at: -Infinity, amount: most },
    ]
    for (const { activity, amount } of inOrder) {
      let needed = amount
      const givers = free
        .filter(({ at, amount: left }) => left > GRAIN && at <= placed.start[activity]!)
        .sort(
          (a, b) =>
            b.at - a.at || (a.from === null || b.from === null ? 0 : idOf(a.from) < idOf(b.from) ? -1 : 1),
        )
      for (const giver of givers) {
        if (needed <= GRAIN) break
        const taken = Math.min(needed, giver.amount)
        giver.amount -= taken
        needed -= taken
        if (
          giver.from !== null &&
          !isGuaranteed(network, giver.from, activity) &&
          !leadsTo(network, byGiver, activity, giver.from)
        ) {
          const handOver = { resource: resource.id, from: giver.from, to: activity }
          found.push(handOver)
          addHandOver(byGiver, handOver)
        }
      }
      free.push({ from: activity, at: placed.finish[activity]!, amount: amount - needed })
    }
  }
  return found
}

/**
 * Whether links and hand-overs lead from one activity to the other, by whatever ends: a hand-over the other way would close a loop. So it is
 * where one may finish as soon as the other starts (SF), and they pass the unit to each other by their links.
 */
export const leadsTo = (network: Network, handOvers: HandOversByGiver, from: number, to: number): boolean => {
  const seen = new Set([from])
  const stack = [from]
  while (stack.length > 0) {
    const i = stack.pop()!
    if (i === to) return true
    const next = [...(handOvers.get(i) ?? [])]
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++)
      next.push(network.linkTo[network.outLink[o]!]!)
    for (const one of next)
      if (!seen.has(one)) {
        seen.add(one)
        stack.push(one)
      }
  }
  return false
}

/** Whether a path of links without leads makes one activity start only after the other has finished. */
const isGuaranteed = (network: Network, from: number, to: number): boolean => {
  const start = (i: number): number => 2 * i
  const finish = (i: number): number => 2 * i + 1
  const seen = new Set([finish(from)])
  const stack = [finish(from)]
  const reach = (node: number): void => {
    if (seen.has(node)) return
    seen.add(node)
    stack.push(node)
  }
  while (stack.length > 0) {
    const node = stack.pop()!
    if (node === start(to)) return true
    const i = node >> 1
    const isStart = (node & 1) === 0
    if (isStart) reach(finish(i))
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
      const k = network.outLink[o]!
      const code = network.linkCode[k]!
      if (countsFromStart(code) !== isStart || network.linkLag[k]! < 0) continue
      const next = network.linkTo[k]!
      reach(limitsFinish(code) ? finish(next) : start(next))
    }
  }
  return false
}
