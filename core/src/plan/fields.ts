import type { Plan, Project } from './schema.ts'

/**
 * The lists of the plan and the fields of their items, each with what it means to the rest of the program. The table is exhaustive
 * by type: a field of the schema that is not here does not compile.
 */

const byId = (item: { id: string }): string => item.id

/** Lists whose items changes add, set, move and remove, each with what identifies an item. */
export const LIST_KEYS = {
  calendars: byId,
  groups: byId,
  activities: byId,
  links: byId,
  resources: byId,
  risks: byId,
  baselines: byId,
  scenarios: byId,
  scenarioChanges: (item: { id: string; scenario: string }) => `${item.scenario}/${item.id}`,
  reviews: byId,
  views: byId,
  events: byId,
  periods: byId,
  damages: byId,
  spreads: byId,
  factors: byId,
  weather: byId,
  assignments: (item: { id?: string; activity: string; resource: string }) =>
    item.id ?? `${item.activity}|${item.resource}`,
  acceptances: (item: { check: string; fingerprint: string }) => `${item.check}|${item.fingerprint}`,
} as const
export type ListName = keyof typeof LIST_KEYS
export const LIST_NAMES = Object.keys(LIST_KEYS) as ListName[]
/** Whether items of a list are named by their id alone: they can be looked for without making a key of each. */
export const isKeyedById = (list: ListName): boolean => LIST_KEYS[list] === byId

/** What setting a field can do. */
export interface FieldMeaning {
  /** In the words of the trade, for news and history. */
  readonly words: string
  /** What has to be scheduled again: nothing, what the item reaches, or the whole plan. */
  readonly schedules: 'nothing' | 'reach' | 'plan'
  /** Whether it can move a forecast that was made before. */
  readonly forecasts: boolean
  /** Which rules it can break: those of its own item, or any of the plan's. */
  readonly breaks: 'item' | 'plan'
}

/** Says something, and counts for nothing. */
const said = (words: string): FieldMeaning => ({
  words,
  schedules: 'nothing',
  forecasts: false,
  breaks: 'item',
})
/** Counts in forecasts and figures, not in dates. */
const figures = (words: string): FieldMeaning => ({ ...said(words), forecasts: true })
/** Moves the item and what it leads to. */
const moves = (words: string): FieldMeaning => ({ ...figures(words), schedules: 'reach' })
/** May move anything. */
const movesAll = (words: string): FieldMeaning => ({ ...figures(words), schedules: 'plan' })
/** Refers to other items, which must exist. */
const refers = (meaning: FieldMeaning): FieldMeaning => ({ ...meaning, breaks: 'plan' })

/** The named fields of a type that lets others pass. */
type Named<T> = { [P in keyof T as string extends P ? never : P]: T[P] }
type FieldsOf<T> = { readonly [P in keyof Named<T>]-?: FieldMeaning }

