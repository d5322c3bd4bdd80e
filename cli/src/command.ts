import type { ParseArgsConfig } from 'node:util'
import type { PlanRead } from '@geodrome/core'

/** The call is wrong: the message says how. */
export class UsageError extends Error {
  override name = 'UsageError'
}

interface Outcome {
  /** An object is written as JSON; a string, or the bytes of a file, as it is. */
  readonly json: unknown
  readonly text: () => string
  readonly exitCode?: 0 | 3
}
type Options = Readonly<Record<string, string | boolean | undefined>>
export interface Command {
  readonly usage: string
  readonly summary: string
  readonly options: NonNullable<ParseArgsConfig['options']>
  /** Whether a second plan file may be named. */
  readonly takesTwo?: true
  /** Checks the options before the file is read. @throws UsageError */
  prepare(options: Options): (read: PlanRead, second: PlanRead | null) => Outcome | Promise<Outcome>
}

/** A whole number of an option. @throws UsageError */
export const wholeNumber = (
  value: string | boolean | undefined,
  name: string,
  fallback: number,
  min: number,
  max: number,
): number => {
  if (value === undefined) return fallback
  const number = Number(value)
  if (!Number.isInteger(number) || number < min || number > max)
    throw new UsageError(`--${name} takes a whole number from ${min} to ${max}`)
  return number
}

/** A number of an option, above one bound and up to another; null where it is not given. @throws UsageError */
export const numberBetween = (
  value: string | boolean | undefined,
  name: string,
  above: number,
  upTo: number,
): number | null => {
  if (value === undefined) return null
  const number = Number(value)
  if (value === '' || !(number > above && number <= upTo))
    throw new UsageError(`--${name} takes a number above ${above} and up to ${upTo}`)
  return number
}
