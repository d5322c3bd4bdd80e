import type { LoggedChange } from '@geodrome/core'

/** The ways in which a request can fail that are told to the sender; what they mean over HTTP is in http/errorHandler.ts. */
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

/** There is too much to do just now. */
export class BusyError extends Error {
  override name = 'BusyError'
}

/** The request itself is wrong. */
export class BadRequestError extends Error {
  override name = 'BadRequestError'
}

/** Who asks must sign in first. */
export class SignedOutError extends Error {
  override name = 'SignedOutError'
}

/** Who asks may not do this. */
export class ForbiddenError extends Error {
  override name = 'ForbiddenError'
}
