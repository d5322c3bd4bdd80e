import { z } from 'zod'
import type { Plan, PlanCalendar } from '../plan/schema.ts'
import { loggedChangeSchema } from './changes.ts'

/** Plans as they go over the wire. What is inside a plan was checked on its way in; here it is taken as it is. */
const plan = z.custom<Plan>((value) => typeof value === 'object' && value !== null && 'activities' in value)

/** A plan in the list of plans. */
export const planSummarySchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  revision: z.int(),
  changedAt: z.string(),
})
export type PlanSummary = Readonly<z.output<typeof planSummarySchema>>

export const openedPlanSchema = z.object({
  id: z.string(),
  revision: z.int(),
  plan,
  /** The latest changes, newest first. */
  changes: z.array(loggedChangeSchema),
})
export type OpenedPlan = Readonly<z.output<typeof openedPlanSchema>>

export const planAtSchema = plan

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
