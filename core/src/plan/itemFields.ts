import { z } from 'zod'
import type { Item } from './change.ts'
import { PlanError, pointer, type PlanIssue } from './issue.ts'

/** Says that a change does not fit. @throws PlanError */
export const refuse = (at: string, message: string, ids: readonly string[] = []): never => {
  throw new PlanError([{ pointer: at, code: 'unknown-id', message, ids }])
}

/** The item with fields set; a field set to undefined is taken out, so that an inverse restores absence too. */
export const withFields = (item: Item, set: Item): Item => {
  const next: Item = { ...item, ...set }
  for (const name of Object.keys(set)) if (set[name] === undefined || set[name] === ABSENT) delete next[name]
  return next
}

/** Stands for "this field was not there" in an inverse, since JSON cannot carry undefined. */
export const ABSENT = '\u0000absent'

/** Earlier values of the fields that are set. */
export const earlier = (item: Item, set: Item): Item =>
  Object.fromEntries(Object.keys(set).map((name) => [name, Object.hasOwn(item, name) ? item[name] : ABSENT]))

/** Runs what gives an item its shape. @throws PlanError with what is wrong with it, and where */
export const shaped = <T>(at: string, shape: () => T): T => {
  try {
    return shape()
  } catch (error) {
    if (!(error instanceof z.ZodError)) throw error
    throw new PlanError(
      error.issues.map((issue): PlanIssue => ({
        pointer: at + pointer(...issue.path),
        code: 'shape',
        message: issue.message,
      })),
    )
  }
}
