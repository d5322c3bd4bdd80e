import { NONE } from '../../network/network.ts'
import { distributionSvg } from '../../drawing/distributionSvg.ts'
import { DAYLIGHT } from '../../drawing/tokens.ts'
import { DATE_SCALE } from '../../drawing/valueScale.ts'
import { pert } from '../../forecast/pert.ts'
import { lookAtRun } from '../../forecast/simulate/lookAtRun.ts'
import { formatInstant } from '../../time/instant.ts'
import { chanceWords, frequencyWords } from '../../words/typedRange.ts'
import { roundMoneyWords } from '../../words/resources.ts'
import { answer, aside, heading, row, said, table, type ReportBlock } from '../report.ts'
import type { ReportContext, ReportedRun } from '../reportContext.ts'

const WIDTH = 760
const RUNGS = [10, 50, 80, 90, 95]
const MOST_DRIVERS = 10
/** In 100, for which days and money are set aside. */
const CONFIDENCE = 80

const days = (value: number): string => `${(Math.round(value * 10) / 10).toLocaleString('en')} d`

/** How sure the finish is, by PERT and by simulation, what drives it, what to set aside. */
export const forecast = (context: ReportContext): ReportBlock[] => {
  const { plan, made } = context
  if (plan.activities.length === 0) return [said('There is nothing to forecast yet.')]
  const byPaths = pert(plan)
  const byPert = said(
    `By PERT the finish is expected on ${context.day(byPaths.finish)}, with a standard deviation of ${days(byPaths.sd)} on its path${
      byPaths.probability === null || byPaths.by === null
        ? ''
        : `; ${context.day(byPaths.by)} is kept in ${frequencyWords(byPaths.probability)}, if only that path mattered`
    }.`,
  )
  if (!context.varies)
    return [
      said(
        'Not simulated: no duration has an estimate or a spread, and there is no risk and no weather, so nothing varies.',
      ),
      byPert,
    ]
  const { run } = context
  const { summary, options, requiredProbability } = run
  const required =
    context.required === null ? null : { value: formatInstant(context.required), name: 'required' }
  return [
    answer(
      requiredProbability === null
        ? `80 % sure by ${context.day(summary.percentiles['80']!)}; the planned date is kept in ${frequencyWords(summary.plannedProbability)}.`
        : `${context.day(required!.value)} is kept in ${frequencyWords(requiredProbability)}; 80 % sure by ${context.day(summary.percentiles['80']!)}.`,
    ),
    aside(
      `${summary.iterations.toLocaleString('en')} iterations, seed ${summary.seed}, ${summary.sampling === 'lhs' ? 'Latin hypercube' : 'plain'} sampling, ${options.risks ? 'risks drawn' : 'without the risks'}. The same seed gives the same figures again.`,
    ),
    {
      kind: 'drawing',
      svg: distributionSvg(
        {
          scale: DATE_SCALE,
          dots: run.dots,
          percentiles: summary.percentiles,
          planned: formatInstant(made.projectFinish),
          asked: required,
        },
        DAYLIGHT,
        WIDTH,
      ),
      words: `Fifty finishes, each two in a hundred iterations, over the ladder of confidence: half of them by ${context.day(summary.percentiles['50']!)}, 80 of 100 by ${context.day(summary.percentiles['80']!)}.`,
    },
    ...table(
      ['In 100', 'Finished by', ...(summary.cost ? [`>Costs at most, ${plan.project.currency}`] : [])],
      RUNGS.map((p) =>
        row(
          String(p),
          context.day(summary.percentiles[String(p)]!),
          ...(summary.cost ? [Math.round(summary.cost.percentiles[String(p)]!).toLocaleString('en')] : []),
        ),
      ),
    ),
    byPert,
    ...drivers(context, run),
    ...setAside(context, run),
  ]
}

const drivers = ({ plan, made }: ReportContext, { summary }: ReportedRun): ReportBlock[] => {
  const rows = plan.activities
    .map((activity, i) => ({ activity, i, told: summary.activities[activity.id] }))
    .filter(
      ({ activity, told, i }) => activity.kind === 'work' && told !== undefined && made.start[i] !== NONE,
    )
    .sort(
      (a, b) =>
        Math.abs(b.told!.sensitivity) - Math.abs(a.told!.sensitivity) ||
        b.told!.criticality - a.told!.criticality ||
        a.i - b.i,
    )
    .slice(0, MOST_DRIVERS)
  return [
    heading('What drives the finish'),
    ...table(
      ['Code', 'Activity', '>Goes with the finish', '>On the longest path'],
      rows.map(({ activity, told }) =>
        row(
          activity.code,
          activity.name,
          (Math.round(told!.sensitivity * 100) / 100).toFixed(2),
          frequencyWords(told!.criticality),
        ),
      ),
    ),
    aside('Goes with the finish: the rank correlation of its duration with the finish, from −1 to 1.'),
    ...table(
      ['Risk', 'Name', '>Probability', '>Happened in'],
      plan.risks.flatMap((risk) => {
        const happened = summary.happened[risk.id]
        const chance = risk.mitigation?.done ? risk.mitigation.probability : risk.probability
        return happened === undefined
          ? []
          : [row(risk.code, risk.name, chanceWords(chance), frequencyWords(happened))]
      }),
    ),
  ]
}

const setAside = ({ plan }: ReportContext, { model, table: drawn }: ReportedRun): ReportBlock[] => {
  const found = lookAtRun(model, drawn, 'contingency', { percent: CONFIDENCE })
  const money = (amount: number): string => roundMoneyWords(amount, plan.project.currency)
  const facts: [string, string][] = [['Time', days(found.days.all)]]
  if (found.days.risks !== 0)
    facts.push(
      ['  spread and weather', days(found.days.spread)],
      ['  the risks on top', days(found.days.risks)],
    )
  if (found.money)
    facts.push(
      ['Money', money(found.money.all)],
      ['  hammocks that run on', money(found.money.overhead)],
      ['  damages', money(found.money.damages)],
      ['  what risks cost themselves', money(found.money.risks)],
      ['  the work itself', money(found.money.work)],
    )
  if (found.both !== null) facts.push(['Both are kept together', frequencyWords(found.both)])
  return [heading(`Contingency to P${CONFIDENCE}`), { kind: 'facts', facts }]
}
