import { instantOf, type AgreedChain, type Plan } from '@geodrome/core'

/** Dates of something on the drawing, as instants. */
export interface Span {
  readonly start: number
  readonly finish: number
}
/** Work of the chain, or a course that feeds it. */
export interface ChainRow {
  readonly key: string
  readonly activities: readonly string[]
  readonly isFeeding: boolean
  /** The buffer behind it; null in the middle of the chain. */
  readonly buffer: string | null
}
/** A buffer as it is drawn. */
export interface DrawnBuffer extends Span {
  readonly id: string
  readonly kind: 'project' | 'feeding' | 'milestone'
  /** Days of the buffers' calendar. */
  readonly days: number
  readonly after: readonly string[]
  readonly before: readonly string[]
}

/** The chain to be drawn. */
export interface DrawnChain {
  readonly chain: readonly string[]
  readonly dates: ReadonlyMap<string, Span>
  readonly buffers: readonly DrawnBuffer[]
  readonly handovers: AgreedChain['handovers']
  readonly rows: readonly ChainRow[]
  readonly promised: number
}

const spanOf = (start: string, finish: string): Span => ({
  start: instantOf(start, 'start'),
  finish: instantOf(finish, 'finish'),
})

/** Feeding courses stand above the work of the chain that they join; buffers of the project last. */
const rowsOf = (
  chain: readonly string[],
  buffers: readonly DrawnBuffer[],
  courseOf: (buffer: DrawnBuffer) => readonly string[],
): ChainRow[] => {
  const rows: ChainRow[] = []
  for (const id of chain) {
    for (const buffer of buffers)
      if (buffer.kind === 'feeding' && buffer.before[0] === id)
        rows.push({ key: buffer.id, activities: courseOf(buffer), isFeeding: true, buffer: buffer.id })
    rows.push({ key: id, activities: [id], isFeeding: false, buffer: null })
  }
  for (const buffer of buffers)
    if (buffer.kind !== 'feeding')
      rows.push({ key: buffer.id, activities: [], isFeeding: false, buffer: buffer.id })
  return rows
}

/** @param agreed - or what would be @param dayMinutes - of the buffers' calendar */
export const chainDrawing = (plan: Plan, agreed: AgreedChain, dayMinutes: number): DrawnChain => {
  const there = new Set(plan.activities.map(({ id }) => id))
  const chain = agreed.chain.filter((id) => there.has(id))
  const buffers = agreed.buffers.map(({ id, kind, minutes, start, finish, after, before }) => ({
    id,
    kind,
    days: minutes / dayMinutes,
    after,
    before,
    ...spanOf(start, finish),
  }))
  const courses = new Map(
    agreed.buffers.map(({ id, course }) => [id, course.filter((one) => there.has(one))]),
  )
  const dates = new Map(
    Object.entries(agreed.activities).map(([id, [start, finish]]) => [id, spanOf(start, finish)]),
  )
  return {
    chain,
    dates,
    buffers,
    handovers: agreed.handovers.filter(({ from, to }) => there.has(from) && there.has(to)),
    rows: rowsOf(chain, buffers, ({ id }) => courses.get(id) ?? []),
    promised: Math.max(
      ...buffers.filter(({ kind }) => kind === 'project').map(({ finish }) => finish),
      ...chain.map((id) => dates.get(id)?.finish ?? -Infinity),
    ),
  }
}
