/**
 * What is known of integers that are searched for, and a search that learns from every dead end. Each variable v has two sides: side 2v
 * holds the least it can be, side 2v + 1 the most, negated, so that both only ever rise. An atom (side, value) says that the side is at
 * least the value; its opposite is (side ^ 1, 1 − value).
 * @see Ohrimenko, Stuckey & Codish 2009, "Propagation via lazy clause generation", Constraints 14(3), for learning from bounds
 */

/** Why a side rose: atoms, as pairs of side and value, that together force it. */
export interface Reason {
  /** Adds to `atoms` what forces `side` to be at least `value`. */
  because(side: number, value: number, atoms: number[]): void
}

/** Draws conclusions from a side that rose, at once. */
export interface Rule {
  /** @returns whether there is no contradiction */
  onRise(side: number): boolean
}
/** Draws conclusions that take longer: once all others are drawn. */
export interface SlowRule {
  isDue: boolean
  /** @returns whether there is no contradiction */
  conclude(): boolean
}

/** Atoms that cannot all hold. */
class Nogood implements Reason {
  readonly atoms: number[]
  /** Raised whenever it takes part in a contradiction; the least used are forgotten. */
  use: number
  constructor(atoms: number[], use: number) {
    this.atoms = atoms
    this.use = use
  }
  because(side: number, _value: number, into: number[]): void {
    const { atoms } = this
    for (let a = 0; a < atoms.length; a += 2) if (atoms[a] !== (side ^ 1)) into.push(atoms[a]!, atoms[a + 1]!)
  }
}

const MOST_NOGOODS = 4000
const FADE = 0.95
/** Contradictions in the shortest run between restarts. */
const RUN = 100

/** Beyond every count and instant. */
const ANYTHING = 2_000_000_000

export type Outcome = 'found' | 'none' | 'open'

export class Bounds {
  /** What each side is at least. */
  readonly bound: Int32Array
  /** How often a variable took part in contradictions of late. */
  readonly weight: Float64Array
  /** Contradictions that were met so far. */
  deadEnds = 0
  /** Contradictions since the last restart, and how many restarts there were. */
  private inRun = 0
  private runs = 1
  /** What a contradiction adds to weights. */
  private step = 1
  private readonly slowRules: SlowRule[] = []
  private readonly rulesOn: Rule[][]
  private readonly watching: Nogood[][]
  private nogoods: Nogood[] = []
  /** The rises, in order: side, value before, rise of the same side before it, reason. */
  private readonly sides: number[] = []
  private readonly before: number[] = []
  private readonly previous: number[] = []
  private readonly reasons: (Reason | null)[] = []
  private readonly levels: number[] = []
  private readonly lastRise: Int32Array
  private readonly levelStart: number[] = []
  private handled = 0
  /** Atoms of the contradiction that was met. */
  private conflict: number[] = []
  /** Of the contradiction that is looked into: what is needed of each side. */
  private readonly needed: Float64Array

  constructor(count: number) {
    this.bound = new Int32Array(2 * count).fill(-ANYTHING)
    this.weight = new Float64Array(count)
    this.rulesOn = Array.from({ length: 2 * count }, () => [])
    this.watching = Array.from({ length: 2 * count }, () => [])
    this.lastRise = new Int32Array(2 * count).fill(-1)
    this.needed = new Float64Array(2 * count).fill(-Infinity)
  }

  /** Rules are asked in the order in which they were added. */
  add(rule: Rule, sides: readonly number[]): void {
    for (const side of sides) this.rulesOn[side]!.push(rule)
  }
  /** It is due whenever one of the sides rises. */
  addSlow(rule: SlowRule, sides: readonly number[]): void {
    this.slowRules.push(rule)
    this.add({ onRise: () => (rule.isDue = true) }, sides)
  }

  isFixed(v: number): boolean {
    return this.bound[2 * v] === -this.bound[2 * v + 1]!
  }

  /** @returns whether it can be */
  raise(side: number, value: number, reason: Reason | null): boolean {
    const { bound } = this
    if (value <= bound[side]!) return true
    if (value > -bound[side ^ 1]!) {
      this.conflict = [side ^ 1, 1 - value]
      reason?.because(side, value, this.conflict)
      return false
    }
    this.sides.push(side)
    this.before.push(bound[side]!)
    this.previous.push(this.lastRise[side]!)
    this.reasons.push(reason)
    this.levels.push(this.levelStart.length)
    this.lastRise[side] = this.sides.length - 1
    bound[side] = value
    return true
  }

