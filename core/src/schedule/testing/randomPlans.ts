import fc from 'fast-check'
import { dayNumber, formatInstant } from '../../time/index.ts'
import { readPlan, type Plan } from '../../plan/index.ts'

/** The grid on which the oracle works: the project starts on its tenth day. */
export const GRID = { lowDay: dayNumber(2027, 2, 19), days: 60 }
const START = dayNumber(2027, 3, 1) * 1440

const CALENDARS = [
  { id: 'day', week: weekOf(['07:00-11:30', '12:15-15:45'], 5) },
  { id: 'watch', week: weekOf(['00:00-24:00'], 7), dayMinutes: 1440, weekMinutes: 10_080 },
  { id: 'night', week: weekOf(['22:00-06:00'], 6) },
  {
    id: 'six',
    parent: 'day',
    week: weekOf(['06:30-11:30', '12:00-16:30'], 6),
    exceptions: [{ name: 'Keel Day', from: '2027-03-03', to: '2027-03-04', shifts: [] }],
  },
  { id: 'few', week: { tue: ['09:00-12:00'], thu: ['09:00-12:00', '13:00-15:00'] } },
  { id: 'crew', week: weekOf(['06:00-18:00'], 7), rota: { from: '2027-02-25', on: 4, off: 3 } },
  {
    id: 'season',
    week: weekOf(['07:00-15:00'], 5),
    seasons: [{ from: '03-05', to: '03-12', yearly: true, week: weekOf(['05:00-09:00', '20:00-24:00'], 6) }],
  },
  {
    id: 'tide',
    windows: Array.from({ length: 500 }, (_, d) => {
      const day = dayNumber(2026, 12, 1) + d
      const from = 300 + ((d * 50) % 700)
      return [formatInstant(day * 1440 + from), formatInstant(day * 1440 + from + 200)]
    }),
  },
  {
    id: 'heir',
    parent: 'six',
    exceptions: [{ name: 'Extra', from: '2027-03-07', to: '2027-03-07', shifts: ['08:00-10:00'] }],
  },
]
function weekOf(shifts: string[], days: number): Record<string, string[]> {
  return Object.fromEntries(
    ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((d, i) => [d, i < days ? shifts : []]),
  )
}

let shared: Plan['calendars'] | null = null

const calendarId = fc.constantFrom(
  'day',
  'watch',
  'night',
  'six',
  'few',
  'heir',
  'crew',
  'season',
  'tide',
  'clock',
  null,
)
const minuteOfPlan = (from: number, to: number): fc.Arbitrary<string> =>
  fc.integer({ min: from, max: to }).map((m) => formatInstant(START + m))

export interface PlanOptions {
  readonly constraints: boolean
  readonly progress: boolean
  readonly calendars?: boolean
  readonly leads?: boolean
  /** Dates that override the logic, half of all constraints that can. */
  readonly overrides?: boolean
  /** Half of the activities placed as late as their floats allow. */
  readonly places?: boolean
  /** Work under way or done that was suspended, and may not be taken up again. */
  readonly suspensions?: boolean
}

