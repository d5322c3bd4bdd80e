import { giveBack, KernelMemory, type Kernel, type Place } from '../kernel/kernel.ts'
import { countsFromStart, Kind, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import {
  CLOCK_ID,
  COLUMNS,
  lostDaysOf,
  tableOf,
  type Calendar,
  type CalendarTable,
  type LostDays,
} from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import { compileHammocks, hangHammock } from './hammocks.ts'

/** Iterations of a row. */
export const ROW = COLUMNS

/** Days that can be lost are found by their working counts, as many to a step as a power of two. */
const DAY_SHIFT = 9
/** Times that a network is laid out anew because its calendars had to grow, before it is left to the engine. */
const MOST_LAYOUTS = 20

export interface RowOptions {
  /** Activities, by position, that iterations may leave out. */
  readonly mayBeAbsent?: readonly number[]
  /** Until when days that calendars may lose are looked at to begin with. */
  readonly until?: Instant
  /** Whether the start of every activity is asked for. */
  readonly allStarts?: boolean
  /** Whether {@link KernelRows.finishesWith} will be asked. */
  readonly again?: boolean
  /** Whether {@link KernelRows.packedFinishes} will be asked. */
  readonly packs?: boolean
}

/**
 * Schedules rows of iterations of one network in the kernel (core/kernel, docs/decisions/0051): each column gives the dates that an engine's
 * run gives for its durations, to the minute.
 */
export class KernelRows {
  private readonly network: Network
  private readonly options: RowOptions
  private readonly calendars: readonly Calendar[]
  private readonly hammocks: ReturnType<typeof compileHammocks>
  private readonly startAsked: Uint8Array
  private known: Laid | null = null
  private layouts = 0
  private isStale = false

  private constructor(network: Network, options: RowOptions) {
    this.network = network
    this.options = options
    this.calendars = [...new Set([...network.calendar, ...network.linkCalendar])]
    this.hammocks = compileHammocks(network)
    this.startAsked = startAskedOf(network, this.hammocks)
    if (options.allStarts) this.startAsked.fill(1)
  }

  /** @returns null for what only the engine can: a plan scheduled backward, work placed late, calendars without a table */
  static of(network: Network, options: RowOptions = {}): KernelRows | null {
    if (network.isMirror || network.plan.project.direction === 'backward' || network.placedLate.includes(1))
      return null
    for (let i = 0; i < network.order.length; i++)
      if (network.kind[i] !== Kind.Hammock && network.startFloor[i] === NONE) return null
    const rows = new KernelRows(network, options)
    return rows.lay() ? rows : null
  }

  /**
   * Working minutes left by activity × {@link ROW} + column: those of the network until something else is written, and then kept. To be
   * asked for anew before each run; null where no kernel can be had any more.
   */
  get remaining(): Int32Array | null {
    return (this.isStale || !this.known) && !this.lay() ? null : this.laid.remaining
  }

  /** Dates of the last run by activity × {@link ROW} + column. A start is there only where a link, a hammock, a cut or the options ask for it. */
  get start(): Int32Array {
    return this.laid.start
  }
  get finish(): Int32Array {
    return this.laid.finish
  }
  /** Working counts at which the remaining work begins, like the dates. */
  get beginCount(): Int32Array {
    return this.laid.begin
  }
  /** Finishes of the project by column, of the last run or of {@link finishesWith}. */
  get projectFinish(): Int32Array {
    return this.laid.projectFinish
  }

  /**
   * Schedules the columns 0 … width − 1.
   * @param hold - makes the calendars of a column hold, where days are lost: lags of hammocks are counted on them
   * @returns whether it could: false where a calendar's table does not reach so far. Scheduled by the engine then, it grows
   */
  run(width: number, hold: (column: number) => void = () => {}): boolean {
    this.laid.copyLost()
    if (this.laid.kernel.functions.forward(width) === 0) {
      this.isStale = true
      return false
    }
    const { start, finish, projectFinish } = this.laid
    if (this.hammocks.length > 0)
      for (let column = 0; column < width; column++) {
        hold(column)
        for (const hammock of this.hammocks)
          hangHammock(hammock, start, finish, this.network.projectStart, projectFinish[column]!, ROW, column)
      }
    return true
  }

  /**
   * Where the project would finish, were some durations of the last run others: only what follows from them is scheduled again. What the
   * last run placed stays; {@link projectFinish} is filled.
   * @param changes - remaining minutes by column, of activities
   * @returns as {@link run}
   */
  finishesWith(
    width: number,
    changes: readonly { readonly activity: number; readonly remaining: Int32Array }[],
  ): boolean {
    const { dirty, rank, kernel, remaining } = this.laid
    const kept = changes.map(({ activity }) => remaining.slice(activity * ROW, activity * ROW + width))
    let first = this.network.order.length
    let last = -1
    for (const { activity, remaining: others } of changes) {
      remaining.set(others, activity * ROW)
      dirty[activity] = 1
      first = Math.min(first, rank[activity]!)
      last = Math.max(last, rank[activity]!)
    }
    const isDone = kernel.functions.forwardAgain(width, first, last) === 1
    changes.forEach(({ activity }, c) => remaining.set(kept[c]!, activity * ROW))
    if (!isDone) this.isStale = true
    return isDone
  }

  /** Counts each activity on the longest path of the columns of the last run. @param counts - by activity, counted up */
  countLongestPath(width: number, counts: Int32Array): void {
    const { onPath, kernel } = this.laid
    onPath.fill(0)
    kernel.functions.countLongestPath(width)
    for (let i = 0; i < counts.length; i++) counts[i]! += onPath[i]!
  }

  /**
   * Finishes of the last run, all of whose columns were asked for, as minutes from a base: the lower two bytes of each and the third, by
   * activity × {@link ROW} + column, and what is set in any of them, bit by bit. They hold until they are asked for again.
   * @param base - of the first activities, one each: of only those
   */
  packedFinishes(base: Int32Array): {
    readonly low: Uint16Array
    readonly high: Uint8Array
    readonly all: number
  } {
    const { packed, kernel } = this.laid
    packed.base.set(base)
    const all = kernel.functions.packFinishes(base.length)
    return {
      low: packed.low.subarray(0, base.length * ROW),
      high: packed.high.subarray(0, base.length * ROW),
      all,
    }
  }

  /** Gives its memory to others; there are no rows any more. */
  release(): void {
    if (this.known) giveBack(this.known.kernel)
    this.known = null
    this.layouts = MOST_LAYOUTS
  }

  private get laid(): Laid {
    return this.known!
  }

  private lay(): boolean {
    if (++this.layouts > MOST_LAYOUTS) return false
    if (this.known) giveBack(this.known.kernel)
    this.known = null
    const tables = this.calendars.map(tableOf)
    const laid = tables.includes(null)
      ? null
      : layOut(this.network, this.options, this.calendars, this.startAsked)
    if (!laid) return false
    this.known = laid
    this.isStale = false
    return true
  }
}

/** Views of the memory that the owner of the rows reads and writes. */
interface Laid {
  readonly kernel: Kernel
  readonly remaining: Int32Array
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly begin: Int32Array
  readonly projectFinish: Int32Array
  readonly onPath: Int32Array
  /** Of no length where nobody asks for them. */
  readonly packed: { readonly base: Int32Array; readonly low: Uint16Array; readonly high: Uint8Array }
  readonly dirty: Uint8Array
  readonly rank: Int32Array
  /** Copies the days that calendars have lost in the iterations to come. */
  readonly copyLost: () => void
}

/** 1 for activities whose start is asked for: by a link that counts from it, by a hammock, by a cut. */
const startAskedOf = (network: Network, hammocks: ReturnType<typeof compileHammocks>): Uint8Array => {
  const asked = new Uint8Array(network.order.length)
  network.linkFrom.forEach((from, k) => {
    if (countsFromStart(network.linkCode[k]!)) asked[from] = 1
  })
  for (const { links } of hammocks)
    for (const { from, isStartSide } of links) if (isStartSide) asked[from] = 1
  for (let i = 0; i < asked.length; i++)
    if (network.startCut[i] !== NONE || network.finishCut[i] !== NONE) asked[i] = 1
  return asked
}

/** Everything that the kernel needs of a network, in a memory of its own. */
const layOut = (
  network: Network,
  { mayBeAbsent = [], again = false, packs = false, until }: RowOptions,
  calendars: readonly Calendar[],
  startAsked: Uint8Array,
): Laid | null => {
  const n = network.order.length
  const memory = new KernelMemory()
  const rows = (name: string): Place<Int32Array> => memory.words(name, n * ROW)
  const plain = network.isPlain.slice()
  for (const i of mayBeAbsent) plain[i] = 0
  const ranks = new Int32Array(n)
  network.order.forEach((i, at) => (ranks[i] = at))
  const which = new Map(calendars.map((calendar, at) => [calendar, at]))
  const positions = (of: readonly Calendar[]): number[] => of.map((calendar) => which.get(calendar)!)

  memory.value('count', n)
  memory.value('follows', network.follows ? 1 : 0)
  memory.value('projectStart', network.projectStart)
  memory.words('order', n, network.order)
  memory.bytes('kind', n, network.kind)
  memory.bytes('state', n, network.state)
  memory.bytes('plain', n, plain)
  memory.bytes('startAsked', n, startAsked)
  memory.words('calendar', n, positions(network.calendar))
  for (const name of OF_ACTIVITIES) memory.words(name, n, network[name])
  for (const name of OF_LINKS) memory.words(name, network[name].length, network[name])
  memory.bytes('linkCode', network.linkCode.length, network.linkCode)
  memory.words('linkCalendar', network.linkCalendar.length, positions(network.linkCalendar))
  const rank = memory.words('rank', n, ranks)
  const onPath = memory.words('onPath', n)
  const remaining = rows('remainingRows')
  const start = rows('startRows')
  const finish = rows('finishRows')
  const begin = rows('beginRows')
  memory.bytes('onBits', (n * ROW) / 8)
  memory.words('latest', n)
  if (again) for (const name of ['otherStartRows', 'otherFinishRows', 'otherBeginRows']) rows(name)
  const packable = packs ? n : 0
  const packed = {
    base: memory.words('packedBase', packable),
    low: memory.halves('packedLow', packable * ROW),
    high: memory.bytes('packedHigh', packable * ROW),
  }
  const dirty = memory.bytes('dirty', n)
  memory.bytes('moved', n)
  const projectFinish = memory.words('projectFinishRow', ROW)
  for (const name of ['startLimitRow', 'finishLimitRow']) memory.words(name, ROW)
  const lost = layCalendars(memory, calendars, until ?? network.projectStart)

  const kernel = memory.open()
  if (!kernel) return null
  const laid: Laid = {
    kernel,
    remaining: remaining(kernel),
    start: start(kernel),
    finish: finish(kernel),
    begin: begin(kernel),
    projectFinish: projectFinish(kernel),
    onPath: onPath(kernel),
    packed: { base: packed.base(kernel), low: packed.low(kernel), high: packed.high(kernel) },
    dirty: dirty(kernel),
    rank: rank(kernel),
    copyLost: () => {
      for (const copy of lost) copy(kernel)
    },
  }
  for (let i = 0; i < n; i++) standAtFirst(laid, network, i)
  return laid
}

const OF_ACTIVITIES = [
  'actualStart',
  'startFloor',
  'finishFloor',
  'startPin',
  'finishPin',
  'startCut',
  'finishCut',
] as const
const OF_LINKS = ['inStart', 'linkFrom', 'linkTo', 'linkLag', 'outStart', 'outLink'] as const

/** Finished work stands where it stood, and no pass looks at it; hammocks stand nowhere until they are hung. */
const standAtFirst = ({ remaining, start, finish, begin }: Laid, network: Network, i: number): void => {
  const [from, to] = [i * ROW, (i + 1) * ROW]
  remaining.fill(network.remaining[i]!, from, to)
  if (network.state[i] === State.Finished) {
    const finished = network.actualFinish[i]!
    start.fill(network.actualStart[i]!, from, to)
    finish.fill(finished, from, to)
    begin.fill(network.calendar[i]!.countBefore(finished), from, to)
  } else if (network.kind[i] === Kind.Hammock)
    for (const row of [start, finish, begin]) row.fill(NONE, from, to)
}

/** The tables of the calendars. @returns what copies the days lost in the iterations to come */
const layCalendars = (
  memory: KernelMemory,
  calendars: readonly Calendar[],
  until: Instant,
): readonly ((kernel: Kernel) => void)[] => {
  const words: number[] = []
  const copies: ((kernel: Kernel) => void)[] = []
  for (const calendar of calendars) {
    const days = lostDaysOf(calendar)
    days?.reachUntil(until)
    const lost = days && layDays(memory, days)
    words.push(...layTable(memory, tableOf(calendar)!), ...(lost ? lost.words : NO_DAYS))
    if (lost) copies.push(lost.copy)
  }
  memory.words('tables', words.length, words)
  return copies
}

// In the order of core/kernel/calendar.ts.
const CLOCK = [1, 0, 0, 0, 0, 0, 0, 0, 0]
const NO_DAYS = [-1, 0, 0, 0, 0, 0, 0]

/** @returns the words that say where the table of a calendar lies */
const layTable = (memory: KernelMemory, table: CalendarTable | typeof CLOCK_ID): readonly number[] => {
  if (table === CLOCK_ID) return CLOCK
  const { start, end, before, firstOfSpan, firstOfBucket } = table
  const segments = new Int32Array(start.length * 4)
  for (let k = 0; k < start.length; k++) segments.set([start[k]!, end[k]!, before[k]!], k * 4)
  return [
    0,
    table.lowMinute,
    table.highMinute,
    table.lowCount,
    table.highCount,
    table.lowBucket,
    memory.words(null, segments.length, segments).at,
    memory.words(null, firstOfSpan.length, firstOfSpan).at,
    memory.words(null, firstOfBucket.length, firstOfBucket).at,
  ]
}

/** The days that a calendar can lose. @returns the words that say where they lie, and what copies those lost in the iterations drawn */
const layDays = (
  memory: KernelMemory,
  days: LostDays,
): { readonly words: readonly number[]; readonly copy: (kernel: Kernel) => void } => {
  const [begin, end] = [days.begin.slice(), days.end.slice()]
  const low = begin[0] ?? 0
  const guide: number[] = []
  for (let day = 0, from = low; from <= (begin.at(-1) ?? low); from += 1 << DAY_SHIFT) {
    while (day < begin.length && begin[day]! < from) day++
    guide.push(day)
  }
  const rows = memory.words(null, (begin.length + 1) * ROW)
  return {
    words: [
      begin.length,
      Math.min(days.knownTo, UNLIMITED),
      low,
      memory.words(null, begin.length, begin).at,
      memory.words(null, end.length, end).at,
      memory.words(null, guide.length, guide).at,
      rows.at,
    ],
    copy: (kernel) => rows(kernel).set(days.lostBefore().subarray(0, (begin.length + 1) * ROW)),
  }
}