  /** Says that atoms that all hold cannot. @returns false */
  refuse(atoms: number[]): false {
    this.conflict = atoms
    return false
  }

  /** Takes back all but what follows without any assumption. */
  restart(): void {
    this.backTo(0)
  }

  /**
   * Looks for values that no rule contradicts, or goes on looking.
   * @param assume - the next assumption, a side and a value that it can be, or null where all is decided; asked again and again
   * @param most - contradictions after which the question is left open for now
   */
  search(assume: (bounds: Bounds) => readonly [number, number] | null, most: number): Outcome {
    for (;;) {
      if (!this.propagate()) {
        if (this.levelStart.length === 0) return 'none'
        this.deadEnds++
        this.inRun++
        if (!this.learn()) return 'none'
        if (--most <= 0) return 'open'
        continue
      }
      if (this.inRun >= RUN * luby(this.runs)) {
        this.inRun = 0
        this.runs++
        this.restart()
        if (this.nogoods.length > MOST_NOGOODS) this.forget()
        continue
      }
      const next = assume(this)
      if (next === null) return 'found'
      this.levelStart.push(this.sides.length)
      this.raise(next[0], next[1], null)
    }
  }

  private propagate(): boolean {
    for (;;) {
      while (this.handled < this.sides.length) {
        const side = this.sides[this.handled++]!
        if (!this.heedNogoods(side)) return this.stopped()
        for (const rule of this.rulesOn[side]!) if (!rule.onRise(side)) return this.stopped()
      }
      const slow = this.slowRules.find(({ isDue }) => isDue)
      if (slow === undefined) return true
      slow.isDue = false
      if (!slow.conclude()) return this.stopped()
    }
  }

  private stopped(): false {
    this.handled = this.sides.length
    return false
  }

  /** Watches two atoms of each nogood that do not hold yet. */
  private heedNogoods(side: number): boolean {
    const { bound } = this
    const watching = this.watching[side]!
    let kept = 0
    for (let w = 0; w < watching.length; w++) {
      const nogood = watching[w]!
      const { atoms } = nogood
      const own = atoms[0] === side ? 0 : 2
      if (bound[side]! < atoms[own + 1]!) {
        watching[kept++] = nogood
        continue
      }
      const other = 2 - own
      let moved = false
      for (let a = 4; a < atoms.length; a += 2) {
        if (bound[atoms[a]!]! >= atoms[a + 1]!) continue
        const [s, value] = [atoms[a]!, atoms[a + 1]!]
        atoms[a] = atoms[own]!
        atoms[a + 1] = atoms[own + 1]!
        atoms[own] = s
        atoms[own + 1] = value
        this.watching[s]!.push(nogood)
        moved = true
        break
      }
      if (moved) continue
      watching[kept++] = nogood
      if (!this.raise(atoms[other]! ^ 1, 1 - atoms[other + 1]!, nogood)) {
        for (w++; w < watching.length; w++) watching[kept++] = watching[w]!
        watching.length = kept
        return false
      }
    }
    watching.length = kept
    return true
  }

  /** The rise that made a side at least a value. */
  private riseOf(side: number, value: number): number {
    let rise = this.lastRise[side]!
    while (rise >= 0 && this.before[rise]! >= value) rise = this.previous[rise]!
    return rise
  }

  /** Finds what of the contradiction can never hold together, keeps it, and goes back to where it would have helped. @returns false: nothing can be */
  private learn(): boolean {
    const { needed, levels } = this
    const touched: number[] = []
    const level = this.levelStart.length
    let [open, latest] = [0, -1]
    const need = (atoms: readonly number[]): void => {
      for (let a = 0; a < atoms.length; a += 2) {
        const [side, value] = [atoms[a]!, atoms[a + 1]!]
        if (value <= needed[side]!) continue
        const rise = this.riseOf(side, value)
        if (rise < 0 || levels[rise] === 0) continue
        this.weight[side >> 1]! += this.step
        const known = needed[side]!
        if (known === -Infinity) touched.push(side)
        const wasOpen = known !== -Infinity && levels[this.riseOf(side, known)] === level
        needed[side] = value
        if (levels[rise] === level && !wasOpen) open++
        if (levels[rise] === level && rise > latest) latest = rise
      }
    }
    need(this.conflict)
    // What was met below the last assumption is a contradiction of an earlier one.
    if (open === 0) {
      const deepest = Math.max(0, ...touched.map((side) => levels[this.riseOf(side, needed[side]!)]!))
      for (const side of touched) needed[side] = -Infinity
      if (deepest === 0) return false
      this.backTo(deepest)
      return this.learn()
    }
    for (let rise = latest; ; rise--) {
      const side = this.sides[rise]!
      const value = needed[side]!
      if (value === -Infinity || this.before[rise]! >= value) continue
      if (open === 1) return this.keep(touched, side)
      needed[side] = -Infinity
      open--
      const atoms: number[] = []
      const reason = this.reasons[rise]
      if (reason instanceof Nogood) reason.use = this.deadEnds
      reason!.because(side, value, atoms)
      need(atoms)
    }
  }

