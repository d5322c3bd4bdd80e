import { formatInstant, instantOf, type Instant } from '../time/instant.ts'
import { workBetween } from '../time/arithmetic.ts'
import { lengthsOf, type DayLengths } from '../plan/durations.ts'
import type { Plan } from '../plan/schema.ts'
import { moneyView, type MoneyView } from '../cost/moneyView.ts'
import { finishesAlone } from '../forecast/simulate/finishes.ts'
import { iterationTable, runIterations, type IterationTable } from '../forecast/simulate/iterationTable.ts'
import { simulationModel, type SimulationModel, type SimulationOptions } from '../forecast/simulate/model.ts'
import { fiftyDots, summarise, type SimulationSummary } from '../forecast/simulate/summary.ts'
import { percentileSorted, shareAtOrBelow } from '../forecast/percentile.ts'
import { PERCENTILES } from '../forecast/simulate/amounts.ts'
import { review, type Review } from '../review/review.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { instantWords } from '../words/dates.ts'
import { durationWords } from '../words/durations.ts'

/** How the finishes of a run lie: what is kept of a run when its table is gone. */
export interface FinishesRun {
  /** By iteration. */
  readonly finish: Int32Array
  readonly dots: readonly string[]
  readonly percentiles: Readonly<Record<string, string>>
  /** Null without a required finish. */
  readonly requiredProbability: number | null
}
/** A run as the report tells it. */
export interface ReportedRun extends FinishesRun {
  readonly model: SimulationModel
  readonly table: IterationTable
  readonly options: SimulationOptions
  readonly summary: SimulationSummary
}

/** What several parts need, computed when it is first asked for. */
export class ReportContext {
  readonly lengths: DayLengths
  readonly required: Instant | null
  private reviewed: Review | null = null
  private counted: MoneyView | null = null
  private ran: ReportedRun | null = null

  /** The plan in view, its schedule, and the plan that its scenarios stand on. */
  constructor(
    readonly base: Plan,
    readonly plan: Plan,
    readonly made: Schedule,
    readonly options: SimulationOptions,
  ) {
    this.lengths = lengthsOf(plan, plan.project.calendar)
    const { requiredFinish } = plan.project
    this.required = requiredFinish === null ? null : instantOf(requiredFinish, 'finish')
  }
  get review(): Review {
    return (this.reviewed ??= review(this.plan, this.made))
  }
  get money(): MoneyView {
    return (this.counted ??= moneyView(this.made))
  }
  /** Whether anything varies or may happen: without it there is nothing to simulate. */
  get varies(): boolean {
    const { activities, spreads, factors, weather, risks } = this.plan
    return (
      spreads.length + factors.length + weather.length + risks.length > 0 ||
      activities.some(({ estimate }) => estimate !== null)
    )
  }
  get run(): ReportedRun {
    return (this.ran ??= runOf(this.plan, this.options, this.required))
  }
  /** Working minutes of the project calendar by which the required finish is missed; null without one. */
  get short(): number | null {
    if (this.required === null) return null
    const calendar = this.made.network.calendars.get(this.plan.project.calendar)
    return workBetween(calendar, this.required, this.made.projectFinish)
  }
  minutes(length: number): string {
    return durationWords(Math.abs(length), this.lengths)
  }
  /** The day of a date that the file or a run writes. */
  day(date: string): string {
    return instantWords(instantOf(date, 'finish'), 'finish', { time: false })
  }
}

const ran = (plan: Plan, options: SimulationOptions): Pick<ReportedRun, 'model' | 'table'> => {
  const model = simulationModel(plan, options)
  const table = iterationTable(model)
  runIterations(model, table)
  return { model, table }
}

const finishesOf = (finish: Int32Array, required: Instant | null): FinishesRun => {
  const sorted = finish.slice().sort()
  return {
    finish,
    dots: fiftyDots(sorted),
    percentiles: Object.fromEntries(
      PERCENTILES.map((p) => [String(p), formatInstant(percentileSorted(sorted, p))]),
    ),
    requiredProbability: required === null ? null : shareAtOrBelow(sorted, required),
  }
}

/** The finishes of a plan on the draws that the report is made on. */
export const finishesRun = (plan: Plan, options: SimulationOptions, required: Instant | null): FinishesRun =>
  finishesOf(finishesAlone(simulationModel(plan, options)), required)

const runOf = (plan: Plan, options: SimulationOptions, required: Instant | null): ReportedRun => {
  const { model, table } = ran(plan, options)
  return { ...finishesOf(table.finish, required), model, table, options, summary: summarise(model, table) }
}
