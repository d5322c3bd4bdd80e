import { assumptions } from './parts/assumptions.ts'
import { activities, milestones } from './parts/dates.ts'
import { forecast } from './parts/forecast.ts'
import { ground } from './parts/ground.ts'
import { money } from './parts/money.ts'
import { reviewed } from './parts/reviewed.ts'
import { scenarios } from './parts/scenarios.ts'
import { summary } from './parts/summary.ts'
import { variance } from './parts/variance.ts'
import type { Plan } from '../plan/schema.ts'
import type { ReportBlock } from './report.ts'
import type { ReportContext } from './reportContext.ts'

interface Part {
  readonly title: string
  /** What is in it, to who chooses. */
  readonly words: string
  readonly make: (context: ReportContext) => readonly ReportBlock[]
}

/** Everything that a report may hold, in the order in which it stands there; a new part is added here. */
export const REPORT_PARTS = {
  summary: {
    title: 'The answer',
    words: 'planned finish, what is required, how sure, what it costs',
    make: summary,
  },
  milestones: { title: 'Milestones', words: 'with their dates, P80 and floats', make: milestones },
  ground: {
    title: 'The network over time',
    words: 'the drawing, on as many sheets as it takes',
    make: ground,
  },
  review: {
    title: 'Review',
    words: 'what was found, accepted and not tested, and the 14 points',
    make: reviewed,
  },
  variance: {
    title: 'Against what was agreed',
    words: 'later than the baseline, on whose account; the updates',
    make: variance,
  },
  forecast: {
    title: 'Forecast',
    words: 'PERT and simulation, what drives it, what to set aside',
    make: forecast,
  },
  money: { title: 'Money', words: 'cost by group, damages, payments', make: money },
  scenarios: {
    title: 'Scenarios',
    words: 'side by side on the same draws, and which to choose',
    make: scenarios,
  },
  assumptions: {
    title: 'What it rests on',
    words: 'rules, calendars, dates that hold, estimates, risks, the seed',
    make: assumptions,
  },
  activities: { title: 'All activities', words: 'every one with its dates and float', make: activities },
} satisfies Readonly<Record<string, Part>>
export type ReportPartName = keyof typeof REPORT_PARTS

export const REPORT_PART_NAMES = Object.keys(REPORT_PARTS) as readonly ReportPartName[]

/** Parts that a plan says its report holds, in the order of the report; all where it says nothing. */
export const chosenParts = ({ project }: Plan): readonly ReportPartName[] => {
  const { report } = project
  return report === undefined
    ? REPORT_PART_NAMES
    : REPORT_PART_NAMES.filter((name) => report.parts.includes(name))
}
