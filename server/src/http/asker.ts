import type { Response } from 'express'
import type { Role } from '@geodrome/core'
import type { Roles } from '../db/planRepository.ts'
import type { SignedIn } from '../db/sessions.ts'

/** Who asks for something. */
export interface Asker {
  /** Null: people do not sign in here, or nobody is signed in and nothing of that kind is needed. */
  readonly account: SignedIn | null
  /** What they are in the plan that the path names. */
  readonly role: Role
  /** What they are in the plans that they see; null: administrator of all. */
  readonly roles: () => Promise<Roles>
  /** Whether they still may see the plan that the path names: something that stays open asks again. */
  readonly maySee: () => Promise<boolean>
}

/** Whoever is at a machine where people do not sign in. */
const ANYBODY: Asker = {
  account: null,
  role: 'administrator',
  roles: () => Promise.resolve(null),
  maySee: () => Promise.resolve(true),
}

export const setAsker = (response: Response, asker: Asker): void => void (response.locals.asker = asker)
export const askerOf = (response: Response): Asker => (response.locals.asker as Asker | undefined) ?? ANYBODY
/** The name under what somebody does: that of the account, or, where there are none, what they call themselves. */
export const signedAs = (response: Response, called: string): string =>
  askerOf(response).account?.name ?? called
