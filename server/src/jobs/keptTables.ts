/** Numbers that what is kept may hold together; the latest is kept whatever it holds. */
const MOST_NUMBERS = 20_000_000

/**
 * What was computed lately, so that the next question about it need not wait. Two who ask at once for what is not here wait for the same
 * computation; one that fails is forgotten.
 */
export class KeptTables<T> {
  private readonly kept = new Map<string, { readonly weight: number; readonly table: Promise<T> }>()
  private readonly most: number

  constructor(most = MOST_NUMBERS) {
    this.most = most
  }

  /** @param weight - numbers that it holds */
  keep(id: string, weight: number, table: Promise<T>): void {
    this.kept.delete(id)
    this.kept.set(id, { weight, table })
    table.catch(() => {
      if (this.kept.get(id)?.table === table) this.kept.delete(id)
    })
    let held = [...this.kept.values()].reduce((sum, one) => sum + one.weight, 0)
    for (const [other, one] of this.kept) {
      if (held <= this.most || other === id) break
      this.kept.delete(other)
      held -= one.weight
    }
  }

  /** @param make - where it is not here */
  get(id: string, weight: number, make: () => Promise<T>): Promise<T> {
    const table = this.kept.get(id)?.table ?? make()
    this.keep(id, weight, table)
    return table
  }
}
