import { constraintPhrase } from '../../words/constraintWords.ts'
import { counted } from '../../words/counted.ts'
import { dateWords, daysWords } from '../../words/dates.ts'
import { durationWords } from '../../words/durations.ts'
import { codesWords, scopeWords } from '../../words/scopeWords.ts'
import { amountsWords, chanceWords, factorsWords, monthChancesWords } from '../../words/typedRange.ts'
import { weekWords } from '../../words/weekWords.ts'
import type { Plan, PlanCalendar, Risk } from '../../plan/schema.ts'
import { heading, row, said, table, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

const LAG_CALENDAR: Readonly<Record<string, string>> = {
  from: 'on the calendar of the predecessor',
  to: 'on the calendar of the successor',
  project: 'on the calendar of the project',
  clock: 'round the clock',
}
/** Codes that are listed before only their number is told. */
const MOST_CODES = 40

/** What everything above rests on: calendars, rules, dates that hold, what varies and on whose word. */
export const assumptions = (context: ReportContext): ReportBlock[] => [
  ...rules(context),
  ...calendars(context.plan),
  ...held(context.plan),
  ...varying(context),
]

const rules = ({ plan, lengths, options, varies }: ReportContext): ReportBlock[] => {
  const { project } = plan
  const facts: [string, string][] = [
    ['Planned', project.direction === 'forward' ? 'forward, from its start' : 'backward, from its finish'],
    [
      'Lags count',
      LAG_CALENDAR[project.lagOn] ?? `on ${calendarName(plan, project.lagOn.replace(/^calendar:/, ''))}`,
    ],
    [
      'Out of sequence',
      project.outOfSequence === 'hold' ? 'links still hold what is left' : 'what is left follows the work',
    ],
    [
      'Critical',
      `with a total float up to ${project.criticalFloat === 0 ? '0' : durationWords(project.criticalFloat, lengths)}; near-critical up to ${durationWords(project.nearCriticalFloat, lengths)}`,
    ],
  ]
  if (varies)
    facts.push([
      'Simulated',
      `${options.iterations.toLocaleString('en')} iterations, seed ${options.seed}, ${options.risks ? 'with' : 'without'} the risks`,
    ])
  const unconfirmed = plan.activities.filter(
    ({ kind, confirmed, progress }) => kind === 'work' && !confirmed && progress.actualFinish === null,
  )
  if (unconfirmed.length > 0)
    facts.push(['Not yet confirmed', `the durations of ${listed(unconfirmed.map(({ code }) => code))}`])
  return [{ kind: 'facts', facts }]
}

const listed = (codes: readonly string[]): string =>
  codes.length > MOST_CODES ? counted(codes.length, 'activity') : codes.join(', ')

const calendarName = (plan: Plan, id: string): string => {
  if (id === 'clock') return 'Round the clock'
  return plan.calendars.find((one) => one.id === id)?.name || 'a calendar without a name'
}

const calendars = (plan: Plan): ReportBlock[] => [
  heading('Calendars'),
  ...table(
    ['Calendar', 'Hours', '>Activities'],
    plan.calendars.map((one) =>
      row(
        `${one.name || 'without a name'}${one.id === plan.project.calendar ? ', the project’s' : ''}`,
        hoursOf(plan, one),
        String(
          plan.activities.filter(({ calendar }) => (calendar ?? plan.project.calendar) === one.id).length,
        ),
      ),
    ),
  ),
]

const hoursOf = (plan: Plan, { week, seasons, windows, exceptions, parent }: PlanCalendar): string => {
  const works = (one: NonNullable<PlanCalendar['week']>): boolean =>
    Object.values(one).some((shifts) => shifts.length > 0)
  const said = [
    ...(week === null ? (parent === null ? ['round the clock'] : []) : works(week) ? [weekWords(week)] : []),
    ...seasons.map(({ from, to, week: inSeason }) => `${daysWords(from, to)}: ${weekWords(inSeason)}`),
    ...(windows.length > 0 ? [counted(windows.length, 'window')] : []),
    ...(exceptions.length > 0 ? [`${counted(exceptions.length, 'day')} or stretches of their own`] : []),
    ...(parent === null ? [] : [`what is off on ${calendarName(plan, parent)} is off here`]),
  ]
  return said.length === 0 ? 'never' : said.join('; ')
}

/** Dates that hold work, whatever its links say. */
const held = (plan: Plan): ReportBlock[] => {
  const rows = plan.activities.flatMap(({ code, name, constraints, promise }) => [
    ...constraints.map((one) => row(code, name, constraintPhrase(one))),
    ...(promise
      ? [
          row(
            code,
            name,
            `promised for ${dateWords(promise.finish, 'finish')}${promise.by ? ` by ${promise.by}` : ''}`,
          ),
        ]
      : []),
  ])
  if (rows.length === 0) return [heading('Dates that hold'), said('No date holds any activity.')]
  return [heading('Dates that hold'), ...table(['Code', 'Activity', 'Date'], rows)]
}

const varying = ({ plan, varies }: ReportContext): ReportBlock[] => {
  if (!varies) return [heading('What varies'), said('Nothing: no estimate, no spread, no risk, no weather.')]
  const own = plan.activities.filter(({ estimate }) => estimate !== null)
  return [
    heading('What varies'),
    said(
      own.length === 0
        ? 'No activity has an estimate of its own.'
        : `Estimates of their own: ${listed(own.map(({ code }) => code))}.`,
    ),
    ...table(
      ['Spread or factor', 'Holds for', '>Low / likely / high', 'On whose word'],
      [...plan.spreads, ...plan.factors].map((one) =>
        row(one.name || 'without a name', scopeWords(plan, one.scope), factorsWords(one), one.source),
      ),
    ),
    ...table(
      ['Weather on', 'A working day is lost'],
      plan.weather.map(({ calendar, months }) =>
        row(calendarName(plan, calendar), monthChancesWords(months)),
      ),
    ),
    ...table(
      ['Risk', 'Name', '>Probability', 'Strikes', '>Costs', 'Mitigation'],
      plan.risks.map(({ code, name, probability, impacts, work, cost, mitigation, sign }) =>
        row(
          code,
          `${name}${sign === 'opportunity' ? ' (opportunity)' : ''}`,
          chanceWords(probability),
          strikes(plan, impacts, work),
          cost ? amountsWords(cost) : '',
          mitigation
            ? `${mitigation.name || 'without a name'}, ${mitigation.done ? 'done' : 'not done'}`
            : 'none',
        ),
      ),
    ),
  ]
}

/** What a risk strikes: activities that it delays, work of its own. */
const strikes = (plan: Plan, impacts: Risk['impacts'], work: Risk['work']): string => {
  const struck = new Set(impacts.map(({ activity }) => activity))
  const codes = plan.activities.filter(({ id }) => struck.has(id)).map(({ code }) => code)
  return [
    ...(codes.length > 0 ? [codesWords(codes)] : []),
    ...((work?.length ?? 0) > 0 ? ['work of its own'] : []),
  ].join(', ')
}
