import { dayRules, instantOf, type CalendarRule } from '../../time/index.ts'
import { calendarOf, lagCalendarOf, type Activity, type Link, type Plan } from '../../plan/index.ts'

/**
 * A second, deliberately naive reading of the scheduling rules, as oracle: every calendar is an array of booleans, every late
 * date is found by trying minutes from the latest backwards against the definition. Slow and obvious; shares only the
 * reading of dates and of day rules with the engine.
 */

class Grid {
  readonly works: Uint8Array
  /** next[t]: first working minute ≥ t; count[t]: working minutes before t. */
  private readonly next: Int32Array
  private readonly count: Int32Array
  /** The working minutes in order. */
  private readonly minutes: number[] = []
  private readonly low: number

  constructor(works: Uint8Array, low: number) {
    this.works = works
    this.low = low
    const n = works.length
    this.next = new Int32Array(n + 1).fill(n)
    this.count = new Int32Array(n + 1)
    for (let t = n - 1; t >= 0; t--) this.next[t] = works[t] ? t : this.next[t + 1]!
    for (let t = 0; t < n; t++) {
      this.count[t + 1] = this.count[t]! + works[t]!
      if (works[t]) this.minutes.push(t)
    }
  }
  at(t: number): number {
    const k = t - this.low
    if (k < 1 || k >= this.works.length) throw new Error('outside the grid')
    return k
  }
  workBetween(a: number, b: number): number {
    return this.count[this.at(b)]! - this.count[this.at(a)]!
  }
  nextWork(t: number): number {
    const k = this.next[this.at(t)]!
    this.at(k + this.low)
    return k + this.low
  }
  addWork(t: number, n: number): number {
    if (n === 0) return t
    return this.nth(this.count[this.at(t)]! + n - 1) + 1
  }
  subWork(t: number, n: number): number {
    if (n === 0) return t
    return this.nth(this.count[this.at(t)]! - n)
  }
  private nth(index: number): number {
    const minute = this.minutes[index]
    if (minute === undefined) throw new Error('outside the grid')
    return minute + this.low
  }
  worksAt(t: number): boolean {
    return this.works[this.at(t)] === 1
  }
  settle(t: number): number {
    return this.worksAt(t - 1) ? t : this.nextWork(t)
  }
  /** The beginning of the latest working minute that begins at or before `t`. */
  lastMinuteFrom(t: number): number {
    let k = this.at(t)
    while (k > 0 && !this.works[k]) k--
    if (k === 0) throw new Error('outside the grid')
    return k + this.low
  }
  prevWork(t: number): number {
    let k = this.at(t)
    while (k > 0 && !this.works[k - 1]) k--
    if (k === 0) throw new Error('outside the grid')
    return k + this.low
  }
  shift(t: number, lag: number): number {
    return lag >= 0 ? this.addWork(t, lag) : this.subWork(t, -lag)
  }
}

/** Grids of calendars that many networks share. */
const known = new Map<string, Grid>()

interface NaiveDates {
  start: number
  finish: number
  lateStart: number
  lateFinish: number
  totalFloat: number | null
  freeFloat: number | null
  startFloat: number | null
  /** Where it stands after being placed as late as its floats allow. */
  placedStart: number
  placedFinish: number
}

export interface NaiveSchedule {
  finish: number
  dates: Map<string, NaiveDates>
}

interface Early {
  start: number
  begin: number
  finish: number
}
/** What a successor can bear: nothing (finished), or latest begin and latest finish instant. */
type Bearable = { begin: number; finish: number } | null