/** Plans of up to nine activities with mixed calendars, all link types, lags and leads, constraints and progress as asked for. */
export const randomPlan = (options: PlanOptions): fc.Arbitrary<Plan> => {
  const calendar = options.calendars === false ? fc.constant('day') : calendarId
  const activity = fc.record({
    kind: fc.constantFrom('work', 'work', 'work', 'work', 'start', 'finish'),
    duration: fc.oneof(fc.integer({ min: 1, max: 900 }), fc.constantFrom(0, 60, 240, 270, 480, 540, 960)),
    calendar,
    constraint: options.constraints
      ? fc.option(
          fc.record({
            edge: fc.constantFrom('start', 'finish'),
            rule: fc.constantFrom('not-before', 'not-after', 'exactly'),
            date: fc.oneof(
              minuteOfPlan(-1440, 12 * 1440),
              minuteOfPlan(0, 10 * 1440).map((t) => t.slice(0, 10)),
            ),
            overrides: options.overrides ? fc.boolean() : fc.constant(false),
          }),
          { freq: 3 },
        )
      : fc.constant(null),
    progress: options.progress ? fc.constantFrom('none', 'none', 'started', 'finished') : fc.constant('none'),
    actual: fc.tuple(fc.integer({ min: -600, max: 4000 }), fc.integer({ min: 1, max: 3000 })),
    percent: fc.constantFrom(0, 25, 50, 90),
    suspended: options.suspensions
      ? fc.option(
          fc.array(fc.tuple(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: -900, max: 4000 })), {
            minLength: 1,
            maxLength: 2,
          }),
          { freq: 2 },
        )
      : fc.constant(null),
    promise: options.progress ? fc.option(minuteOfPlan(0, 9 * 1440), { freq: 3 }) : fc.constant(null),
    place: options.places ? fc.constantFrom('early', 'late') : fc.constant('early'),
  })
  const link = fc.record({
    ends: fc.tuple(fc.nat(), fc.nat()),
    type: fc.constantFrom('FS', 'FS', 'SS', 'FF', 'SF'),
    lag: fc.oneof(
      { weight: 3, arbitrary: fc.constant(0) },
      { weight: 2, arbitrary: fc.integer({ min: options.leads === false ? 0 : -700, max: 900 }) },
    ),
    lagOn:
      options.calendars === false
        ? fc.constant(null)
        : fc.constantFrom(null, null, 'to', 'clock', 'project', 'calendar:few'),
  })
  return fc
    .record({
      activities: fc.array(activity, { minLength: 1, maxLength: 9 }),
      links: fc.array(link, { maxLength: 16 }),
      required: options.constraints ? fc.option(minuteOfPlan(0, 20 * 1440)) : fc.constant(null),
      outOfSequence: fc.constantFrom('hold', 'follow'),
      status: fc.integer({ min: 0, max: 5 * 1440 }),
      startMinute: fc.constantFrom(0, 420, 700),
    })
    .map((shape) => {
      const n = shape.activities.length
      const statusDate = options.progress ? START + shape.status : null
      const { plan } = readPlan({
        format: 'geodrome-plan',
        version: 1,
        project: {
          start: formatInstant(START + shape.startMinute),
          calendar: 'day',
          statusDate: statusDate === null ? null : formatInstant(statusDate),
          requiredFinish: shape.required,
          outOfSequence: shape.outOfSequence,
        },
        calendars: CALENDARS,
        activities: shape.activities.map((a, i) => ({
          id: `a${i}`,
          kind: a.kind === 'work' ? 'work' : 'milestone',
          ...(a.kind === 'work' ? { duration: a.duration } : { edge: a.kind }),
          calendar: a.calendar,
          constraints:
            a.constraint === null
              ? []
              : [
                  {
                    ...a.constraint,
                    overrides: a.constraint.overrides && a.constraint.rule !== 'not-before',
                  },
                ],
          place: a.place,
          promise: a.promise === null ? null : { finish: a.promise },
          progress: {
            ...progressOf(a, START),
            ...(a.suspended === null
              ? {}
              : {
                  suspended: a.suspended.map(([from, length]) => ({
                    from: formatInstant(START + from),
                    to: length < -600 ? null : formatInstant(START + from + length),
                  })),
                }),
          },
        })),
        links: shape.links
          .filter(({ ends }) => ends[0] % n !== ends[1] % n)
          .map(({ ends, type, lag, lagOn }, i) => {
            const [from, to] = [ends[0] % n, ends[1] % n].sort((x, y) => x - y)
            return { id: `l${i}`, from: `a${from}`, to: `a${to}`, type, lag, lagOn }
          }),
      })
      // The same objects in every plan: their compiled tables are then shared.
      shared ??= plan.calendars
      return { ...plan, calendars: shared }
    })
}

const progressOf = (
  a: { progress: string; actual: [number, number]; percent: number; kind: string },
  origin: number,
) => {
  if (a.progress === 'none' || (a.progress === 'started' && a.kind !== 'work')) return {}
  const start = formatInstant(origin + a.actual[0])
  if (a.kind !== 'work') return { actualStart: start, actualFinish: start }
  if (a.progress === 'started') return { actualStart: start, percent: a.percent }
  return { actualStart: start, actualFinish: formatInstant(origin + a.actual[0] + a.actual[1]) }
}
