import {
  accountsOf,
  activityCosts,
  agreedMoney,
  applyUnchecked,
  askedBy,
  askedIn,
  availableAt,
  baselineOf,
  experiments,
  floatNow,
  formatInstant,
  freeze,
  instantOf,
  isOfPart,
  loadByDay,
  loadsOf,
  lookAhead,
  overloadGroups,
  pert,
  moneyView,
  newPeriod,
  previewUpdate,
  realisedBy,
  reschedule,
  saidAndDone,
  schedule,
  updateChange,
  varianceOf,
  doneOf,
  updateSheets,
  type RecordSheet,
  type Done,
  waysOut,
  type Account,
  type AgreedMoney,
  type Ahead,
  type Answers,
  type Asked,
  type BaselineWords,
  type Change,
  type Dates,
  type Experiment,
  type FloatCounts,
  type LoadPart,
  type MoneyView,
  type OverloadGroup,
  type Plan,
  type PertOptions,
  type PertReport,
  type Realised,
  type Resource,
  type ResourceLoad,
  type SaidAndDone,
  type Schedule,
  type UpdatePreview,
  type Variance,
  type WayOut,
} from '@geodrome/core'

/** One resource's load, as a screen shows it. Activities by their position in the plan. */
export interface LoadView {
  readonly resource: Resource
  readonly peak: number
  /** Largest load of each day from `LoadsView.firstDay` on. */
  readonly byDay: Float64Array
  /** The same of the part that was asked about; null where none was. */
  readonly partByDay: Float64Array | null
  /** What each activity asks for, with the time from its start to its finish. */
  readonly uses: readonly { readonly activity: number; readonly amount: number }[]
  readonly overloads: readonly OverloadGroup[]
  readonly outside: ResourceLoad['outside']
}
export interface LoadsView {
  /** Number of the first day, and of the day behind the last. */
  readonly firstDay: number
  readonly endDay: number
  readonly loads: readonly LoadView[]
}

const loads = (
  made: Schedule,
  { dates, part }: { readonly dates: Dates; readonly part: LoadPart | null },
): LoadsView => {
  const found = loadsOf(made, dates)
  const parts = part === null ? null : loadsOf(made, dates, isOfPart(made.network.plan, part))
  let [first, last] = [made.projectStart as number, made.projectFinish as number]
  for (const { from } of found) {
    if (from.length === 0) continue
    first = Math.min(first, from[0]!)
    last = Math.max(last, from.at(-1)!)
  }
  const { statusDate } = made.network.plan.project
  if (statusDate !== null) first = Math.min(first, instantOf(statusDate, 'start'))
  const [firstDay, endDay] = [Math.floor(first / 1440), Math.ceil(last / 1440)]
  return {
    firstDay,
    endDay,
    loads: found.map((load, k) => ({
      resource: load.resource,
      peak: load.peak,
      byDay: loadByDay(load, firstDay, endDay - firstDay),
      partByDay: parts && loadByDay(parts[k]!, firstDay, endDay - firstDay),
      uses: askedIn(load, { from: firstDay * 1440, to: endDay * 1440 }),
      overloads: overloadGroups(load),
      outside: load.outside,
    })),
  }
}

/** What is asked of a resource on a day: by whom, and how much there is at its most. */
interface DayLoad {
  readonly day: number
  readonly asked: readonly { readonly activity: number; readonly amount: number }[]
  /** Most at once, which is less than the sum where they follow each other. */
  readonly load: number
  readonly available: number
}
const dayLoad = (
  made: Schedule,
  { dates, resource, day }: { readonly dates: Dates; readonly resource: string; readonly day: number },
): DayLoad | null => {
  const load = loadsOf(made, dates).find((one) => one.resource.id === resource)
  if (!load) return null
  const [from, to] = [day * 1440, (day + 1) * 1440]
  return {
    day,
    asked: askedIn(load, { from, to }),
    load: loadByDay(load, day, 1)[0]!,
    available: Math.max(availableAt(load.availability, from), availableAt(load.availability, to - 1)),
  }
}

/** An overload is named by its resource and the instant at which it begins. */
const ways = (
  made: Schedule,
  { resource, from }: { readonly resource: string; readonly from: number },
): readonly WayOut[] => {
  const load = loadsOf(made).find((one) => one.resource.id === resource)
  const overload = load && overloadGroups(load).find((one) => one.from === from)
  return load && overload ? waysOut(made, load, overload) : []
}

