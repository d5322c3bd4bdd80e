import { CLOCK_ID, clockCalendar, compileCalendar, type SpannedCalendar } from './calendar.ts'
import { civilDate, dayNumber, MINUTES_PER_DAY, type Instant } from './instant.ts'
import type { CalendarRule } from './workingDays.ts'

interface Compiled {
  readonly chain: readonly CalendarRule[]
  readonly anchor: Instant
  readonly calendar: SpannedCalendar
}

/** Compiled tables by the calendar object they were made from: plans are immutable, so an unchanged calendar keeps its table. */
const compiledOf = new WeakMap<CalendarRule, Compiled>()

/**
 * The latest tables by what their calendars say, too: a plan that is read again, or another of the same house, has other objects that say
 * the same, and compiling takes some fifty times as long as writing them down.
 */
const compiledAs = new Map<string, SpannedCalendar>()
const MOST_KEPT = 48
/** Of calendars with thousands of dates the text alone would take long. */
const MOST_DATES = 1000

const compiledOrKept = (chain: readonly CalendarRule[], anchor: Instant): SpannedCalendar => {
  const dates = chain.reduce((sum, c) => sum + (c.exceptions?.length ?? 0) + (c.windows?.length ?? 0), 0)
  if (dates > MOST_DATES) return compileCalendar(chain, anchor)
  const text = JSON.stringify([anchor, chain])
  const calendar = compiledAs.get(text) ?? compileCalendar(chain, anchor)
  compiledAs.delete(text)
  compiledAs.set(text, calendar)
  for (const oldest of compiledAs.keys()) {
    if (compiledAs.size <= MOST_KEPT) break
    compiledAs.delete(oldest)
  }
  return calendar
}

/** The calendars of a plan by id, compiled when first asked for and shared between plans that hold the same objects. */
export class PlanCalendars {
  private readonly rules: ReadonlyMap<string, CalendarRule>
  private readonly anchor: Instant
  private readonly ready = new Map<string, SpannedCalendar>()

  /** @param projectStart - tables are first compiled around it */
  constructor(calendars: readonly CalendarRule[], projectStart: Instant) {
    this.rules = new Map(calendars.map((c) => [c.id, c]))
    // The first of January: a moved project start then rarely asks for new tables.
    const { year } = civilDate(Math.floor(projectStart / MINUTES_PER_DAY))
    this.anchor = dayNumber(year, 1, 1) * MINUTES_PER_DAY
  }

  /** @throws RangeError for an id the plan does not have */
  get(id: string): SpannedCalendar {
    const ready = this.ready.get(id)
    if (ready) return ready
    const calendar = this.made(id)
    this.ready.set(id, calendar)
    return calendar
  }

  /** Makes what {@link get} keeps. */
  protected made(id: string): SpannedCalendar {
    return id === CLOCK_ID ? clockCalendar : this.compiled(id)
  }

  private compiled(id: string): SpannedCalendar {
    const chain = this.chainOf(id)
    const own = chain[0]!
    const known = compiledOf.get(own)
    if (known && known.anchor === this.anchor && sameItems(known.chain, chain)) return known.calendar
    const calendar = compiledOrKept(chain, this.anchor)
    compiledOf.set(own, { chain, anchor: this.anchor, calendar })
    return calendar
  }

  /** The calendar and its ancestors, nearest first. */
  chainOf(id: string): CalendarRule[] {
    const chain: CalendarRule[] = []
    for (
      let at = this.rules.get(id);
      at && !chain.includes(at);
      at = at.parent ? this.rules.get(at.parent) : undefined
    )
      chain.push(at)
    if (chain.length === 0) throw new RangeError(`PlanCalendars: no calendar "${id}"`)
    return chain
  }
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i])
