import { z } from 'zod'
import { parseDate } from '../time/instant.ts'

/** What a link shows: everything, the work of one party, or the dates that others wait for. */
export const SHOWN = ['all', 'party', 'milestones'] as const
export type Shown = (typeof SHOWN)[number]

/** A link as it is asked for. */
export const shareRequestSchema = z
  .strictObject({
    shows: z.enum(SHOWN),
    /** Whose work, where one party's is shown. */
    owner: z.string().trim().min(1).max(500).nullable().default(null),
    scenario: z.string().min(1).max(200).nullable().default(null),
    /** For whom it is; told to nobody but who made it. */
    title: z.string().trim().max(200).default(''),
    by: z.string().trim().max(200).default(''),
    /** The last day on which it opens; null: until it is revoked. */
    until: z
      .string()
      .refine((text) => parseDate(text) !== null && text.length === 10, 'a day is written YYYY-MM-DD')
      .nullable()
      .default(null),
  })
  .refine(({ shows, owner }) => shows !== 'party' || owner !== null, {
    message: 'say whose work it shows',
    path: ['owner'],
  })
export type ShareRequest = z.input<typeof shareRequestSchema>
export type ShareAsked = z.output<typeof shareRequestSchema>

/** A link in the list of a plan's links. Its address is not in it: that is known to who made it, and to nobody here. */
export const shareSchema = z.object({
  id: z.string(),
  shows: z.enum(SHOWN),
  owner: z.string().nullable(),
  scenario: z.string().nullable(),
  title: z.string(),
  by: z.string(),
  madeAt: z.string(),
  until: z.string().nullable(),
  /** When it was opened last; null: never. */
  openedAt: z.string().nullable(),
})
export type Share = Readonly<z.output<typeof shareSchema>>

/** A link that was just made, with what opens it: told once. */
export const madeShareSchema = shareSchema.extend({ token: z.string() })
export type MadeShare = Readonly<z.output<typeof madeShareSchema>>
