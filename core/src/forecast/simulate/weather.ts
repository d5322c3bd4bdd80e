import { dayRules, type CalendarRule } from '../../time/workingDays.ts'
import {
  civilDate,
  formatInstant,
  MINUTES_PER_DAY,
  type Instant,
  type WorkMinutes,
} from '../../time/instant.ts'
import { CalendarError, CLOCK_ID, type Span, type SpannedCalendar, type Spot } from '../../time/calendar.ts'
import { PlanCalendars } from '../../time/planCalendars.ts'
import type { Plan, Weather } from '../../plan/schema.ts'
import { drawKey, stream, type Sampling } from '../random/draws.ts'

/** How draws are made. */
export interface Drawing {
  readonly seed: number
  readonly sampling: Sampling
  /** Iterations of a stratified batch. */
  readonly batch: number
}

/** The iteration whose weather holds: one for all calendars of a model; −1 is the plan without weather. */
interface Clock {
  iteration: number
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

/** Whether a working day is lost in an iteration. */
type Lost = (iteration: number) => boolean

/** The days of a calendar that its weather can take: with their working counts and the draw of each. */
class WeatherDays {
  /** Working counts at which the work of each day begins and ends. */
  readonly begin: number[] = []
  readonly end: number[] = []
  readonly lost: Lost[] = []
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
    from: Instant,
  ) {
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
    const draw = stream(sampling, drawKey(seed, 'weather', this.weather.calendar, date), batch)
    this.lost.push((iteration) => draw.at(iteration) < chance)
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
class LosingCalendar implements SpannedCalendar {
  readonly id: string
  private readonly base: SpannedCalendar
  private readonly days: WeatherDays
  private readonly clock: Clock
  /** Lost minutes before each day of `days`, of the iteration drawn last; grows as days are asked for. */
  private readonly before: number[] = [0]
  private drawn = -1

  constructor(base: SpannedCalendar, days: WeatherDays, clock: Clock) {
    this.id = base.id
    this.base = base
    this.days = days
    this.clock = clock
  }

  /** Lost minutes before each day that begins at or before a count, and before the next. */
  private lostUntil(count: WorkMinutes): readonly number[] {
    const { iteration } = this.clock
    if (this.drawn !== iteration) {
      this.drawn = iteration
      this.before.length = 1
    }
    this.days.reach(count)
    const { begin, end, lost } = this.days
    for (let d = this.before.length - 1; d < begin.length && begin[d]! <= count; d++)
      this.before.push(this.before[d]! + (lost[d]!(iteration) ? end[d]! - begin[d]! : 0))
    return this.before
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
    if (this.clock.iteration < 0) return count
    const before = this.lostUntil(count)
    const d = this.daysBefore(count)
    if (d === 0) return count
    const { begin, end } = this.days
    const isLost = before[d]! > before[d - 1]!
    return count - before[d - 1]! - (isLost ? Math.min(count, end[d - 1]!) - begin[d - 1]! : 0)
  }

  minuteAt(count: WorkMinutes): Instant {
    if (this.clock.iteration < 0) return this.base.minuteAt(count)
    // Each day lost moves what comes after it; further days are drawn until none of them begins before the minute found.
    let own = count
    for (;;) {
      const before = this.lostUntil(own)
      // The day up to which all is known: the last that begins at or before the minute.
      const known = Math.min(before.length - 1, this.daysBefore(own + 1))
      const moved = count + before[known]!
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
  private readonly clock: Clock = { iteration: -1 }
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

  /** Makes the weather of an iteration hold. */
  draw(iteration: number): void {
    this.clock.iteration = iteration
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
    return new LosingCalendar(
      base,
      new WeatherDays(base, chain, weather, this.drawing, this.from),
      this.clock,
    )
  }
}
