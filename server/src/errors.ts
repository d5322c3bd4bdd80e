import type { LoggedChange } from '@geodrome/core'

/** The three ways in which a request can fail that are the sender's to mend; what they mean over HTTP is in http/errorHandler.ts. */
export class NotFoundError extends Error {
  override name = 'NotFoundError'
}

/** Somebody else changed the same facts; carries their changes, so that both versions can be shown. */
export class ConflictError extends Error {
  override name = 'ConflictError'
  readonly facts: readonly string[]
  readonly theirs: readonly LoggedChange[]
  constructor(message: string, facts: readonly string[], theirs: readonly LoggedChange[]) {
    super(message)
    this.facts = facts
    this.theirs = theirs
  }
}

/** The request itself is wrong. */
export class BadRequestError extends Error {
  override name = 'BadRequestError'
}
