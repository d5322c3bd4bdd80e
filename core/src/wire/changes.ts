import { z } from 'zod'
import { changeSchema } from '../plan/change.ts'
import { hostileNames } from '../plan/hostile.ts'
import { PlanError } from '../plan/issue.ts'

/** What browsers and servers say to each other about changes; parsed on both ends. */

const uid = z.string().min(8).max(40)
const revision = z.int().min(0)

/** A change on its way to the server. */
export const sentChangeSchema = z
  .strictObject({
    /** Given by the sender: a change that is sent twice is applied once. */
    uid,
    /** The tab that sends it. */
    client: z.string().min(1).max(40),
    author: z.string().min(1).max(100),
    /** The revision that the sender had in view when it was made. */
    base: revision,
    /** The change itself, or the uid of a logged change to take back. */
    change: changeSchema.optional(),
    undoes: uid.nullish(),
  })
  .refine(
    (sent) => (sent.change === undefined) !== !sent.undoes,
    'give either a change or the one to take back',
  )
/** What is in a change stands deeper in a plan file, which may be 60 levels deep: what can be stored can be exported and read again. */
const MAX_DEPTH = 55

/**
 * A change as it was sent, with the names and the depth that files are held to.
 * @throws PlanError, z.ZodError
 */
export const readSentChange = (json: unknown): SentChange => {
  const issues = hostileNames(json, MAX_DEPTH)
  if (issues.length > 0) throw new PlanError(issues)
  return sentChangeSchema.parse(json)
}
export type SentChange = z.output<typeof sentChangeSchema>

/** A change as the log holds it and as everybody who has the plan open hears of it. */
export const loggedChangeSchema = z.object({
  /** The revision that it made. */
  revision,
  uid: z.string(),
  client: z.string(),
  author: z.string(),
  /** The uid of the change that it takes back. */
  undoes: z.string().nullable(),
  change: changeSchema,
  inverse: changeSchema,
  /** When it was stored, ISO 8601 in UTC. */
  at: z.string(),
})
export type LoggedChange = Readonly<z.output<typeof loggedChangeSchema>>

/** A question which changes are in the log. */
export const askedUidsSchema = z.strictObject({ uids: z.array(uid).max(5000) })
