import { BusyError } from '../errors.ts'

/** Gives back what was taken; more than once does nothing. */
export type GiveBack = () => void

interface Waiting {
  readonly mb: number
  readonly begin: (giveBack: GiveBack) => void
}

/** What the server itself takes, beside the work that asks for room. */
const ITSELF_MB = 300
const PATIENCE_MS = 20_000

/**
 * The memory that large work may take on this server, all of it together: runs, files that are read, reports. Each says how much before
 * it begins; who does not fit waits, first come first served, so that a large one is not passed by small ones for ever.
 */
export class MemoryRoom {
  readonly mb: number
  private taken = 0
  private readonly waiting: Waiting[] = []
  private readonly spare: (() => boolean)[] = []
  private isServing = false

  /** @param serverMb - megabytes that the server may take as a whole */
  constructor(serverMb: number) {
    this.mb = serverMb - ITSELF_MB
  }

  /** Free now; nothing while others wait. */
  get free(): number {
    return this.waiting.length > 0 ? 0 : this.mb - this.taken
  }

  /** @param giveUp - called where there is too little: gives back something that can be made again, false if there is nothing */
  mayGiveUp(giveUp: () => boolean): void {
    this.spare.push(giveUp)
  }

  /** @returns null if there is too little now, or others wait */
  take(mb: number): GiveBack | null {
    return this.waiting.length === 0 && this.makeRoom(mb) ? this.hold(mb) : null
  }

  /**
   * Waits for room. What would not fit into all of it takes all of it.
   * @throws BusyError if others take it for longer than one waits for an answer
   */
  async wait(mb: number, patienceMs = PATIENCE_MS): Promise<GiveBack> {
    const wanted = Math.min(mb, this.mb)
    const now = this.take(wanted)
    if (now) return now
    return new Promise((resolve, reject) => {
      const tooLong = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(waiting), 1)
        reject(
          new BusyError('the server has large work in hand and no memory for more; try again in a moment'),
        )
        this.serve()
      }, patienceMs)
      const waiting: Waiting = {
        mb: wanted,
        begin: (giveBack) => {
          clearTimeout(tooLong)
          resolve(giveBack)
        },
      }
      this.waiting.push(waiting)
    })
  }

  private hold(mb: number): GiveBack {
    this.taken += mb
    let isHeld = true
    return () => {
      if (!isHeld) return
      isHeld = false
      this.taken -= mb
      this.serve()
    }
  }

  /** Lets in who waits and fits; to be called when there is more that may be given up. */
  serve(): void {
    // What is given up on the way gives back its room, and must not serve the same one again.
    if (this.isServing) return
    this.isServing = true
    while (this.waiting.length > 0 && this.makeRoom(this.waiting[0]!.mb)) {
      const { mb, begin } = this.waiting.shift()!
      begin(this.hold(mb))
    }
    this.isServing = false
  }

  private makeRoom(mb: number): boolean {
    while (this.taken + mb > this.mb && this.spare.some((giveUp) => giveUp())) continue
    return this.taken + mb <= this.mb
  }
}
