import { CalendarError } from '../../time/calendar.ts'
import { formatInstant } from '../../time/instant.ts'
import { alternativeBeside, comparedPlan } from '../../alternatives/alternative.ts'
import { choiceWords } from '../../alternatives/choice.ts'
import { pairRuns } from '../../alternatives/pairing.ts'
import { sideBySide, type Compared } from '../../alternatives/sideBySide.ts'
import { finishesSvg } from '../../drawing/finishesSvg.ts'
import { markColour, markOf } from '../../drawing/marks.ts'
import { DAYLIGHT } from '../../drawing/tokens.ts'
import { behindIn } from '../../scenario/behind.ts'
import { scenarioPlan } from '../../scenario/scenarioPlan.ts'
import { answer, aside, heading, row, said, table, type ReportBlock } from '../report.ts'
import { finishesRun, type FinishesRun, type ReportContext } from '../reportContext.ts'

/** Beside the plan; more cannot be told apart on one sheet. */
const MOST_BESIDE = 5
const WIDTH = 860

interface Beside extends Compared {
  readonly name: string
  readonly why: string
  readonly run: FinishesRun | null
}

/** The plan and its scenarios side by side, on the same draws, and which to choose by what. */
export const scenarios = (context: ReportContext): ReportBlock[] => {
  const { base, options, required } = context
  if (base.scenarios.length === 0)
    return [said('The plan has no scenarios: there is nothing to choose between.')]
  const itself = comparedPlan(base)
  const simulated = (plan: typeof base): FinishesRun | null =>
    context.varies ? (plan === context.plan ? context.run : finishesRun(plan, options, required)) : null
  const own = simulated(base)
  const all: Beside[] = [
    { id: null, name: 'The plan', why: '', itself: itself.itself, beside: null, ...told(own, own) },
  ]
  const notes: string[] = []
  for (const { id, name, why } of base.scenarios.slice(0, MOST_BESIDE)) {
    const title = name || 'No name'
    const { plan, unfit } = scenarioPlan(base, id)
    for (const reason of unfit.values()) notes.push(`${title}: a change is left out: ${reason}`)
    for (const { since } of behindIn(base, id))
      notes.push(`${title}: the plan has changed under it since: ${since.join('; ')}`)
    try {
      const beside = alternativeBeside(itself, plan)
      all.push({ id, name: title, why, itself: beside, beside, ...told(simulated(plan), own) })
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error
      notes.push(`${title} has no dates: ${error.message}`)
    }
  }
  if (base.scenarios.length > MOST_BESIDE)
    notes.push(`${base.scenarios.length - MOST_BESIDE} more scenarios are not shown.`)
  const said_ = choiceWords(
    all.map(({ id, name, itself: one, result }) => ({
      name,
      isPlan: id === null,
      p80: result?.percentiles['80'] ?? null,
      finish: formatInstant(one!.finish),
      cost: one!.cost && one!.cost.work + one!.cost.damages,
      keeps: one!.short === null ? null : one!.short <= 0,
    })),
    base.project.requiredFinish,
    base.project.currency,
  )
  const drawing = finishesSvg(
    all.map(({ name, run, itself: one }, k) => ({
      name,
      mark: markOf(k),
      colour: markColour(DAYLIGHT, k),
      dots: run?.dots ?? [],
      percentiles: run?.percentiles ?? null,
      planned: one!.finish,
    })),
    required,
    DAYLIGHT,
    WIDTH,
  )
  return [
    ...(said_.length > 0 ? [answer(said_.join(' '))] : []),
    {
      kind: 'drawing',
      svg: drawing,
      words: 'The finishes of the plan and of its scenarios on one axis; the table says the same.',
    },
    ...table(
      ['Compared by', ...all.map(({ name }, k) => `>${markOf(k)} ${name}`)],
      sideBySide(base, all).map(({ name, words }) => row(name, ...words)),
    ),
    ...all.filter(({ why }) => why !== '').flatMap(({ name, why }) => [heading(name), said(why)]),
    ...notes.map(aside),
  ]
}

const told = (
  run: FinishesRun | null,
  plan: FinishesRun | null,
): Pick<Beside, 'run' | 'result' | 'pairing'> => ({
  run,
  result: run && {
    percentiles: run.percentiles,
    requiredProbability: run.requiredProbability,
  },
  pairing: run && plan && run !== plan ? pairRuns(plan.finish, run.finish) : null,
})
