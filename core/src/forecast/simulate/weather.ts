import { dayRules, type CalendarRule } from '../../time/workingDays.ts'
import {
  civilDate,
  formatInstant,
  MINUTES_PER_DAY,
  type Instant,
  type WorkMinutes,
} from '../../time/instant.ts'
import {
  CalendarError,
  CLOCK_ID,
  COLUMNS,
  tableOf,
  type LosingCalendar,
  type LostDays,
  type Span,
  type SpannedCalendar,
  type Spot,
} from '../../time/calendar.ts'
import { PlanCalendars } from '../../time/planCalendars.ts'
import type { Plan, Weather } from '../../plan/schema.ts'
import { drawKey, stream, type Sampling, type Stream } from '../random/draws.ts'

/** How draws are made. */
export interface Drawing {
  readonly seed: number
  readonly sampling: Sampling
  /** Iterations of a stratified batch. */
  readonly batch: number
}

/** The iterations whose weather is drawn, and which of them holds: one for all calendars of a model. */
interface Clock {
  first: number
  width: number
  /** Of those drawn; −1 is the plan without weather. */
  column: number
  /** Counts up with each drawing. */
  drawing: number
}

/** By month, 1 to 12, the chance that a working day of a calendar is lost; index 0 stands for no month. */
interface Chances {
  readonly calendar: string
  readonly byMonth: readonly number[]
}

/** Several weathers of one calendar take a day independently of each other. */
const chancesOf = (weather: readonly Weather[]): ReadonlyMap<string, Chances> => {
  const kept = new Map<string, number[]>()
  for (const { calendar, months } of weather) {
    const keeps = kept.get(calendar) ?? new Array<number>(13).fill(1)
    for (const [month, chance] of Object.entries(months)) keeps[Number(month)]! *= 1 - chance
    kept.set(calendar, keeps)
  }
  return new Map(
    [...kept]
      .filter(([, keeps]) => keeps.some((keep) => keep < 1))
      .map(([calendar, keeps]) => [calendar, { calendar, byMonth: keeps.map((keep) => 1 - keep) }]),
  )
}

/** Days looked at in one go. */
const CHUNK = 400
/** Days looked at for a next day that can be lost: beyond, weather has no more to say. */
const SEARCH_DAYS = 50 * 366

/** The days of a calendar that its weather can take: with their working counts and the draw of each. */
class WeatherDays implements LostDays {
  readonly begin: number[] = []
  readonly end: number[] = []
  /** Of each day its draw, and the chance that it is lost. */
  private readonly draws: { readonly stream: Stream; readonly chance: number }[] = []
  private rows = new Int32Array(COLUMNS)
  /** Days whose rows are drawn, and of which drawing they are. */
  private rowsDrawn = 0
  private rowsOf = -1
  private readonly values = new Float64Array(COLUMNS)
  private readonly clock: Clock
  private readonly calendar: SpannedCalendar
  private readonly weather: Chances
  private readonly drawing: Drawing
  private readonly from: Instant
  private readonly workOf: (day: number) => readonly [Instant, Instant] | null
  private day: number
  private isExhausted = false

  /**
   * @param chain - the calendar and those it takes hours from; empty for the clock
   * @param from - the first minute that weather can take
   */
  constructor(
    calendar: SpannedCalendar,
    chain: readonly CalendarRule[],
    weather: Chances,
    drawing: Drawing,
    clock: Clock,
    from: Instant,
  ) {
    this.clock = clock
    this.calendar = calendar
    this.weather = weather
    this.drawing = drawing
    this.from = from
    this.day = Math.floor(from / MINUTES_PER_DAY)
    this.workOf =
      chain.length === 0
        ? (day) => [day * MINUTES_PER_DAY, (day + 1) * MINUTES_PER_DAY]
        : chain.some(({ windows }) => (windows ?? []).length > 0)
          ? (day) => this.windowWork(day)
          : shiftWork(chain)
  }