/** Money as it is, beside what was agreed where a baseline says it. */
export interface MoneyBeside extends MoneyView {
  readonly agreed: AgreedMoney | null
}
const money = (made: Schedule, _all: Record<string, never>): MoneyBeside => {
  const now = moneyView(made)
  const baseline = baselineOf(made.network.plan)
  const { firstDay, early } = now.curve
  return { ...now, agreed: baseline && agreedMoney(made, baseline, firstDay, early.length) }
}

/** When each activity of another plan begins and ends; throws where it has no dates. */
export interface DatesThere {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly start: string
  readonly finish: string
}
const datesThere = (_made: Schedule, { plan }: { readonly plan: Plan }): readonly DatesThere[] => {
  const { start, finish } = schedule(plan)
  return plan.activities.map(({ id, code, name }, i) => ({
    id,
    code,
    name,
    start: formatInstant(start[i]!),
    finish: formatInstant(finish[i]!),
  }))
}

/** An update that is being written: its status date, and what was said. */
interface UpdateInput {
  readonly statusDate: string
  readonly answers: Answers
}
const asked = (
  made: Schedule,
  { statusDate, added }: { readonly statusDate: string; readonly added: readonly string[] },
): readonly Asked[] => askedBy(made, instantOf(statusDate, 'start'), new Set(added))
const updatePreview = (made: Schedule, { statusDate, answers }: UpdateInput): UpdatePreview =>
  previewUpdate(made, updateChange(made.network.plan, statusDate, answers), answers)
/** The same as sheets, one for each owner. */
const updateSheetsOf = (made: Schedule, { statusDate }: { readonly statusDate: string }): RecordSheet[] =>
  updateSheets(made, instantOf(statusDate, 'start'))
/** The change that keeps an update: what was said, and the period with the dates that follow from it. */
const keptUpdate = (
  made: Schedule,
  { statusDate, answers, ...words }: UpdateInput & { name: string; by: string; note: string; at: string },
): Change => {
  const change = updateChange(made.network.plan, statusDate, answers)
  const after = reschedule(made, applyUnchecked(made.network.plan, change).plan, change)
  const said = change.kind === 'all' ? change.changes : [change]
  return { kind: 'all', changes: [...said, newPeriod(after, words, Math.random)] }
}
/** A new baseline of all, or of some. */
const frozenNow = (
  made: Schedule,
  { only, ...words }: BaselineWords & { readonly only: readonly string[] | null },
): Change => freeze(made, words, only, baselineOf(made.network.plan), Math.random).change

/** Variance against the baseline compared with, and what is late on whose account; null without one. */
interface VarianceView extends Variance {
  readonly accounts: readonly Account[]
}
const variance = (made: Schedule, _all: Record<string, never>): VarianceView | null => {
  const baseline = baselineOf(made.network.plan)
  if (!baseline) return null
  const found = varianceOf(made, baseline, activityCosts(made))
  return { ...found, accounts: accountsOf(made, found) }
}
/** What is done of each activity, and how much it counts; as the project weighs. */
const done = (made: Schedule, _all: Record<string, never>): Done => doneOf(made)
const ahead = (made: Schedule, { weeks }: { readonly weeks: number }): readonly Ahead[] =>
  lookAhead(made, (made.network.statusDate ?? made.projectStart) + weeks * 7 * 1440)
const progressNow = (
  made: Schedule,
  { little }: { readonly little: number },
): { readonly float: FloatCounts; readonly realised: readonly Realised[] } => ({
  float: floatNow(made, little),
  realised: realisedBy(made),
})

const expected = (made: Schedule, question: PertOptions): PertReport => pert(made.network.plan, question)

const said = (made: Schedule, _all: Record<string, never>): readonly SaidAndDone[] => saidAndDone(made)

/** What becomes of the finish when each of some activities takes a step longer; a day of its own where none is said. */
const nudges = (
  made: Schedule,
  { activities, step }: { readonly activities: readonly string[]; readonly step?: number },
): readonly Experiment[] =>
  made.network.plan.project.direction === 'backward'
    ? []
    : experiments(
        made,
        activities.filter((id) => made.network.indexOf.has(id)),
        step,
      )

/** What a page can ask about the plan in view, beside its schedule: a new question is a function of that schedule and a line here. */
export const QUESTIONS = {
  loads,
  dayLoad,
  ways,
  money,
  asked,
  updatePreview,
  updateSheets: updateSheetsOf,
  datesThere,
  keptUpdate,
  frozenNow,
  variance,
  done,
  ahead,
  nudges,
  progressNow,
  expected,
  said,
} as const
export type QuestionName = keyof typeof QUESTIONS
export type QuestionInput<N extends QuestionName> = Parameters<(typeof QUESTIONS)[N]>[1]
export type QuestionAnswer<N extends QuestionName> = ReturnType<(typeof QUESTIONS)[N]>
