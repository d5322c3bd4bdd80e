import { partHtml, reportOf, type Plan, type ReportOptions } from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

export interface ReportQuestion {
  readonly plan: Plan
  readonly options: ReportOptions
}
/** What is begun, and every part once it is made. */
export type ReportAnswer =
  | { readonly kind: 'begins'; readonly title: string; readonly done: number; readonly of: number }
  | { readonly kind: 'part'; readonly name: string; readonly html: string }
  | { readonly kind: 'head'; readonly title: string; readonly subtitle: string; readonly made: string }

serveLongWork<ReportQuestion, ReportAnswer>(({ plan, options }, say) => {
  const { title, subtitle, made } = reportOf(plan, options, {
    begins: (part, done, of) => say({ kind: 'begins', title: part, done, of }),
    made: (part) => say({ kind: 'part', name: part.name, html: partHtml(part) }),
  })
  say({ kind: 'head', title, subtitle, made })
})
