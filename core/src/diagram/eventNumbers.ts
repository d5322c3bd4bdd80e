import type { Change } from '../plan/change.ts'
import { positionsOf } from '../plan/positions.ts'
import type { KeptEvent, Plan } from '../plan/schema.ts'
import type { ArrowEvent, ArrowMap } from './arrowMap.ts'

/** An event's number, and its name where it has one. `kept` is the id in the plan, null where only the drawing knows the number. */
export interface EventLabel {
  readonly number: number
  readonly name: string
  readonly kept: string | null
}
/** What an event is known again by: the activities that end and begin there. */
export interface KnownEvent extends Readonly<Pick<KeptEvent, 'number' | 'name'>> {
  readonly id: string | null
  readonly ends: readonly string[]
  readonly begins: readonly string[]
}

/** Room between two numbers, so that events which come in between find one. */
const STEP = 10

/**
 * Numbers the events of a drawing so that they rise along every arrow, and every event that was known before keeps its number as long
 * as that is so. New ones take a number between their neighbours, a round one where there is room.
 * @param known - events of an earlier drawing or of the plan; where several meet in one event, the first counts
 * @returns a label for each event of `map.events`; numbers are unique
 */
export const numberEvents = (map: ArrowMap, known: readonly KnownEvent[]): EventLabel[] => {
  const met = meet(map.events, known)
  const before: number[][] = map.events.map(() => [])
  for (const { from, to } of map.arrows) before[to]!.push(from)
  const wanted = met.map((event) => event?.number ?? null)
  const ceiling = ceilings(map, wanted)
  const numbers: number[] = []
  const used = new Set<number>()
  for (const [e, own] of wanted.entries()) {
    const low = Math.max(0, ...before[e]!.map((b) => numbers[b]!))
    if (own !== null && own > low && !used.has(own)) numbers.push(own)
    else numbers.push(freeNumber(low, ceiling[e]!, (n) => used.has(n) || wanted.includes(n)))
    used.add(numbers[e]!)
  }
  return numbers.map((number, e) => ({ number, name: met[e]?.name ?? '', kept: met[e]?.id ?? null }))
}

/** The known event that each event is: the one it shares most of its activities with, each known event taken once. */
const meet = (events: readonly ArrowEvent[], known: readonly KnownEvent[]): (KnownEvent | null)[] => {
  const at = new Map<string, number>()
  events.forEach(({ ends, begins }, e) => {
    for (const id of ends) at.set(`f${id}`, e)
    for (const id of begins) at.set(`s${id}`, e)
  })
  const found: (KnownEvent | null)[] = events.map(() => null)
  for (const event of known) {
    const votes = new Map<number, number>()
    for (const key of [...event.ends.map((id) => `f${id}`), ...event.begins.map((id) => `s${id}`)]) {
      const e = at.get(key)
      if (e !== undefined) votes.set(e, (votes.get(e) ?? 0) + 1)
    }
    const best = [...votes].filter(([e]) => found[e] === null).sort((a, b) => b[1] - a[1] || a[0] - b[0])[0]
    if (best) found[best[0]] = event
  }
  return found
}

/** The lowest wanted number after each event: what comes in between stays below it where it can. */
const ceilings = ({ events, arrows }: ArrowMap, wanted: readonly (number | null)[]): number[] => {
  const ceiling = events.map(() => Infinity)
  for (const { from, to } of [...arrows].sort((a, b) => b.from - a.from))
    ceiling[from] = Math.min(ceiling[from]!, ceiling[to]!, wanted[to] ?? Infinity)
  return ceiling
}

const freeNumber = (low: number, high: number, isTaken: (n: number) => boolean): number => {
  let round = (Math.floor(low / STEP) + 1) * STEP
  while (round < high && isTaken(round)) round += STEP
  if (round < high) return round
  for (let n = Math.floor((low + high) / 2); n > low; n--) if (!isTaken(n)) return n
  let next = low + 1
  while (isTaken(next)) next++
  return next
}

/**
 * Keeps the numbers of a drawing in the plan, all of them, so that they are the same whenever it is drawn and for whoever draws it.
 * Events that were kept of activities that are gone are given up.
 * @param rename - a number and name that one of the events gets
 * @returns the change; null where the plan has them already
 */
export const keepEvents = (
  plan: Plan,
  map: ArrowMap,
  labels: readonly EventLabel[],
  fresh: () => string,
  rename: { readonly event: number; readonly number: number; readonly name: string } | null,
): Change | null => {
  const changes: Change[] = []
  for (const [e, label] of labels.entries()) {
    const { ends, begins } = map.events[e]!
    if (ends.length + begins.length === 0) continue
    const own = rename?.event === e ? rename : label
    const item = { number: own.number, name: own.name, ends: [...ends], begins: [...begins] }
    const old = label.kept === null ? undefined : plan.events.find((event) => event.id === label.kept)
    if (!old) changes.push({ kind: 'add', list: 'events', item: { id: fresh(), ...item }, before: null })
    else if (
      JSON.stringify([old.number, old.name, old.ends, old.begins]) !==
      JSON.stringify([item.number, item.name, ends, begins])
    )
      changes.push({ kind: 'set', list: 'events', key: old.id, set: item })
  }
  const living = positionsOf(plan.activities)
  for (const { id, ends, begins } of plan.events)
    if (![...ends, ...begins].some((activity) => living.has(activity)))
      changes.push({ kind: 'remove', list: 'events', key: id })
  return changes.length === 0 ? null : changes.length === 1 ? changes[0]! : { kind: 'all', changes }
}

/** What a number typed for an event must keep to. @returns why it cannot be, '' where it can */
export const whyNotNumber = (
  map: ArrowMap,
  labels: readonly EventLabel[],
  event: number,
  number: number,
): string => {
  const low = Math.max(0, ...map.arrows.filter((a) => a.to === event).map((a) => labels[a.from]!.number))
  const high = Math.min(
    1_000_001,
    ...map.arrows.filter((a) => a.from === event).map((a) => labels[a.to]!.number),
  )
  if (!Number.isInteger(number) || number <= low || number >= high)
    return `numbers rise along the arrows: ${high > 1_000_000 ? `write a whole number above ${low}` : high - low < 2 ? `there is none between ${low} and ${high}; give one of those another first` : `write a whole number above ${low} and below ${high}`}`
  const other = labels.findIndex((label, e) => e !== event && label.number === number)
  return other < 0 ? '' : `${number} is another event’s number`
}
