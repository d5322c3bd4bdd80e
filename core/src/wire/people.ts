import { z } from 'zod'
import type { Change } from '../plan/change.ts'
import type { ListName } from '../plan/fields.ts'

/** Who may do what, where a server is used by several people; parsed and asked on both ends. */

/** What can be done with a plan, each with all before it. */
export const RIGHTS = ['see', 'report', 'plan', 'manage'] as const
export type Right = (typeof RIGHTS)[number]

/** What somebody is in a plan: the right that it gives, and what they may do by it, in words. */
export const ROLES = {
  reader: { right: 'see', words: 'reader', may: 'read all of it and take files of it' },
  site: {
    right: 'report',
    words: 'planner on site',
    may: 'read all of it, say what was done and what is promised, and keep updates; nothing else of it',
  },
  analyst: {
    right: 'plan',
    words: 'analyst',
    may: 'change everything in it, run forecasts, and give links to it',
  },
  administrator: {
    right: 'manage',
    words: 'administrator',
    may: 'do all of that, say who else may, put it away and remove it',
  },
} as const satisfies Record<string, { readonly right: Right; readonly words: string; readonly may: string }>
export type Role = keyof typeof ROLES
export const ROLE_NAMES = Object.keys(ROLES) as [Role, ...Role[]]
const roleSchema = z.enum(ROLE_NAMES)

/** Whether a role gives a right. @param role - null for who has no part in the plan */
export const mayDo = (role: Role | null, right: Right): boolean =>
  role !== null && RIGHTS.indexOf(ROLES[role].right) >= RIGHTS.indexOf(right)

/** What an update says of an activity. */
const SAID_ON_SITE: ReadonlySet<string> = new Set(['progress', 'promise', 'checklist', 'notes'])

const isSaidOnSite = (change: Change): boolean => {
  switch (change.kind) {
    case 'all':
      return change.changes.every(isSaidOnSite)
    case 'project':
      return Object.keys(change.set).every((field) => field === 'statusDate')
    case 'set':
      if (change.list === 'activities')
        return Object.keys(change.set).every((field) => SAID_ON_SITE.has(field))
      return isOnSite(change.list)
    default:
      return isOnSite(change.list)
  }
}
const isOnSite = (list: ListName): boolean => list === 'periods'

/** Why a role does not make a change; null where it does. @param role - null for who has no part in the plan */
export const whyNotChange = (role: Role | null, change: Change): string | null => {
  if (mayDo(role, 'plan')) return null
  if (!mayDo(role, 'report'))
    return 'you may read this plan and not change it; an administrator of the plan can let you'
  return isSaidOnSite(change)
    ? null
    : 'as planner on site you say what was done and what is promised; this changes the plan itself, which its analysts do'
}

const MOST_NAME = 100
/** What people are called and sign in with: one name, which is signed under what they change. */
const personName = z
  .string()
  .transform((text) => text.normalize('NFC').replace(/\s+/gu, ' ').trim())
  .pipe(
    z
      .string()
      .min(1, 'a name is needed')
      .max(MOST_NAME, `a name has at most ${MOST_NAME} letters`)
      .regex(/^[^\p{C}]*$/u, 'a name has letters that can be seen'),
  )
export const LEAST_PASSWORD = 10
const newPassword = z
  .string()
  .min(LEAST_PASSWORD, `a password has at least ${LEAST_PASSWORD} letters`)
  .max(200, 'a password has at most 200 letters')

export const signInSchema = z.strictObject({ name: personName, password: z.string().max(1000) })

/** By it a page says as whom it asks: in a browser where somebody else signed in meanwhile it is answered nothing. */
export const ASKER_HEADER = 'x-geodrome-account'

/** Who asks. */
export const meSchema = z.object({
  /** Whether people sign in here at all; where not, whoever is at this machine does everything. */
  people: z.boolean(),
  /** Null: nobody is signed in. */
  account: z.object({ id: z.string(), name: z.string(), administrator: z.boolean() }).nullable(),
})
export type Me = Readonly<z.output<typeof meSchema>>

/** What a link leads to by which somebody chooses a password. */
export const welcomeSchema = z.object({
  /** Null: whoever opens it says who they are, as the first administrator. */
  name: z.string().nullable(),
  /** Whether they had a password before. */
  again: z.boolean(),
})
export type Welcome = Readonly<z.output<typeof welcomeSchema>>
const token = z.string().min(1).max(100)
export const welcomeTokenSchema = z.strictObject({ token })
export const welcomedSchema = z.strictObject({ token, name: personName.optional(), password: newPassword })

/** An account, as administrators see it. */
export const accountSchema = z.object({
  id: z.string(),
  name: z.string(),
  administrator: z.boolean(),
  /** Has not chosen a password yet; may sign in; may not any more. */
  state: z.enum(['invited', 'open', 'closed']),
  /** ISO 8601 in UTC. */
  since: z.string(),
  seenAt: z.string().nullable(),
  /** In how many plans they have a part. */
  plans: z.int(),
})
export type PersonAccount = Readonly<z.output<typeof accountSchema>>
export const invitationSchema = z.strictObject({
  name: personName,
  administrator: z.boolean().default(false),
})
export const accountChangeSchema = z.strictObject({
  closed: z.boolean().optional(),
  administrator: z.boolean().optional(),
})
/** A link by which somebody chooses a password: it is told once. */
export const madeInvitationSchema = accountSchema.extend({ token: z.string(), until: z.string() })
export type MadeInvitation = Readonly<z.output<typeof madeInvitationSchema>>

/** Who has a part in a plan, and whom else there is to give one. */
export const planPeopleSchema = z.object({
  people: z.array(z.object({ id: z.string(), name: z.string(), role: roleSchema })),
  others: z.array(z.object({ id: z.string(), name: z.string() })),
})
export type PlanPeople = Readonly<z.output<typeof planPeopleSchema>>
/** @property role - null takes the part in the plan away */
export const givenRoleSchema = z.strictObject({ role: roleSchema.nullable() })
