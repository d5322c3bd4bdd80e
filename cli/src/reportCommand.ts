import {
  fromUnixTime,
  REPORT_PART_NAMES,
  reportOf,
  reportPage,
  type Report,
  type ReportPartName,
} from '@geodrome/core'
import { UsageError, wholeNumber, type Command } from './command.ts'
import { scenarioNamed } from './scenarioNamed.ts'

const FORMS = ['pdf', 'html'] as const

/** Parts by name; those that the plan says where none is. @throws UsageError */
const partsOf = (given: string | boolean | undefined): readonly ReportPartName[] | undefined => {
  if (given === undefined) return undefined
  const asked = String(given)
    .split(',')
    .map((name) => name.trim())
    .filter(Boolean)
  const unknown = asked.filter((name) => !REPORT_PART_NAMES.includes(name as ReportPartName))
  if (asked.length === 0 || unknown.length > 0)
    throw new UsageError(
      `--parts takes ${REPORT_PART_NAMES.join(', ')}${unknown.length > 0 ? `, not ${unknown.join(', ')}` : ''}`,
    )
  return asked as ReportPartName[]
}

/** The program that sets a page is loaded when a report is made, and no earlier. */
const written = async (report: Report, form: (typeof FORMS)[number]): Promise<string | Uint8Array> => {
  const { printReport, webFontRules } = await import('@geodrome/print')
  return form === 'pdf' ? printReport(report) : reportPage(report, webFontRules())
}

export const reportCommand: Command = {
  usage: 'FILE --to pdf|html [--parts LIST] [--scenario ID] [--iterations N] [--seed S] [--no-risks]',
  summary: 'the plan on paper: answer, drawing, review, variance, forecast, money, scenarios, assumptions',
  options: {
    to: { type: 'string' },
    parts: { type: 'string' },
    scenario: { type: 'string' },
    iterations: { type: 'string' },
    seed: { type: 'string' },
    'no-risks': { type: 'boolean' },
  },
  prepare: (options) => {
    const form = FORMS.find((name) => name === options.to)
    if (form === undefined) throw new UsageError('--to takes pdf or html')
    const parts = partsOf(options.parts)
    const iterations = wholeNumber(options.iterations, 'iterations', 5000, 1, 1_000_000)
    const seed = wholeNumber(options.seed, 'seed', 1, -2147483648, 4294967295)
    return async ({ plan }) => {
      const scenario =
        options.scenario === undefined ? null : scenarioNamed(plan, String(options.scenario)).id
      const report = reportOf(plan, {
        ...(parts && { parts }),
        scenario,
        iterations,
        seed,
        risks: options['no-risks'] !== true,
        at: fromUnixTime(Date.now()),
      })
      return { json: await written(report, form), text: () => '' }
    }
  },
}