  /** What windows give to a day: the windows that open on it. */
  private windowWork(day: number): readonly [Instant, Instant] | null {
    const span: Span = { start: 0, end: 0 }
    const [from, to] = [day * MINUTES_PER_DAY, (day + 1) * MINUTES_PER_DAY]
    let found: [Instant, Instant] | null = null
    for (let at: Instant = from - 1; ; at = span.end) {
      this.calendar.nextSpan(at, span)
      if (span.start >= to) return found
      // What runs on from the day before belongs to it, but for its part beyond a whole day.
      const start = span.start < from ? (span.end - span.start > MINUTES_PER_DAY ? from : null) : span.start
      if (start === null) continue
      const end = span.end - start > MINUTES_PER_DAY ? to : span.end
      found = found ? [found[0], end] : [start, end]
      if (span.end >= to) return found
    }
  }

  /** Looks at further days until one begins at or after a count. */
  reach(count: WorkMinutes): void {
    while (!this.isExhausted && (this.begin.length === 0 || this.begin.at(-1)! <= count)) this.extend()
  }

  reachUntil(t: Instant): void {
    this.reach(this.calendar.countBefore(t))
  }

  private extend(): void {
    const known = this.begin.length
    for (let looked = 0; looked < SEARCH_DAYS; looked++) {
      const day = this.day++
      const chance = this.weather.byMonth[civilDate(day).month]!
      if (chance > 0) this.take(day, chance)
      if (looked >= CHUNK && this.begin.length > known) return
    }
    if (this.begin.length === known) this.isExhausted = true
  }

  private take(day: number, chance: number): void {
    const work = this.safeWork(day)
    if (!work || work[0] < this.from) return
    const begin = this.calendar.countBefore(work[0])
    const end = this.calendar.countBefore(work[1])
    // A shift that reaches into the next day is that day's no more.
    const first = Math.max(begin, this.end.at(-1) ?? begin)
    if (end <= first) return
    this.begin.push(first)
    this.end.push(end)
    const { seed, sampling, batch } = this.drawing
    const date = formatInstant(day * MINUTES_PER_DAY).slice(0, 10)
    this.draws.push({
      stream: stream(sampling, drawKey(seed, 'weather', this.weather.calendar, date), batch),
      chance,
    })
  }

  get knownTo(): WorkMinutes {
    return this.isExhausted ? Infinity : (this.begin.at(-1) ?? -Infinity)
  }

  lostBefore(): Int32Array {
    const { clock, values, draws } = this
    if (this.rowsOf !== clock.drawing) {
      this.rowsOf = clock.drawing
      this.rowsDrawn = 0
    }
    const needed = (draws.length + 1) * COLUMNS
    if (this.rows.length < needed) {
      const more = new Int32Array(2 * needed)
      more.set(this.rows)
      this.rows = more
    }
    for (let d = this.rowsDrawn; d < draws.length; d++) {
      const { stream, chance } = draws[d]!
      stream.fill(clock.first, clock.width, values)
      const length = this.end[d]! - this.begin[d]!
      const at = d * COLUMNS
      for (let column = 0; column < clock.width; column++)
        this.rows[at + COLUMNS + column] = this.rows[at + column]! + (values[column]! < chance ? length : 0)
    }
    this.rowsDrawn = draws.length
    return this.rows
  }

  private safeWork(day: number): readonly [Instant, Instant] | null {
    try {
      return this.workOf(day)
    } catch (error) {
      // The calendar has no more work: nothing can be lost.
      if (error instanceof CalendarError) return null
      throw error
    }
  }
}

/** The hours from the first shift that begins on a day to the end of the last. */
const shiftWork = (chain: readonly CalendarRule[]): ((day: number) => readonly [Instant, Instant] | null) => {
  const rule = dayRules(chain)
  return (day) => {
    const { shifts } = rule(day)
    if (shifts.length === 0) return null
    const at = day * MINUTES_PER_DAY
    return [at + Math.min(...shifts.map(([from]) => from)), at + Math.max(...shifts.map(([, to]) => to))]
  }
}

/** A calendar that loses whole days, others in each iteration. */
class WeatherCalendar implements LosingCalendar {
  readonly id: string
  private readonly base: SpannedCalendar
  private readonly days: WeatherDays
  private readonly clock: Clock

  constructor(base: SpannedCalendar, days: WeatherDays, clock: Clock) {
    this.id = base.id
    this.base = base
    this.days = days
    this.clock = clock
  }

  table(): ReturnType<typeof tableOf> {
    return tableOf(this.base)
  }
  get lostDays(): LostDays {
    return this.days
  }

