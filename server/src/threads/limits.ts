import { BadRequestError, BusyError } from '../errors.ts'

/** What work may take whose size nobody knows. */
export interface Limits {
  /** Where the task stands, without its ending: as source or as it was built. */
  readonly task: URL
  /** What may wait while others run. */
  readonly waiting: number
  readonly idleSeconds: number
  /** What one task may take. */
  readonly memoryMb: number
  readonly seconds: number
  /** How it is said that there is too much of it: what takes too much, how to mend it, and what many are doing. */
  readonly words: { readonly one: string; readonly mend: string; readonly many: string }
}

const isSource = import.meta.url.endsWith('.ts')
/** The file of a task, and what Node needs to run it: as source in tests, else as it was built. */
export const fileOf = (task: URL): URL => new URL(`${task.href}${isSource ? '.ts' : '.js'}`)
export const EXEC_ARGV: readonly string[] = isSource ? ['--conditions=development', '--import', 'tsx'] : []

export const takesTooLong = ({ seconds, words }: Limits, cause?: unknown): BadRequestError =>
  new BadRequestError(`${words.one} takes longer than ${seconds} seconds; ${words.mend}`, { cause })

export const takesTooMuch = ({ memoryMb, words }: Limits, cause?: unknown): BadRequestError =>
  new BadRequestError(
    `${words.one} needs more memory than there is for one (${memoryMb} MB); ${words.mend}`,
    { cause },
  )

export const areTooMany = ({ words }: Limits, cause?: unknown): BusyError =>
  new BusyError(`${words.many} just now; try again in a moment`, { cause })
