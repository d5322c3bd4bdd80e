import { MINUTES_PER_DAY } from '../../time/instant.ts'
import { counted } from '../../words/counted.ts'
import { dateWords, instantWords } from '../../words/dates.ts'
import { frequencyWords } from '../../words/typedRange.ts'
import { roundMoneyWords } from '../../words/resources.ts'
import { answer, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

/** Activities of a path that are named at its beginning and at its end; between them stands how many there are more. */
const NAMED = 20

const pathWords = (codes: readonly string[]): string =>
  (codes.length <= 2 * NAMED
    ? codes
    : [
        ...codes.slice(0, NAMED),
        `${(codes.length - 2 * NAMED).toLocaleString('en')} more`,
        ...codes.slice(-NAMED),
      ]
  ).join(' → ')

/** By when it is finished, how far that is from what is asked, how sure it is, what it costs. */
export const summary = (context: ReportContext): ReportBlock[] => {
  const { plan, made, short, required } = context
  const { project, activities, links } = plan
  if (activities.length === 0)
    return [answer('There is no activity in this plan yet, so there is no finish to tell of.')]
  const finish = instantWords(made.projectFinish, 'finish')
  const asked = required === null ? '' : instantWords(required, 'finish', { time: false })
  const distance =
    short === null
      ? 'no finish is required'
      : short > 0
        ? `${context.minutes(short)} after the required ${asked}`
        : short < 0
          ? `${context.minutes(short)} before the required ${asked}`
          : `as required, on ${asked}`
  const path = activities
    .map(({ code }, i) => ({ code, start: made.start[i]!, isOn: made.onLongestPath[i] === 1 }))
    .filter(({ isOn }) => isOn)
    .sort((a, b) => a.start - b.start)
    .map(({ code }) => code)
  const { total, damages } = context.money
  const due = damages.reduce((sum, { amount }) => sum + amount, 0)
  const { findings } = context.review
  const movers = findings.filter(({ severity }) => severity === 'moves-answer').length
  const facts: [string, string][] = [
    ['Start', instantWords(made.projectStart, 'start')],
    ['Planned finish', finish],
  ]
  if (project.statusDate !== null)
    facts.unshift(['Status date', dateWords(project.statusDate, 'start', { year: true })])
  if (required !== null) facts.push(['Required finish', instantWords(required, 'finish')])
  if (context.varies) {
    const { summary: run, requiredProbability } = context.run
    facts.push(['80 % sure by', context.day(run.percentiles['80']!)])
    if (requiredProbability !== null) facts.push([`${asked} is kept in`, frequencyWords(requiredProbability)])
  }
  if (total.atCompletion !== 0)
    facts.push(['Cost at completion', roundMoneyWords(total.atCompletion, project.currency)])
  if (plan.damages.length > 0) facts.push(['Damages as planned', roundMoneyWords(due, project.currency)])
  facts.push(
    ['Network', `${counted(activities.length, 'activity')}, ${counted(links.length, 'link')}`],
    [
      'Review',
      findings.length === 0
        ? 'no finding is open'
        : `${counted(findings.length, 'finding')} open, ${movers} of them ${movers === 1 ? 'moves' : 'move'} the answer`,
    ],
  )
  return [
    answer(`Planned to finish on ${finish}, ${distance}.`),
    { kind: 'facts', facts },
    {
      kind: 'text',
      text: `The longest path, ${counted(path.length, 'activity')} over ${counted(
        Math.ceil((made.projectFinish - made.projectStart) / MINUTES_PER_DAY),
        'calendar day',
      )}: ${pathWords(path)}.`,
    },
  ]
}