export const naiveSchedule = (plan: Plan, lowDay: number, days: number): NaiveSchedule => {
  const { project } = plan
  const low = lowDay * 1440
  const grids = new Map<string, Grid>()
  let hours: string | null = null
  const gridOf = (id: string): Grid => {
    let grid = grids.get(id)
    if (grid) return grid
    // Whatever they are called.
    hours ??= JSON.stringify(plan.calendars, (key, value: unknown) => (key === 'name' ? '' : value))
    const key = `${id} ${lowDay} ${days} ${hours}`
    grid = known.get(key)
    if (grid) {
      grids.set(id, grid)
      return grid
    }
    const works = new Uint8Array(days * 1440)
    if (id === 'clock') works.fill(1)
    else {
      const chain: CalendarRule[] = []
      for (
        let c = plan.calendars.find((x) => x.id === id);
        c;
        c = plan.calendars.find((x) => x.id === c.parent)
      )
        chain.push(c)
      const rule = dayRules(chain)
      for (let d = -1; d < days; d++)
        for (const [from, to] of rule(lowDay + d).shifts)
          for (let m = from; m < to; m++)
            if (d * 1440 + m >= 0 && d * 1440 + m < works.length) works[d * 1440 + m] = 1
    }
    for (const [from, to] of plan.calendars.find((c) => c.id === id)?.windows ?? []) {
      const end = instantOf(to, 'finish')
      for (let t = instantOf(from, 'start'); t < end; t++)
        if (t >= low && t < low + works.length) works[t - low] = 1
    }
    grid = new Grid(works, low)
    grids.set(id, grid)
    known.set(key, grid)
    return grid
  }

  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  const status = project.statusDate === null ? null : instantOf(project.statusDate, 'start')
  const ownGrids = new Map<Activity, Grid>()
  const calendar = (a: Activity): Grid => {
    const grid = gridOf(calendarOf(project, a))
    const { suspended } = a.progress
    if (suspended === undefined) return grid
    let own = ownGrids.get(a)
    if (own) return own
    const works = grid.works.slice()
    for (const { from, to } of suspended) {
      const end = to === null ? status! : instantOf(to, 'start')
      for (let t = instantOf(from, 'start'); t < end; t++) works[t - low] = 0
    }
    ownGrids.set(a, (own = new Grid(works, low)))
    return own
  }
  const lagGrid = (l: Link): Grid => gridOf(lagCalendarOf(project, l, byId.get(l.from), byId.get(l.to)))
  const isFinished = (a: Activity): boolean => a.progress.actualFinish !== null
  const isStarted = (a: Activity): boolean => !isFinished(a) && a.progress.actualStart !== null
  const work = (a: Activity): number => {
    if (a.kind === 'milestone') return 0
    const promised = a.promise === null ? null : instantOf(a.promise.finish, 'finish')
    if (promised !== null && isStarted(a) && status !== null && promised > status)
      return Math.max(1, calendar(a).workBetween(status, promised))
    if (a.progress.remaining !== null) return a.progress.remaining
    return a.progress.percent > 0
      ? Math.max(1, Math.round(a.duration * (1 - a.progress.percent / 100)))
      : a.duration
  }
  /** A day without a time: for a finish that is held, the last working minute of it. */
  const meant = (a: Activity, c: Activity['constraints'][number]): number => {
    const at = instantOf(c.date, c.edge)
    if (c.edge === 'start' || c.rule === 'not-after' || c.date.includes('T')) return at
    const end = calendar(a).prevWork(at)
    return end > at - 1440 ? end : at
  }
  /** The overriding date of a rule on an edge, brought to working time; null without. */
  const overriding = (
    a: Activity,
    rule: 'exactly' | 'not-after',
    edge: 'start' | 'finish',
  ): number | null => {
    if (isFinished(a)) return null
    const c = a.constraints.find(
      (x) => x.overrides && x.rule === rule && x.edge === edge && !(edge === 'start' && isStarted(a)),
    )
    if (!c) return null
    const at = meant(a, c)
    if (rule === 'exactly') return edge === 'start' ? calendar(a).nextWork(at) : calendar(a).settle(at)
    return edge === 'start' ? calendar(a).lastMinuteFrom(at) : calendar(a).prevWork(at)
  }
  /** Where an overriding date puts the work, whatever its links say. */
  const pinned = (a: Activity): { begin: number; finish: number } | null => {
    const start = overriding(a, 'exactly', 'start')
    if (start !== null) return { begin: start, finish: calendar(a).addWork(start, work(a)) }
    const finish = overriding(a, 'exactly', 'finish')
    return finish === null ? null : { begin: calendar(a).subWork(finish, work(a)), finish }
  }
  const limit = (a: Activity, rule: 'not-before' | 'not-after', edge: 'start' | 'finish'): number[] =>
    a.constraints
      .filter(
        (c) =>
          c.edge === edge && (c.rule === rule || c.rule === 'exactly') && !(edge === 'start' && isStarted(a)),
      )
      .map((c) => {
        const at = meant(a, c)
        if (c.rule !== 'exactly') return at
        return edge === 'start' ? calendar(a).nextWork(at) : calendar(a).settle(at)
      })
  /** Where a limit from a link brings its successor. */
  const brought = (j: Activity, l: Link, x: number): { begin?: number; finish?: number } => {
    const grid = calendar(j)
    const onStart = l.type === 'FS' || l.type === 'SS'
    if (j.kind === 'milestone' && j.edge === 'finish') return { finish: grid.settle(x) }
    if (work(j) === 0) return { begin: grid.nextWork(x) }
    if (onStart) return { begin: grid.nextWork(x) }
    return { begin: grid.nextWork(grid.subWork(x, work(j))), finish: grid.settle(x) }
  }
  const counts = (l: Link): boolean =>
    !(
      project.outOfSequence === 'follow' &&
      isStarted(byId.get(l.to)!) &&
      (l.type === 'FS' || l.type === 'SS')
    )

  const early = new Map<string, Early>()
  const earlyOf = (a: Activity): Early => {
    const known = early.get(a.id)
    if (known) return known
    const grid = calendar(a)
    const r = work(a)
    let dates: Early
    if (isFinished(a)) {
      const s = instantOf(a.progress.actualStart!, 'start')
      const f = instantOf(a.progress.actualFinish!, 'finish')
      dates = { start: s, begin: f, finish: f }
    } else if (pinned(a)) {
      const { begin, finish } = pinned(a)!
      dates = { start: isStarted(a) ? instantOf(a.progress.actualStart!, 'start') : begin, begin, finish }
    } else {
      const starts = [
        isStarted(a) ? instantOf(a.progress.actualStart!, 'start') : instantOf(project.start, 'start'),
      ]
      if (status !== null) starts.push(status)
      starts.push(...limit(a, 'not-before', 'start'))
      const finishes = limit(a, 'not-before', 'finish')
      for (const l of plan.links) {
        if (l.to !== a.id) continue
        const p = earlyOf(byId.get(l.from)!)
        const x = lagGrid(l).shift(l.type === 'FS' || l.type === 'FF' ? p.finish : p.start, l.lag)
        if (!counts(l)) continue
        if (l.type === 'FS' || l.type === 'SS') starts.push(x)
        else finishes.push(x)
      }
      if (r === 0) {
        const t = Math.max(...starts, ...finishes)
        const at = a.kind === 'milestone' && a.edge === 'finish' ? grid.settle(t) : grid.nextWork(t)
        dates = {
          start: isStarted(a) ? instantOf(a.progress.actualStart!, 'start') : at,
          begin: at,
          finish: at,
        }
      } else {
        const begin = grid.nextWork(Math.max(...starts, ...finishes.map((x) => grid.subWork(x, r))))
        const finish = Math.max(grid.addWork(begin, r), ...finishes.map((x) => grid.settle(x)))
        dates = { start: isStarted(a) ? instantOf(a.progress.actualStart!, 'start') : begin, begin, finish }
      }
      const startCut = overriding(a, 'not-after', 'start')
      const finishCut = overriding(a, 'not-after', 'finish')
      if (startCut !== null && dates.begin > startCut)
        dates = { start: startCut, begin: startCut, finish: grid.addWork(startCut, r) }
      if (finishCut !== null && dates.finish > finishCut) {
        const begin = grid.subWork(finishCut, r)
        dates = { start: isStarted(a) ? dates.start : begin, begin, finish: finishCut }
      }
    }
    early.set(a.id, dates)
    return dates
  }
  plan.activities.forEach(earlyOf)
  const networkFinish = Math.max(...[...early.values()].map((d) => d.finish))
  const target = project.requiredFinish === null ? networkFinish : instantOf(project.requiredFinish, 'finish')
  const high = low + days * 1440 - 3 * 1440

  /** Latest begin and latest finish instant of an activity, given what each successor bears. */
  const latest = (
    a: Activity,
    bears: (j: Activity) => Bearable,
    startLimits: number[],
    finishLimits: number[],
  ): { begin: number; end: number; finish: number } => {
    const grid = calendar(a)
    const r = work(a)
    const from = Math.min(high, Math.max(...finishLimits))
    const out = plan.links.filter((l) => l.from === a.id && counts(l))
    const linkBears = (l: Link, edge: number): boolean => {
      const j = byId.get(l.to)!
      const bearable = bears(j)
      if (bearable === null) return true
      // An overriding date puts its edge at an instant, be it one where its kind could not stand: what reaches that does not move it.
      if (pinned(j) || (work(j) === 0 && j.constraints.some((c) => c.overrides)))
        return (
          lagGrid(l).shift(edge, l.lag) <=
          (l.type === 'FS' || l.type === 'SS' ? bearable.begin : bearable.finish)
        )
      const { begin, finish } = brought(j, l, lagGrid(l).shift(edge, l.lag))
      return (
        (begin === undefined || begin <= bearable.begin) &&
        (finish === undefined || finish <= bearable.finish)
      )
    }
    const startOk = (s: number): boolean =>
      isStarted(a) ||
      (startLimits.every((x) => s <= x) &&
        out.every((l) => (l.type !== 'SS' && l.type !== 'SF') || linkBears(l, s)))
    const finishOk = (f: number): boolean =>
      finishLimits.every((x) => f <= x) &&
      out.every((l) => (l.type !== 'FS' && l.type !== 'FF') || linkBears(l, f))
    if (r === 0) {
      for (let t = from; ; t--) {
        const fits = a.kind === 'milestone' && a.edge === 'finish' ? grid.settle(t) === t : grid.worksAt(t)
        if (fits && startOk(t) && finishOk(t)) return { begin: t, end: t, finish: t }
      }
    }
    for (let s = from; ; s--) {
      if (!grid.worksAt(s) || !startOk(s)) continue
      const end = grid.addWork(s, r)
      if (!finishOk(end)) continue
      let finish = end
      for (let f = end; f <= grid.nextWork(end); f++) if (grid.settle(f) === f && finishOk(f)) finish = f
      return { begin: s, end, finish }
    }
  }

  const late = new Map<string, { begin: number; end: number; finish: number }>()
  const lateOf = (a: Activity): { begin: number; end: number; finish: number } => {
    let known = late.get(a.id)
    const stands = pinned(a)
    if (!known && stands) known = { ...stands, end: stands.finish }
    if (!known) {
      known = latest(a, (j) => (isFinished(j) ? null : lateOf(j)), limit(a, 'not-after', 'start'), [
        ...limit(a, 'not-after', 'finish'),
        target,
      ])
    }
    late.set(a.id, known)
    return known
  }

  const placed = (a: Activity, e: Early, shift: number): { placedStart: number; placedFinish: number } => {
    if (a.place !== 'late' || shift === 0) return { placedStart: e.start, placedFinish: e.finish }
    const grid = calendar(a)
    const moved = grid.addWork(e.begin, shift)
    const begin = a.kind === 'milestone' && a.edge === 'finish' ? moved : grid.nextWork(moved)
    return { placedStart: isStarted(a) ? e.start : begin, placedFinish: grid.addWork(begin, work(a)) }
  }

  const dates = new Map<string, NaiveDates>()
  for (const a of plan.activities) {
    const e = earlyOf(a)
    if (isFinished(a)) {
      dates.set(a.id, {
        start: e.start,
        finish: e.finish,
        lateStart: e.start,
        lateFinish: e.finish,
        totalFloat: null,
        freeFloat: null,
        startFloat: null,
        placedStart: e.start,
        placedFinish: e.finish,
      })
      continue
    }
    const grid = calendar(a)
    const l = lateOf(a)
    const totalFloat = grid.workBetween(e.finish, l.end)
    const free = latest(
      a,
      (j) => (isFinished(j) ? null : { begin: earlyOf(j).begin, finish: earlyOf(j).finish }),
      [],
      [networkFinish],
    )
    const freeFloat = grid.workBetween(e.finish, free.end)
    dates.set(a.id, {
      start: e.start,
      finish: e.finish,
      lateStart: l.begin,
      lateFinish: totalFloat === 0 ? e.finish : grid.prevWork(l.end),
      totalFloat,
      freeFloat,
      startFloat: isStarted(a) ? null : grid.workBetween(e.start, l.begin),
      ...placed(a, e, Math.max(0, Math.min(totalFloat, freeFloat))),
    })
  }
  return { finish: networkFinish, dates }
}
