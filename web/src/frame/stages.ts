/** What the states of the stages follow from. */
export interface StageFacts {
  readonly activities: number
  readonly calendars: number
  /** Calendars that are changed in this browser, and not in the plan yet. */
  readonly draftedCalendars: number
  /** Scenarios that differ from the plan and have been forecast. */
  readonly compared: number
  readonly unconfirmed: number
  /** Activities with a start or finish that nothing leads to or follows, beside the declared ones; null while Review has not looked yet. */
  readonly openEnds: number | null
  readonly resources: number
  readonly assignments: number
  readonly baselines: number
  /** No work has begun, or the status date is that of a kept period. */
  readonly isUpdated: boolean
  /** Open findings; null while Review has not looked yet. */
  readonly findings: number | null
  readonly hasRequiredFinish: boolean
  /** Starts and finishes of the network are declared. */
  readonly hasEnds: boolean
  readonly isScheduled: boolean
  /** The plan as it stands has been simulated. */
  readonly isForecast: boolean
}
export interface StageState {
  readonly done: boolean
  /** Number of open questions. */
  readonly open: number
}
interface Stage {
  readonly name: string
  readonly label: string
  /** Behind the plan's address; what may follow it is the stage's own. */
  readonly path: string
  /** When it counts as done, and what skipping it costs. */
  readonly rule: string
  readonly state: (facts: StageFacts) => StageState
}

const stage = <N extends string>(of: Stage & { readonly name: N }): Stage & { readonly name: N } => of
const done = (isDone: boolean): StageState => ({ done: isDone, open: 0 })

/**
 * The stages in working order: rail, keys, palette and routes follow from here. The component of a stage is
 * `stages/<name>/<Name>Stage.vue`.
 */
export const STAGES = [
  stage({
    name: 'setup',
    label: 'Set-up',
    path: 'setup',
    rule: 'Done when there is a required finish and the starts and finishes of the network are declared. Without them float is measured against the plan itself.',
    state: ({ hasRequiredFinish, hasEnds }) => done(hasRequiredFinish && hasEnds),
  }),
  stage({
    name: 'calendars',
    label: 'Calendars',
    path: 'calendars',
    rule: 'Done when every calendar in use has working time. A calendar chosen after the durations changes what they mean.',
    state: ({ isScheduled, calendars, draftedCalendars }) => ({
      done: isScheduled && calendars > 0 && draftedCalendars === 0,
      open: draftedCalendars,
    }),
  }),
  stage({
    name: 'network',
    label: 'Network',
    path: 'network',
    rule: 'Done when every duration is confirmed and no end is open but the declared ones. Work that nothing follows moves nothing.',
    state: ({ activities, unconfirmed, openEnds }) => ({
      done: activities > 0 && openEnds === 0 && unconfirmed === 0,
      open: unconfirmed + (openEnds ?? 0),
    }),
  }),
  stage({
    name: 'resources',
    label: 'Resources',
    path: 'resources/:part?',
    rule: 'Done when there are resources and work that they are assigned to. Without them nothing waits for people, and nothing costs anything.',
    state: ({ resources, assignments }) => done(resources > 0 && assignments > 0),
  }),
  stage({
    name: 'review',
    label: 'Review',
    path: 'review/:part?',
    rule: 'Done when every finding is repaired or accepted with a reason. A forecast on a network with open ends is too good.',
    state: ({ findings, activities }) => ({ done: findings === 0 && activities > 0, open: findings ?? 0 }),
  }),
  stage({
    name: 'progress',
    label: 'Progress',
    path: 'progress/:part?',
    rule: 'Done when a baseline is frozen, and, once work has begun, an update is kept for the status date. Without a baseline nothing says what was agreed.',
    state: ({ baselines, isUpdated }) => done(baselines > 0 && isUpdated),
  }),
  stage({
    name: 'forecast',
    label: 'Forecast',
    path: 'forecast/:part?',
    rule: 'Done when the plan as it stands has been simulated. Without it there is a date, and no confidence.',
    state: ({ isForecast }) => done(isForecast),
  }),
  stage({
    name: 'scenarios',
    label: 'Scenarios',
    path: 'scenarios',
    rule: 'Done when an alternative that differs from the plan has been forecast beside it.',
    state: ({ compared }) => done(compared > 0),
  }),
  stage({
    name: 'handover',
    label: 'Handover',
    path: 'handover/:part?',
    rule: 'Report and export the plan when the answer stands.',
    state: () => done(false),
  }),
] as const
export type StageName = (typeof STAGES)[number]['name']
