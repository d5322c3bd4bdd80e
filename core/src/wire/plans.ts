import { z } from 'zod'
import type { Plan, PlanCalendar } from '../plan/schema.ts'
import { loggedChangeSchema } from './changes.ts'
import { ROLE_NAMES } from './people.ts'

/** Plans as they go over the wire. What is inside a plan was checked on its way in; here it is taken as it is. */
const plan = z.custom<Plan>((value) => typeof value === 'object' && value !== null && 'activities' in value)

/** A plan in the list of plans. */
export const planSummarySchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  revision: z.int(),
  changedAt: z.string(),
  /** Put away by somebody: still there, not in the list that is looked at every day. */
  archived: z.boolean().default(false),
  /** What who asks is in it. */
  role: z.enum(ROLE_NAMES).default('administrator'),
})
export type PlanSummary = Readonly<z.output<typeof planSummarySchema>>

/** What is found about a plan by scheduling and reviewing it. */
const planFactsSchema = z.object({
  activities: z.int(),
  /** Null where it has no activity, or no dates. */
  finish: z.string().nullable(),
  required: z.string().nullable(),
  /** Working minutes by which the required finish is missed; negative: to spare. */
  short: z.number().nullable(),
  dayMinutes: z.int(),
  /** Open ones, and those of them that move the answer; null where it has no dates. */
  findings: z.int().nullable(),
  movers: z.int().nullable(),
  /** Why it has no dates. */
  problem: z.string().nullable(),
  /** Where the buffer of the project stands, or why that cannot be said; null where no critical chain was agreed. */
  chain: z
    .union([
      z.object({
        /** Shares: of the chain that is done, of the buffer that is used. */
        progress: z.number(),
        consumption: z.number(),
        says: z.enum(['leave', 'plan', 'act']),
        /** Buffers that say so, that of the project among them. */
        act: z.int(),
        promised: z.string(),
        thresholds: z.array(z.tuple([z.number(), z.number()])),
      }),
      z.object({ problem: z.string() }),
    ])
    .nullable(),
})
export type PlanFacts = Readonly<z.output<typeof planFactsSchema>>

/** The same as of a revision, with what the newest run says that is not of a scenario. */
export const factsOfPlanSchema = planFactsSchema.extend({
  revision: z.int(),
  /** Null where none was run. */
  p80: z.object({ date: z.string(), isPast: z.boolean() }).nullable(),
})
export type FactsOfPlan = Readonly<z.output<typeof factsOfPlanSchema>>

/** What may be changed of a plan as a whole. */
export const planStandingSchema = z.strictObject({ archived: z.boolean() })

/** What keeps what a plan was: a baseline, a period. */
export const KEEPERS = ['baselines', 'periods'] as const
export type Keeper = (typeof KEEPERS)[number]

export const openedPlanSchema = z.object({
  id: z.string(),
  revision: z.int(),
  plan,
  /** The latest changes, newest first. */
  changes: z.array(loggedChangeSchema),
  /** Baselines and periods whose entries are not among it, and are asked for afterwards. */
  left: z.array(z.tuple([z.enum(KEEPERS), z.string()])).default([]),
  /** What who opened it is in it; who is alone at a machine does everything. */
  role: z.enum(ROLE_NAMES).default('administrator'),
})
/** What a baseline or a period says, by activity. */
export const saidThenSchema = z.record(z.string(), z.unknown())
export type OpenedPlan = Readonly<z.output<typeof openedPlanSchema>>

export const planAtSchema = plan

/** The plan as it was when a baseline was frozen or an update was kept, with it. */
export const keptPlanSchema = z.object({ revision: z.int(), at: z.string(), author: z.string(), plan })
export type KeptPlan = Readonly<z.output<typeof keptPlanSchema>>

/** What came of reading a plan file: its plan, and what was left out or done otherwise. */
export const importedPlanSchema = z.object({
  id: z.string(),
  notes: z.array(z.object({ pointer: z.string(), message: z.string() })),
  warnings: z.array(z.object({ message: z.string() })),
})

export const calendarsOfPlanSchema = z.object({
  planId: z.string(),
  plan: z.string(),
  calendars: z.array(z.custom<PlanCalendar>((value) => typeof value === 'object' && value !== null)),
})

/** A table of a file of another program, its cells as text. */
export const sheetSchema = z.object({ name: z.string(), rows: z.array(z.array(z.string())) })
export type Sheet = Readonly<z.output<typeof sheetSchema>>

/** How the columns of a list with these heads are read. The mapping is the reader's own; here it is only kept. */
export const sheetMappingSchema = z.strictObject({
  heads: z.string().min(1).max(10_000),
  /** Who sends such lists; '' where nobody was named. */
  sender: z.string().max(200),
  mapping: z.record(z.string().max(100), z.unknown()),
})
export type SheetMapping = Readonly<z.output<typeof sheetMappingSchema>>
