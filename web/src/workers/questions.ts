import {
  instantOf,
  loadByDay,
  loadsOf,
  overloadGroups,
  moneyView,
  waysOut,
  type Dates,
  type MoneyView,
  type OverloadGroup,
  type Resource,
  type ResourceLoad,
  type Schedule,
  type WayOut,
} from '@geodrome/core'

/** One resource's load, as a screen shows it. Activities by their position in the plan. */
export interface LoadView {
  readonly resource: Resource
  readonly peak: number
  /** Largest load of each day from `LoadsView.firstDay` on. */
  readonly byDay: Float64Array
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

const loads = (made: Schedule, { dates }: { readonly dates: Dates }): LoadsView => {
  const found = loadsOf(made, dates)
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
    loads: found.map((load) => ({
      resource: load.resource,
      peak: load.peak,
      byDay: loadByDay(load, firstDay, endDay - firstDay),
      uses: [...new Map(load.uses.map(({ activity, amount }) => [activity, { activity, amount }])).values()],
      overloads: overloadGroups(load),
      outside: load.outside,
    })),
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

const money = (made: Schedule, _all: Record<string, never>): MoneyView => moneyView(made)

/** What a page can ask about the plan in view, beside its schedule: a new question is a function of that schedule and a line here. */
export const QUESTIONS = { loads, ways, money } as const
export type QuestionName = keyof typeof QUESTIONS
export type QuestionInput<N extends QuestionName> = Parameters<(typeof QUESTIONS)[N]>[1]
export type QuestionAnswer<N extends QuestionName> = ReturnType<(typeof QUESTIONS)[N]>
