import { NONE } from '../../network/network.ts'
import { instantOf } from '../../time/instant.ts'
import { activityCosts } from '../../cost/activityCosts.ts'
import { baselineOf } from '../../progress/baselines.ts'
import { inOrder } from '../../progress/periods.ts'
import { accountsOf } from '../../progress/roots.ts'
import { varianceOf } from '../../progress/variance.ts'
import { counted } from '../../words/counted.ts'
import { dateWords, instantWords } from '../../words/dates.ts'
import { answer, aside, heading, row, said, table, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

const MOST_ROWS = 40

/** What is other than was agreed, on whose account, and where each update put the finish. */
export const variance = (context: ReportContext): ReportBlock[] => {
  const { plan, made } = context
  const baseline = baselineOf(plan)
  if (!baseline)
    return [
      said('No baseline was frozen, so there is nothing that the plan could differ from.'),
      ...updates(context),
    ]
  const found = varianceOf(made, baseline, activityCosts(made))
  const name = baseline.name || 'the baseline'
  const late = found.finish.filter((by) => by > 0).length
  const early = found.finish.filter((by) => by < 0 && by !== NONE).length
  const signed = (minutes: number): string =>
    minutes === NONE ? '–' : minutes === 0 ? '0' : `${minutes > 0 ? '+' : '−'}${context.minutes(minutes)}`
  const moved = accountsOf(made, found)
    .toSorted((a, b) => Number(b.reachesFinish) - Number(a.reachesFinish))
    .flatMap(({ activities, reachesFinish }) =>
      activities.map((i) => ({ i, root: activities[0]!, reachesFinish })),
    )
  return [
    answer(
      found.projectFinish === NONE
        ? `${name} says nothing of the finish.`
        : found.projectFinish === 0
          ? `The finish is where ${name} has it.`
          : `The finish is ${context.minutes(found.projectFinish)} ${found.projectFinish > 0 ? 'later' : 'earlier'} than ${name}: ${instantWords(found.agreedProjectFinish, 'finish')}.`,
    ),
    said(
      `${late} later, ${early} earlier${found.added === 0 ? '' : `; ${counted(found.added, 'activity')} not in it`}.`,
    ),
    ...table(
      ['Code', 'Later than agreed', 'Agreed', 'Now', '>By', 'On account of'],
      moved
        .slice(0, MOST_ROWS)
        .map(({ i, root, reachesFinish }) =>
          row(
            plan.activities[i]!.code,
            plan.activities[i]!.name,
            instantWords(found.agreedFinish[i]!, 'finish', { time: false }),
            instantWords(made.finish[i]!, 'finish', { time: false }),
            signed(found.finish[i]!),
            `${root === i ? 'its own' : plan.activities[root]!.code}${reachesFinish ? ', reaches the finish' : ''}`,
          ),
        ),
    ),
    ...(moved.length > MOST_ROWS
      ? [aside(`${MOST_ROWS} of ${moved.length} that are later, those that reach the finish first.`)]
      : []),
    ...updates(context),
  ]
}

/** Where each kept update put the finish. */
const updates = ({ plan, made }: ReportContext): ReportBlock[] => {
  const periods = inOrder(plan)
  if (periods.length === 0) return []
  return [
    heading('Updates'),
    ...table(
      ['Status date', 'Update', 'Finish then', 'By'],
      [
        ...periods.map(({ name, statusDate, finish, by }) =>
          row(
            dateWords(statusDate, 'start'),
            name,
            finish === null ? 'not said' : instantWords(instantOf(finish, 'finish'), 'finish'),
            by,
          ),
        ),
        row('now', '', instantWords(made.projectFinish, 'finish'), ''),
      ],
    ),
  ]
}