export const FIELDS: { readonly [L in ListName]: FieldsOf<Plan[L][number]> } & {
  readonly project: FieldsOf<Project>
} = {
  project: {
    code: said('code'),
    name: said('name'),
    responsible: said('who is responsible'),
    notes: said('notes'),
    start: refers(movesAll('start')),
    direction: refers(movesAll('direction')),
    finish: refers(movesAll('finish to work back from')),
    requiredFinish: movesAll('required finish'),
    statusDate: refers(movesAll('status date')),
    calendar: refers(movesAll('calendar')),
    currency: said('currency'),
    opens: { ...figures('declared starts'), breaks: 'plan' },
    closes: { ...figures('declared finishes'), breaks: 'plan' },
    criticalFloat: movesAll('float up to which work is critical'),
    nearCriticalFloat: said('float up to which work is near-critical'),
    lagOn: refers(movesAll('calendar of lags')),
    outOfSequence: movesAll('work out of sequence'),
    baseline: refers(said('baseline compared with')),
    weighting: said('weighting of percentages'),
    naming: said('house rule for names'),
    review: said('limits of Review'),
    report: said('parts of the report'),
    riskScale: said('words for chances and delays'),
    chain: refers(said('critical chain')),
  },
  calendars: {
    id: refers(movesAll('identity')),
    name: { ...said('name'), schedules: 'plan', breaks: 'plan' },
    parent: refers(movesAll('parent')),
    dayMinutes: refers(movesAll('length of a day')),
    weekMinutes: refers(movesAll('length of a week')),
    week: refers(movesAll('hours of the week')),
    seasons: refers(movesAll('seasons')),
    rota: refers(movesAll('rota')),
    windows: refers(movesAll('windows')),
    exceptions: refers(movesAll('named days')),
    origin: { ...said('origin'), schedules: 'plan', breaks: 'plan' },
  },
  groups: {
    id: refers(said('identity')),
    code: said('code'),
    name: said('name'),
    parent: refers(said('group around it')),
  },
  activities: {
    id: refers(movesAll('identity')),
    code: said('code'),
    name: said('name'),
    group: refers(said('group')),
    kind: refers(movesAll('kind')),
    edge: refers(movesAll('edge')),
    duration: moves('duration'),
    confirmed: said('confirmation of its duration'),
    calendar: refers(movesAll('calendar')),
    place: moves('placing'),
    constraints: moves('constraints'),
    aim: said('aim'),
    estimate: figures('estimate'),
    crash: said('crashing'),
    focused: said('focused duration'),
    buffer: said('buffer before it'),
    progress: moves('progress'),
    promise: { ...movesAll('promise'), breaks: 'item' },
    split: said('whether it may pause for a resource'),
    cost: figures('cost'),
    payment: said('payment'),
    decision: said('decision'),
    owner: said('owner'),
    tags: said('tags'),
    checklist: said('checklist'),
    notes: said('notes'),
  },
  links: {
    id: refers(movesAll('identity')),
    from: refers(movesAll('predecessor')),
    to: refers(movesAll('successor')),
    type: refers(moves('type')),
    lag: moves('lag'),
    lagOn: refers(movesAll('calendar of its lag')),
    nature: said('nature'),
    reason: said('reason'),
    ofGroup: refers(said('origin on a group')),
  },
  resources: {
    id: refers(figures('identity')),
    code: refers(figures('code')),
    name: refers(figures('name')),
    kind: refers(figures('kind')),
    price: refers(figures('price')),
    per: refers(figures('what its price is for')),
    available: refers(figures('availability')),
    calendar: refers(figures('calendar')),
    accrue: figures('when its cost falls due'),
    priceSpread: figures('spread of its price'),
  },
  damages: {
    id: refers(figures('identity')),
    name: figures('name'),
    measures: refers(figures('what is measured')),
    due: refers(figures('date agreed')),
    calendar: refers(figures('days that count')),
    per: figures('unit'),
    steps: refers(figures('steps')),
    cap: figures('most'),
  },
  assignments: {
    id: refers(figures('identity')),
    activity: refers(figures('activity')),
    resource: refers(figures('resource')),
    amount: refers(figures('amount')),
    drives: figures('whether its hours hold the work'),
  },
  risks: {
    id: refers(figures('identity')),
    code: { ...said('code'), breaks: 'plan' },
    name: { ...said('name'), breaks: 'plan' },
    probability: refers(figures('probability')),
    sign: refers(figures('threat or opportunity')),
    impacts: refers(figures('impacts')),
    work: refers(figures('work')),
    cost: refers(figures('cost')),
    mitigation: refers(figures('mitigation')),
  },
  spreads: {
    id: refers(figures('identity')),
    name: { ...said('name'), breaks: 'plan' },
    scope: refers(figures('scope')),
    low: refers(figures('low end')),
    likely: refers(figures('likely value')),
    high: refers(figures('high end')),
    shape: figures('shape'),
    ends: figures('what its ends are'),
    source: said('source'),
  },
  factors: {
    id: refers(figures('identity')),
    name: { ...said('name'), breaks: 'plan' },
    scope: refers(figures('scope')),
    low: refers(figures('low end')),
    likely: refers(figures('likely value')),
    high: refers(figures('high end')),
    shape: figures('shape'),
    source: said('source'),
  },
  weather: {
    id: refers(figures('identity')),
    calendar: refers(figures('calendar')),
    months: figures('chances by month'),
  },
  baselines: {
    id: refers(said('identity')),
    name: said('name'),
    frozen: said('date'),
    by: said('author'),
    note: said('note'),
    ink: said('ink'),
    basis: said('basis'),
    activities: said('dates'),
  },
  periods: {
    id: said('identity'),
    name: said('name'),
    statusDate: said('status date'),
    closed: said('date'),
    by: said('author'),
    note: said('note'),
    changes: said('changes'),
    finish: said('finish'),
    dates: said('dates'),
    runs: said('forecasts'),
  },
  acceptances: {
    check: said('check'),
    fingerprint: said('facts'),
    reason: said('reason'),
    by: said('author'),
    at: said('date'),
    facts: said('facts'),
  },
  scenarios: {
    id: said('identity'),
    name: said('name'),
    by: said('author'),
    why: said('purpose'),
    holdsIf: said('assumption'),
    base: refers(figures('what it stands on')),
  },
  scenarioChanges: {
    id: said('identity'),
    scenario: refers(figures('scenario')),
    change: figures('change'),
    was: said('what it found'),
  },
  reviews: {
    id: said('identity'),
    at: said('date'),
    by: said('author'),
    note: said('note'),
    finish: said('finish'),
    counts: said('counts'),
    accepted: said('accepted findings'),
    open: said('open findings'),
  },
  views: {
    id: said('identity'),
    name: said('name'),
    columns: said('columns'),
    widths: said('widths'),
    sort: said('order'),
    across: said('order'),
    groupBy: said('grouping'),
    conditions: said('conditions'),
  },
  events: {
    id: said('identity'),
    number: said('number'),
    name: said('name'),
    ends: said('what ends there'),
    begins: said('what begins there'),
  },
}

