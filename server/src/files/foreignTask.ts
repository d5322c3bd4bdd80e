import { CalendarError, parseJson, PlanError, readPlan, schedule, type PlanIssue } from '@geodrome/core'
import { planRowsOf, type PlanRows } from '../db/planRowsOf.ts'
import { BadRequestError } from '../errors.ts'
import { answerTasks } from '../threads/answerTasks.ts'
import { readWorkbook, type Sheet } from './readWorkbook.ts'

export type ForeignKind = 'plan' | 'workbook'

export interface ReadPlanFile {
  readonly rows: PlanRows
  readonly notes: readonly PlanIssue[]
  readonly warnings: readonly { readonly message: string }[]
}
/** Errors do not cross to another process as what they are: what they say does. */
export type ForeignAnswer =
  | { readonly plan: ReadPlanFile }
  | { readonly sheets: readonly Sheet[] }
  | { readonly issues: readonly PlanIssue[] }
  | { readonly refused: string }

/** What runs in a process of its own, with limits of its own: reading of files that come from anywhere. */
const read = async (kind: ForeignKind, file: Uint8Array): Promise<ForeignAnswer> => {
  try {
    if (kind === 'workbook') return { sheets: await readWorkbook(file) }
    const { plan, notes } = readPlan(parseJson(Buffer.from(file.buffer).toString('utf8')))
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

answerTasks((kind, file) => read(kind as ForeignKind, file))
