import { CalendarError, parseJson, PlanError, readPlan, schedule, type PlanIssue } from '@geodrome/core'
import { planRowsOf, type PlanRows } from '../db/planRowsOf.ts'
import { BadRequestError } from '../errors.ts'
import { readWorkbook, type Sheet } from './readWorkbook.ts'

/** What runs in a worker thread with limits of its own: reading of files that come from anywhere. */
export type ForeignTask =
  | { readonly kind: 'plan'; readonly file: Uint8Array }
  | { readonly kind: 'workbook'; readonly file: Uint8Array }

export interface ReadPlanFile {
  readonly rows: PlanRows
  readonly notes: readonly PlanIssue[]
  readonly warnings: readonly { readonly message: string }[]
}
/** Errors do not cross to another thread as what they are: what they say does. */
export type ForeignAnswer =
  | { readonly plan: ReadPlanFile }
  | { readonly sheets: readonly Sheet[] }
  | { readonly issues: readonly PlanIssue[] }
  | { readonly refused: string }

export default async (task: ForeignTask): Promise<ForeignAnswer> => {
  try {
    if (task.kind === 'workbook') return { sheets: await readWorkbook(task.file) }
    const { plan, notes } = readPlan(
      parseJson(Buffer.from(task.file.buffer, task.file.byteOffset, task.file.byteLength).toString('utf8')),
    )
    // A plan that cannot be scheduled is refused on the way in, with the calendar named.
    const { warnings } = schedule(plan)
    return { plan: { rows: planRowsOf(plan), notes, warnings } }
  } catch (error) {
    if (error instanceof PlanError) return { issues: error.issues }
    if (error instanceof CalendarError)
      return { issues: [{ pointer: '/calendars', code: 'no-working-time', message: error.message }] }
    if (error instanceof BadRequestError) return { refused: error.message }
    throw error
  }
}