/** What a field means that the program does not know: it is kept, and counts for whatever it might. */
const UNKNOWN: FieldMeaning = { words: '', schedules: 'plan', forecasts: true, breaks: 'plan' }

export const meaningOf = (list: ListName | 'project', field: string): FieldMeaning => {
  const fields = FIELDS[list] as Readonly<Record<string, FieldMeaning>>
  return Object.hasOwn(fields, field) ? fields[field]! : UNKNOWN
}

/** What adding, removing and moving items of a list can do, beside setting their fields. */
export interface ListMeaning {
  /** One of it, for "2 risks changed". */
  readonly one: string
  readonly schedules: boolean
  readonly forecasts: boolean
  /** Whether other items refer to its items, or rules look at them together. */
  readonly breaks: boolean
}
const loose = (one: string): ListMeaning => ({ one, schedules: false, forecasts: false, breaks: false })

export const LISTS: { readonly [L in ListName]: ListMeaning } = {
  calendars: { one: 'calendar', schedules: true, forecasts: true, breaks: true },
  groups: { one: 'group', schedules: false, forecasts: false, breaks: true },
  activities: { one: 'activity', schedules: true, forecasts: true, breaks: true },
  links: { one: 'link', schedules: true, forecasts: true, breaks: true },
  resources: { one: 'resource', schedules: false, forecasts: true, breaks: true },
  assignments: { one: 'assignment', schedules: false, forecasts: true, breaks: true },
  damages: { one: 'damages clause', schedules: false, forecasts: true, breaks: true },
  spreads: { one: 'spread', schedules: false, forecasts: true, breaks: true },
  factors: { one: 'factor', schedules: false, forecasts: true, breaks: true },
  weather: { one: 'weather', schedules: false, forecasts: true, breaks: true },
  risks: { one: 'risk', schedules: false, forecasts: true, breaks: true },
  baselines: { ...loose('baseline'), breaks: true },
  periods: loose('period'),
  acceptances: loose('acceptance'),
  scenarios: { ...loose('scenario'), forecasts: true, breaks: true },
  scenarioChanges: { one: 'change of a scenario', schedules: false, forecasts: true, breaks: true },
  reviews: loose('saved review'),
  views: loose('view'),
  events: loose('event'),
}