  /** Lost minutes before each day that begins at or before a count, and before the next: by day × {@link COLUMNS} + column. */
  private lostUntil(count: WorkMinutes): Int32Array {
    this.days.reach(count)
    return this.days.lostBefore()
  }

  /** Number of days that begin before a count. */
  private daysBefore(count: WorkMinutes): number {
    const { begin } = this.days
    let low = 0
    let high = begin.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (begin[middle]! < count) low = middle + 1
      else high = middle
    }
    return low
  }

  countBefore(t: Instant): WorkMinutes {
    const count = this.base.countBefore(t)
    const { column } = this.clock
    if (column < 0) return count
    const lost = this.lostUntil(count)
    const d = this.daysBefore(count)
    if (d === 0) return count
    const { begin, end } = this.days
    const before = lost[(d - 1) * COLUMNS + column]!
    const isLost = lost[d * COLUMNS + column]! > before
    return count - before - (isLost ? Math.min(count, end[d - 1]!) - begin[d - 1]! : 0)
  }

  minuteAt(count: WorkMinutes): Instant {
    const { column } = this.clock
    if (column < 0) return this.base.minuteAt(count)
    // Each day lost moves what comes after it; further days are drawn until none of them begins before the minute found.
    let own = count
    for (;;) {
      // All is known up to the last day that begins at or before the minute.
      const moved = count + this.lostUntil(own)[this.daysBefore(own + 1) * COLUMNS + column]!
      if (moved === own) return this.base.minuteAt(own)
      own = moved
    }
  }

  firstStart(t: Instant, spot: Spot): void {
    spot.count = this.countBefore(t)
    spot.at = this.minuteAt(spot.count)
    spot.isWorking = spot.at === t
  }

  lastEnd(t: Instant, spot: Spot): void {
    spot.count = this.countBefore(t)
    spot.isWorking = this.minuteAt(spot.count) === t
    spot.at = this.minuteAt(spot.count - 1) + 1
  }

  /** The spans of the plan, without weather: they are walked for what does not change from iteration to iteration. */
  nextSpan(t: Instant, span: Span): void {
    this.base.nextSpan(t, span)
  }
}

/**
 * The calendars of a plan with its weather (semantics2.md section 13): each working day of a calendar in a month listed is lost whole with
 * that chance, one draw for a day, for all calendars that take their hours from it too. A shift belongs to the day on which it begins;
 * days before the status date stay as they were.
 */
export class WeatherCalendars extends PlanCalendars {
  private readonly clock: Clock = { first: 0, width: 0, column: -1, drawing: 0 }
  private readonly weather: ReadonlyMap<string, Chances>
  private readonly drawing: Drawing
  private readonly from: Instant

  /** @param statusDate - days before it stay as they were */
  constructor(plan: Plan, drawing: Drawing, projectStart: Instant, statusDate: Instant | null) {
    super(plan.calendars, projectStart)
    this.weather = chancesOf(plan.weather)
    this.drawing = drawing
    this.from = statusDate ?? projectStart
  }

  /** Draws the weather of iterations first … first + width − 1. @param width - at most {@link COLUMNS} */
  drawBlock(first: number, width: number): void {
    Object.assign(this.clock, { first, width, column: 0, drawing: this.clock.drawing + 1 })
  }

  /** Makes the weather of an iteration hold: of those drawn, or it is drawn alone. */
  hold(iteration: number): void {
    const { first, width } = this.clock
    if (iteration < first || iteration >= first + width) this.drawBlock(iteration, 1)
    this.clock.column = iteration - this.clock.first
  }

  /** The weather that a calendar works in: its own, or that of the calendar that it takes its hours from. */
  private weatherOf(id: string): Chances | null {
    const own = this.weather.get(id) ?? null
    if (own || id === CLOCK_ID) return own
    for (const rule of this.chainOf(id)) {
      const found = this.weather.get(rule.id)
      if (found) return found
      if (rule.week || (rule.windows ?? []).length > 0) return null
    }
    return null
  }

  protected override made(id: string): SpannedCalendar {
    const base = super.made(id)
    const weather = this.weatherOf(id)
    if (weather === null) return base
    const chain = id === CLOCK_ID ? [] : this.chainOf(id)
    return new WeatherCalendar(
      base,
      new WeatherDays(base, chain, weather, this.drawing, this.clock, this.from),
      this.clock,
    )
  }
}
