import type { Instant } from '../time/instant.ts'
import type { Plan } from '../plan/schema.ts'
import { scenarioPlan } from '../scenario/scenarioPlan.ts'
import { schedule } from '../schedule/schedule.ts'
import { counted } from '../words/counted.ts'
import { dateWords, instantWords, spanEnd, withYearsOf } from '../words/dates.ts'
import type { Report, ReportPart } from './report.ts'
import { ReportContext } from './reportContext.ts'
import { chosenParts, REPORT_PARTS, REPORT_PART_NAMES, type ReportPartName } from './reportParts.ts'

export interface ReportOptions {
  /** All by default; they stand in the order of {@link REPORT_PARTS}. */
  readonly parts?: readonly ReportPartName[]
  /** The plan as a scenario sees it; null: as it is. */
  readonly scenario?: string | null
  /** The draws of its simulations, see SimulationOptions. */
  readonly iterations: number
  readonly seed: number
  readonly sampling?: 'lhs' | 'random'
  /** Iterations of a batch; all of them where none is said. */
  readonly batch?: number | undefined
  readonly risks?: boolean
  /** When it is made. */
  readonly at: Instant
}

/** Who follows a report while it is made. */
export interface ReportListener {
  /** Before each part. @param done - parts that are made, of how many */
  begins?(title: string, done: number, of: number): void
  made?(part: ReportPart): void
}

/**
 * A plan as a report. Dates are said with their year where the plan is longer than one.
 * @throws CalendarError where the plan has no dates; RangeError where a simulation is too large
 */
export const reportOf = (
  base: Plan,
  { parts = chosenParts(base), scenario = null, at, ...draws }: ReportOptions,
  listener: ReportListener = {},
): Report => {
  const seen = scenario === null ? null : scenarioPlan(base, scenario)
  const plan = seen?.plan ?? base
  const made = schedule(plan)
  const context = new ReportContext(base, plan, made, {
    sampling: 'lhs',
    risks: true,
    ...draws,
  })
  const { project } = plan
  const chosen = REPORT_PART_NAMES.filter((name) => parts.includes(name))
  return withYearsOf(made.projectStart, spanEnd(made.projectFinish, project.requiredFinish), () => ({
    title: project.name || project.code || 'A plan without a name',
    subtitle: [
      project.code,
      ...(scenario === null ? [] : [scenarioWords(base, scenario, seen!.unfit.size)]),
      project.statusDate === null
        ? 'not begun: no status date'
        : `as of ${dateWords(project.statusDate, 'start', { year: true })}`,
    ]
      .filter(Boolean)
      .join(' · '),
    made: instantWords(at, 'start', { year: true }),
    parts: chosen.map((name, k): ReportPart => {
      const { title, make } = REPORT_PARTS[name]
      listener.begins?.(title, k, chosen.length)
      const part = { name, title, blocks: make(context) }
      listener.made?.(part)
      return part
    }),
  }))
}

const scenarioWords = ({ scenarios }: Plan, id: string, leftOut: number): string => {
  const name = scenarios.find((one) => one.id === id)?.name || 'without a name'
  return `scenario ${name}${leftOut === 0 ? '' : `, ${counted(leftOut, 'change')} left out`}`
}