  private keep(touched: readonly number[], first: number): boolean {
    const { needed, levels } = this
    const atoms = [first, needed[first]!]
    let back = 0
    for (const side of touched) if (side !== first) this.leaveOut(side)
    for (const side of touched) {
      if (side !== first && needed[side] !== -Infinity) atoms.push(side, needed[side]!)
      needed[side] = -Infinity
    }
    // The second is watched too: the last of the others to hold.
    for (let a = 2; a < atoms.length; a += 2) {
      const level = levels[this.riseOf(atoms[a]!, atoms[a + 1]!)]!
      if (level <= back) continue
      back = level
      const [side, value] = [atoms[a]!, atoms[a + 1]!]
      atoms[a] = atoms[2]!
      atoms[a + 1] = atoms[3]!
      atoms[2] = side
      atoms[3] = value
    }
    this.step /= FADE
    if (this.step > 1e100) this.fadeAll()
    this.backTo(back)
    const nogood = new Nogood(atoms, this.deadEnds)
    if (atoms.length > 2) {
      this.nogoods.push(nogood)
      this.watching[atoms[0]!]!.push(nogood)
      this.watching[atoms[2]!]!.push(nogood)
    }
    return this.raise(first ^ 1, 1 - atoms[1]!, nogood)
  }

  /** Needs nothing of a side where it follows from the rest that is needed. */
  private leaveOut(side: number): void {
    const { needed } = this
    const value = needed[side]!
    if (value === -Infinity) return
    const rise = this.riseOf(side, value)
    const reason = this.reasons[rise]
    if (!reason) return
    const atoms: number[] = []
    reason.because(side, value, atoms)
    // What it was before is often a part of why it rose: that is not the rest.
    needed[side] = -Infinity
    for (let a = 0; a < atoms.length; a += 2) {
      if (needed[atoms[a]!]! >= atoms[a + 1]!) continue
      const before = this.riseOf(atoms[a]!, atoms[a + 1]!)
      if (before < 0 || this.levels[before] === 0) continue
      needed[side] = value
      return
    }
  }

  private fadeAll(): void {
    for (let v = 0; v < this.weight.length; v++) this.weight[v]! *= 1e-100
    this.step *= 1e-100
  }

  /** The half that was of use longest ago; only where nothing is assumed. */
  private forget(): void {
    this.nogoods.sort((a, b) => b.use - a.use)
    this.nogoods.length = MOST_NOGOODS / 2
    for (const watching of this.watching) watching.length = 0
    for (const nogood of this.nogoods) {
      this.watching[nogood.atoms[0]!]!.push(nogood)
      this.watching[nogood.atoms[2]!]!.push(nogood)
    }
  }

  private backTo(level: number): void {
    if (level >= this.levelStart.length) return
    const start = this.levelStart[level]!
    for (let rise = this.sides.length - 1; rise >= start; rise--) {
      const side = this.sides[rise]!
      this.bound[side] = this.before[rise]!
      this.lastRise[side] = this.previous[rise]!
    }
    this.sides.length = this.before.length = this.previous.length = start
    this.reasons.length = this.levels.length = start
    this.levelStart.length = level
    this.handled = start
  }
}

/** 1, 1, 2, 1, 1, 2, 4, … @see Luby, Sinclair & Zuckerman 1993, "Optimal speedup of Las Vegas algorithms", Inf. Process. Lett. 47(4) */
const luby = (k: number): number => {
  let size = 1
  while (size < k + 1) size *= 2
  if (size === k + 1) return size / 2
  return luby(k - size / 2 + 1)
}
