import type { MessagePort } from 'node:worker_threads'
import {
  CalendarError,
  planFacts,
  reportOf,
  reportPage,
  type Plan,
  type PlanFacts,
  type ReportLine,
  type ReportOptions,
} from '@geodrome/core'
import { printReport, webFontRules } from '@geodrome/print'

/** What runs in a worker thread: reports, and what the list of plans says of one. */
export type AnalysisTask = ReportTask | { readonly kind: 'facts'; readonly plan: Plan }
export interface ReportTask {
  readonly kind: 'report'
  readonly plan: Plan
  readonly options: ReportOptions
  readonly to: 'pdf' | 'html'
  /** Where it says how far it is; null when all is said. */
  readonly port: MessagePort
}
/** Errors do not cross to another thread as what they are: what they say does. */
export type ReportAnswer = { readonly file: Uint8Array } | { readonly refused: string }

export default (task: AnalysisTask): Promise<ReportAnswer> | PlanFacts =>
  task.kind === 'facts' ? planFacts(task.plan) : report(task)

const report = async ({ plan, options, to, port }: ReportTask): Promise<ReportAnswer> => {
  const say = (line: ReportLine): void => port.postMessage(line)
  try {
    let [done, of] = [0, 1]
    const report = reportOf(plan, options, {
      begins: (title, k, parts) => {
        // Setting it is the last of what is to be done.
        ;[done, of] = [k + 1, parts + 1]
        say({ doing: title, done: k, of })
      },
    })
    say({ doing: to === 'pdf' ? 'Setting the pages' : 'Writing the page', done, of })
    return {
      file:
        to === 'pdf'
          ? await printReport(report)
          : new TextEncoder().encode(reportPage(report, webFontRules())),
    }
  } catch (error) {
    if (error instanceof CalendarError || error instanceof RangeError) return { refused: error.message }
    throw error
  } finally {
    port.postMessage(null)
  }
}
