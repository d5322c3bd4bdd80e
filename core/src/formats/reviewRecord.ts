import { lengthsOf } from '../plan/durations.ts'
import type { Plan } from '../plan/schema.ts'
import { fitness } from '../review/fitness.ts'
import { fourteenPoints } from '../review/fourteenPoint.ts'
import { CHECKS, checkOf } from '../review/registry.ts'
import type { Review } from '../review/review.ts'
import type { Finding } from '../review/check.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { formatInstant } from '../time/instant.ts'
import { biasWords } from '../review/biasWords.ts'
import { effectWords } from '../review/effectWords.ts'
import { limitWords } from '../review/limitWords.ts'
import { writeCsv } from './writeCsv.ts'

/** A table of a record: a head and rows of texts and numbers, in this order. */
export interface RecordSheet {
  readonly name: string
  readonly head: readonly string[]
  readonly rows: readonly (readonly (string | number)[])[]
}

const FINDING_HEAD = [
  'state',
  'weight',
  'topic',
  'check',
  'finding',
  'activities',
  'value',
  'limit',
  'on the finish',
  'reason',
  'accepted by',
  'accepted at',
]

/** The review as tables: what was found and accepted, what was clean with its limits, the 14 points, and the head of the record. */
export const reviewRecord = (plan: Plan, schedule: Schedule, review: Review): RecordSheet[] => {
  const lengths = lengthsOf(plan, plan.project.calendar)
  const codes = new Map(plan.activities.map((a) => [a.id, a.code]))
  const row = (f: Finding, state: string, reason = '', by = '', at = ''): (string | number)[] => {
    const rule = checkOf(f.check)?.limit
    return [
      state,
      f.severity === 'moves-answer' ? 'moves the answer' : 'caution',
      f.topic,
      checkOf(f.check)?.title ?? f.check,
      f.message,
      f.activities.map((id) => codes.get(id) ?? id).join(' '),
      rule && f.value !== null ? limitWords(f.value, rule) : '',
      rule && f.threshold !== null ? limitWords(f.threshold, rule) : '',
      effectWords(f.effect, lengths),
      reason,
      by,
      at,
    ]
  }
  const { verdict, distortions } = fitness(review)
  const fourteen = fourteenPoints(plan, schedule)
  return [
    {
      name: 'Findings',
      head: FINDING_HEAD,
      rows: [
        ...review.findings.map((f) => row(f, review.reopened[f.fingerprint] ? 'open again' : 'open')),
        ...review.accepted.map(({ finding, acceptance }) =>
          row(finding, 'accepted', acceptance.reason, acceptance.by, acceptance.at),
        ),
      ],
    },
    {
      name: 'Checks',
      head: ['topic', 'check', 'open', 'limit', 'why this limit', 'why it matters'],
      rows: CHECKS.map((c) => [
        c.topic,
        c.title,
        review.counts[c.id] ?? 0,
        c.limit ? `${c.limit.label} ${limitWords(review.limits[c.id]!, c.limit)}` : '',
        c.limit?.reason ?? '',
        c.why,
      ]),
    },
    {
      name: '14 points',
      head: ['no.', 'point', 'counted', 'of', 'value', 'limit', 'result'],
      rows: fourteen.points.map((p) => [
        p.number,
        p.name,
        p.count,
        p.of,
        p.value === null
          ? ''
          : p.number > 12
            ? Math.round(p.value * 1000) / 1000
            : `${Math.round(p.value * 1000) / 10} %`,
        p.number > 12 ? `${p.rule} ${p.limit}` : `${p.rule} ${Math.round(p.limit * 100)} %`,
        p.passes === null ? 'nothing to measure' : p.passes ? 'passes' : 'fails',
      ]),
    },
    {
      name: 'Record',
      head: ['what', 'value'],
      rows: [
        ['project', `${plan.project.code} ${plan.project.name}`.trim()],
        ['planned finish', formatInstant(schedule.projectFinish)],
        ['required finish', plan.project.requiredFinish ?? 'none'],
        ['status date', plan.project.statusDate ?? 'none'],
        ['open findings', review.findings.length],
        ['accepted findings', review.accepted.length],
        ['fit to forecast', verdict],
        ...distortions.map((d): [string, string] => [
          biasWords(d.bias),
          `${d.title} (${d.count}): ${d.bias.because}`,
        ]),
        ['earlier review', plan.reviews.at(-1)?.at ?? 'none'],
      ],
    },
  ]
}

/** A table of a record as CSV (RFC 4180, CRLF). Cells that would begin a spreadsheet formula are written as text. */
export const sheetCsv = ({ head, rows }: RecordSheet): string => writeCsv([head, ...rows])
