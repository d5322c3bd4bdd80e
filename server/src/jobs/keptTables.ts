/** Numbers that what is kept may hold together; the latest is kept whatever it holds. */
const MOST_NUMBERS = 20_000_000

interface Entry<T> {
  readonly weight: number
  readonly coming: Promise<T>
  /** Null while it is computed. */
  made: T | null
}

/**
 * What was computed lately, so that the next question about it need not wait. Two who ask at once for what is not here wait for the same
 * computation; one that fails is forgotten.
 */
export class KeptTables<T> {
  private readonly kept = new Map<string, Entry<T>>()
  private readonly drop: (table: T) => void
  private readonly most: number

  /** @param drop - told of what is no longer kept */
  constructor(drop: (table: T) => void, most = MOST_NUMBERS) {
    this.drop = drop
    this.most = most
  }

  /** Numbers in what is kept and could be given up. */
  get numbers(): number {
    return [...this.kept.values()].reduce((sum, { weight, made }) => sum + (made ? weight : 0), 0)
  }

  /** @param weight - numbers that it holds */
  keep(id: string, weight: number, table: T): void {
    this.add(id, { weight, coming: Promise.resolve(table), made: table })
  }

  /** @param make - where it is not here */
  get(id: string, weight: number, make: () => Promise<T>): Promise<T> {
    const there = this.kept.get(id)
    if (there) {
      // What was asked for last is given up last.
      this.kept.delete(id)
      this.kept.set(id, there)
      return there.coming
    }
    const entry: Entry<T> = { weight, coming: make(), made: null }
    entry.coming.then(
      (made) => {
        entry.made = made
        if (this.kept.get(id) !== entry) this.drop(made)
      },
      () => this.kept.get(id) === entry && this.kept.delete(id),
    )
    this.add(id, entry)
    return entry.coming
  }

  /** Forgets what was asked for longest ago. @returns false if there is nothing */
  giveUp(): boolean {
    for (const [id, { made }] of this.kept) if (made) return this.remove(id)
    return false
  }

  private add(id: string, entry: Entry<T>): void {
    this.remove(id)
    this.kept.set(id, entry)
    let held = [...this.kept.values()].reduce((sum, { weight }) => sum + weight, 0)
    for (const [other, { weight }] of this.kept) {
      if (held <= this.most || other === id) break
      this.remove(other)
      held -= weight
    }
  }

  private remove(id: string): boolean {
    const entry = this.kept.get(id)
    if (!entry) return false
    this.kept.delete(id)
    if (entry.made) this.drop(entry.made)
    return true
  }
}
