import { instantOf, NONE, readDate, readDuration } from '@geodrome/core'
import type { CellContext } from './cellContext.ts'
import { columnOf } from './columns.ts'
import type { Condition } from './rowView.ts'

/** What a condition can ask of a field. */
export interface FilterField {
  readonly id: string
  readonly title: string
  readonly tests: readonly string[]
  /** Builds the question once for all rows. @returns why not, where the value cannot be understood */
  build(context: CellContext, test: string, value: string): ((index: number) => boolean) | string
}

const TEXT_TESTS = ['holds', 'does not hold', 'is', 'is empty', 'is not empty'] as const
const textField = (id: string): FilterField => ({
  id,
  title: columnOf(id)!.title,
  tests: TEXT_TESTS,
  build: (context, test, value) => {
    const column = columnOf(id)!
    const wanted = value.trim().toLowerCase()
    const text = (i: number): string => column.text(context, i).toLowerCase()
    if (test === 'is empty') return (i) => text(i) === ''
    if (test === 'is not empty') return (i) => text(i) !== ''
    if (wanted === '') return 'write what to look for'
    if (test === 'is') return (i) => text(i) === wanted
    return test === 'holds' ? (i) => text(i).includes(wanted) : (i) => !text(i).includes(wanted)
  },
})

const durationField = (id: 'duration' | 'float' | 'free'): FilterField => ({
  id,
  title: columnOf(id)!.title,
  tests: ['at most', 'at least'],
  build: ({ plan, view, calendars }, test, value) => {
    const { dayMinutes } = calendars.projectLengths
    const checked = readDuration(value, { dayMinutes, weekMinutes: 5 * dayMinutes })
    if (!checked.ok) return checked.why
    const minutes = (i: number): number =>
      id === 'duration'
        ? plan.activities[i]!.duration
        : id === 'float'
          ? view.totalFloat[i]!
          : view.freeFloat[i]!
    const limits = new Map<number, number>()
    // "2d" means two days of each activity's own calendar.
    const limit = (i: number): number => {
      const lengths = calendars.lengthsOf(plan.activities[i]!)
      let known = limits.get(lengths.dayMinutes)
      if (known === undefined) {
        const read = readDuration(value, lengths)
        limits.set(lengths.dayMinutes, (known = read.ok ? read.minutes : 0))
      }
      return known
    }
    return (i) =>
      minutes(i) !== NONE && (test === 'at most' ? minutes(i) <= limit(i) : minutes(i) >= limit(i))
  },
})

const dateField = (id: 'start' | 'finish'): FilterField => ({
  id,
  title: columnOf(id)!.title,
  tests: ['by', 'from'],
  build: ({ view }, test, value) => {
    const read = readDate(value, view.projectStart)
    if (!read.ok) return read.why
    const at = instantOf(read.date, test === 'by' ? 'finish' : 'start')
    const dates = id === 'start' ? view.start : view.finish
    return (i) => (test === 'by' ? dates[i]! <= at : dates[i]! >= at)
  },
})

const STATES: Readonly<Record<string, (context: CellContext, index: number) => boolean>> = {
  critical: ({ view }, i) => view.critical[i] === 1,
  'on the longest path': ({ view }, i) => view.onLongestPath[i] === 1,
  'short of float': ({ view }, i) => view.totalFloat[i] !== NONE && view.totalFloat[i]! < 0,
  'not confirmed': ({ plan }, i) => plan.activities[i]!.kind === 'work' && !plan.activities[i]!.confirmed,
  'without a link in': ({ plan, linksIn }, i) => !linksIn.has(plan.activities[i]!.id),
  'without a link out': ({ plan, linksOut }, i) => !linksOut.has(plan.activities[i]!.id),
  'with a constraint': ({ plan }, i) => plan.activities[i]!.constraints.length > 0,
  'a milestone': ({ plan }, i) => plan.activities[i]!.kind === 'milestone',
  'not started': ({ view }, i) => view.state[i] === 0,
  'under way': ({ view }, i) => view.state[i] === 1,
  finished: ({ view }, i) => view.state[i] === 2,
}
/** What views that were saved before call a state. */
const OLD_STATES: Readonly<Record<string, string>> = { 'held by a limit': 'with a constraint' }
const stateField: FilterField = {
  id: 'state',
  title: 'It is',
  tests: Object.keys(STATES),
  build: (context, test) => (i) => STATES[OLD_STATES[test] ?? test]!(context, i),
}

export const FILTER_FIELDS: readonly FilterField[] = [
  stateField,
  textField('name'),
  textField('code'),
  durationField('float'),
  durationField('duration'),
  durationField('free'),
  dateField('start'),
  dateField('finish'),
  textField('calendar'),
  textField('owner'),
  textField('tags'),
  textField('waits'),
  textField('notes'),
]

/** Whether a condition's test needs a value beside it. */
export const needsValue = ({ field, test }: Condition): boolean =>
  field !== 'state' && !test.endsWith('empty')

export interface RowFilter {
  /** Null where nothing is left out. */
  readonly keeps: ((index: number) => boolean) | null
  /** Why a condition is not in force, by its position. */
  readonly problems: ReadonlyMap<number, string>
}

/** All conditions as one question; those that cannot be understood are left out and said. */
export const buildFilter = (context: CellContext, conditions: readonly Condition[]): RowFilter => {
  const problems = new Map<number, string>()
  const questions: ((index: number) => boolean)[] = []
  conditions.forEach(({ field, test, value }, k) => {
    const built =
      FILTER_FIELDS.find((f) => f.id === field)?.build(context, test, value) ?? `there is no field ${field}`
    if (typeof built === 'string') problems.set(k, built)
    else questions.push(built)
  })
  return {
    keeps: questions.length === 0 ? null : (i) => questions.every((question) => question(i)),
    problems,
  }
}
