import { biasWords } from '../../review/biasWords.ts'
import { effectWords } from '../../review/effectWords.ts'
import { fitness } from '../../review/fitness.ts'
import { fourteenPoints } from '../../review/fourteenPoint.ts'
import { CHECKS, checkOf } from '../../review/registry.ts'
import { verdictsOf } from '../../review/verdicts.ts'
import { counted } from '../../words/counted.ts'
import { answer, aside, heading, row, said, table, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

/** Findings of each kind that are listed: more is a workbook, not a report. */
const MOST_FINDINGS = 150

const VERDICT = {
  fit: 'The network is fit to forecast.',
  'with care': 'The network can be forecast with care.',
  'not fit': 'The network is not fit to forecast.',
} as const

/** What was found in the network, what was accepted and why, what could not be tested. */
export const reviewed = (context: ReportContext): ReportBlock[] => {
  const { plan, made, review, lengths } = context
  const { verdict, distortions } = fitness(review)
  const { clean, untested } = verdictsOf(plan, review)
  const movers = review.findings.filter(({ severity }) => severity === 'moves-answer')
  const others = review.findings.filter(({ severity }) => severity !== 'moves-answer')
  const untestedCount = untested.reduce((sum, { checks }) => sum + checks.length, 0)
  const listOf = (title: string, findings: typeof movers): ReportBlock[] =>
    findings.length === 0
      ? []
      : [
          heading(title),
          ...table(
            ['Finding', '>On the finish'],
            findings
              .slice(0, MOST_FINDINGS)
              .map(({ message, effect }) => row(message, effectWords(effect, lengths))),
          ),
          ...(findings.length > MOST_FINDINGS
            ? [
                aside(
                  `The first ${MOST_FINDINGS} of ${findings.length.toLocaleString('en')}, by their effect on the finish; the record of Review has all of them.`,
                ),
              ]
            : []),
        ]
  const points = fourteenPoints(plan, made).points
  return [
    answer(VERDICT[verdict]),
    said(
      `${CHECKS.length} checks: ${counted(review.findings.length, 'finding')} open, ${review.accepted.length} accepted; ${clean.length} checks clean, ${untestedCount} not tested.`,
    ),
    ...(distortions.length === 0
      ? []
      : [
          {
            kind: 'list' as const,
            items: distortions.map(
              ({ title, count, bias }) =>
                `${biasWords(bias)}: ${title.toLowerCase()} (${count}). ${sentence(bias.because)}`,
            ),
          },
        ]),
    ...listOf('Moves the answer', movers),
    ...listOf('To know of', others),
    ...(review.accepted.length > 0
      ? [
          heading('Accepted'),
          ...table(
            ['Finding', 'Reason', 'By'],
            review.accepted.map(({ finding, acceptance }) =>
              row(finding.message, acceptance.reason, acceptance.by),
            ),
          ),
        ]
      : []),
    ...(untested.length > 0
      ? [
          heading('Not tested'),
          {
            kind: 'list' as const,
            items: untested.map(
              ({ lacks, checks }) =>
                `${lacks}: ${checks.map(({ id }) => checkOf(id)!.title.toLowerCase()).join(', ')}`,
            ),
          },
        ]
      : []),
    heading('The 14 points'),
    ...table(
      ['>No.', 'Point', '>Counted', '>Value', '>Limit', 'Result'],
      points.map(({ number, name, count, of, value, rule, limit, passes }) =>
        row(
          String(number),
          name,
          `${count} of ${of}`,
          value === null ? '' : number > 12 ? String(Math.round(value * 1000) / 1000) : share(value),
          `${rule} ${number > 12 ? limit : `${Math.round(limit * 100)} %`}`,
          passes === null ? 'nothing to measure' : passes ? 'passes' : 'fails',
        ),
      ),
    ),
    aside('Effects on the finish are found by scheduling the plan without what was found.'),
  ]
}

const share = (value: number): string => `${Math.round(value * 1000) / 10} %`
const sentence = (text: string): string =>
  `${text.charAt(0).toUpperCase()}${text.slice(1)}${text.endsWith('.') ? '' : '.'}`
