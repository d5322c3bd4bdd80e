import { parseCookie } from 'cookie'
import type { Request, RequestHandler } from 'express'
import { ASKER_HEADER, mayDo, RIGHTS, ROLES, type Right, type Role } from '@geodrome/core'
import type { Accounts } from '../db/accounts.ts'
import type { PlanRoles } from '../db/planRoles.ts'
import type { Sessions, SignedIn } from '../db/sessions.ts'
import { ForbiddenError, NotFoundError, SignedOutError } from '../errors.ts'
import { setAsker } from './asker.ts'
import { ROUTES, type DescribedRoute } from './openApi.ts'

/** Where people sign in. */
export interface People {
  readonly accounts: Accounts
  readonly sessions: Sessions
  readonly roles: PlanRoles
}

export const COOKIE = 'geodrome-session'
export const sessionOf = (request: Request): string | undefined =>
  parseCookie(request.headers.cookie ?? '')[COOKIE]

/** What is known of an address: what it needs, and the plan that it is about. */
interface Known {
  readonly route: DescribedRoute
  readonly pattern: RegExp
}
const isRight = (needs: DescribedRoute['needs']): needs is Right => RIGHTS.includes(needs as Right)

// An address without anything put in goes first, as the routers have it: /plans/calendars is no plan.
const KNOWN: readonly Known[] = [...ROUTES]
  .sort((a, b) => Number(a.path.includes('{')) - Number(b.path.includes('{')))
  .map((route) => ({
    route,
    pattern: new RegExp(`^${route.path.replaceAll('.', String.raw`\.`).replaceAll(/\{\w+\}/g, '([^/]+)')}$`),
  }))

/**
 * Lets through what who asks may do. What a route needs stands beside its description; an address that is not described is answered
 * as if nothing were there, and so is a plan in which who asks has no part.
 */
export const gate =
  ({ sessions, roles }: People): RequestHandler =>
  async (request, response, next) => {
    const method = request.method === 'HEAD' ? 'get' : request.method.toLowerCase()
    const found = KNOWN.flatMap(({ route, pattern }) => {
      const match = route.method === method ? pattern.exec(request.path) : null
      return match ? [{ route, put: match.slice(1) }] : []
    })[0]
    if (!found) throw new NotFoundError('there is nothing at this address')
    const { needs } = found.route
    const token = sessionOf(request)
    const account = token === undefined ? null : await sessions.find(token)
    if (needs !== 'nothing' && account === null) throw new SignedOutError('sign in first')
    const meant = request.get(ASKER_HEADER)
    if (needs !== 'nothing' && meant !== undefined && meant !== account!.id)
      throw new SignedOutError(`${account!.name} is signed in in this browser now`)
    const planId = isRight(needs) ? decoded(found.put[0]!) : null
    const role = planId === null ? null : await roles.of(planId, account!)
    refuse(needs, account, role)
    setAsker(response, {
      account,
      role: role ?? 'reader',
      roles: () => (account!.administrator ? Promise.resolve(null) : roles.all(account!.id)),
      maySee: async () => {
        const still = await sessions.find(token!)
        return still !== null && (await roles.of(planId!, still)) !== null
      },
    })
    next()
  }

/** @throws NotFoundError for what is no text */
const decoded = (part: string): string => {
  try {
    return decodeURIComponent(part)
  } catch {
    throw new NotFoundError('there is nothing at this address')
  }
}

/** @throws NotFoundError, ForbiddenError */
const refuse = (needs: DescribedRoute['needs'], account: SignedIn | null, role: Role | null): void => {
  if (needs === 'administrator' && !account!.administrator)
    throw new ForbiddenError('only an administrator of this server may do this')
  if (!isRight(needs)) return
  if (role === null) throw new NotFoundError('there is no such plan, or you have no part in it')
  if (mayDo(role, needs)) return
  const who = Object.values(ROLES).find(({ right }) => right === needs)!.words
  throw new ForbiddenError(
    `as ${ROLES[role].words} you may not do this: it takes the role ${who} in this plan`,
  )
}
