import {
  durationWords,
  formatInstant,
  instantOf,
  instantWords,
  shortDay,
  parseDate,
  readDate,
  readDuration,
  type Activity,
  type Answer,
  type DayLengths,
} from '@geodrome/core'

/** What was understood of a cell of an update; `null`: what was said there is taken back. */
export type TypedAnswer =
  { readonly ok: true; readonly answer: Answer | null } | { readonly ok: false; readonly why: string }

/** What a cell is read against. */
export interface CellGround {
  readonly activity: Activity
  readonly lengths: DayLengths
  /** Where it stands as planned. */
  readonly start: number
  readonly finish: number
  /** The new status date. */
  readonly status: number
}

const isBlank = (text: string): boolean => text.trim() === ''
const isAsPlanned = (text: string): boolean => /^(yes|y|ok|done|as planned|planned)$/i.test(text.trim())
const isNotYet = (text: string): boolean => /^(no|n|not yet|-|–)$/i.test(text.trim())
/** "20 may", "as planned", "not yet": when the work began. */
export const readStarted = (text: string, { start, finish, status }: CellGround): TypedAnswer => {
  if (isBlank(text)) return { ok: true, answer: { start: null } }
  if (isNotYet(text)) return { ok: true, answer: { unchanged: true } }
  if (isAsPlanned(text)) return { ok: true, answer: { start: formatInstant(start) } }
  const read = readDate(text, Math.min(start, status))
  if (!read.ok) return { ok: false, why: `${read.why}, “as planned” or “not yet”` }
  // A day without a time is the planned hour of that day, or the hour at which its day begins.
  const day = instantOf(read.date, 'start')
  const isPlannedDay = Math.floor(start / 1440) === Math.floor(day / 1440) && start < finish
  return {
    ok: true,
    answer: {
      start: parseDate(read.date)!.hasTime ? read.date : isPlannedDay ? formatInstant(start) : read.date,
    },
  }
}

/** "21 may", "as planned", "not yet": when the work was done. */
export const readFinished = (text: string, ground: CellGround): TypedAnswer => {
  const { activity, start, finish, status } = ground
  if (isBlank(text)) return { ok: true, answer: { finish: null } }
  if (isNotYet(text)) return { ok: true, answer: { unchanged: true } }
  // Work that nobody said had begun is said to have begun as planned.
  const begun = activity.progress.actualStart === null ? { start: formatInstant(start) } : {}
  if (isAsPlanned(text)) return { ok: true, answer: { ...begun, finish: formatInstant(finish) } }
  const read = readDate(text, Math.min(finish, status))
  if (!read.ok) return { ok: false, why: `${read.why}, “as planned” or “not yet”` }
  return { ok: true, answer: { finish: read.date } }
}

/** "5 d", "67 %": what is left, or how much is done. */
export const readLeft = (text: string, { activity, lengths }: CellGround): TypedAnswer => {
  if (isBlank(text)) return { ok: true, answer: { remaining: null } }
  if (isNotYet(text)) return { ok: true, answer: { unchanged: true } }
  if (activity.kind !== 'work') return { ok: false, why: 'a milestone has nothing left: give it its date' }
  const percent = /^(\d+(?:[.,]\d+)?)\s*%$/.exec(text.trim())
  if (percent) {
    const share = Number(percent[1]!.replace(',', '.'))
    if (share > 100) return { ok: false, why: `${percent[1]} % is more than all of it; write at most 100 %` }
    if (share === 100) return { ok: false, why: 'all of it is done: say when it finished' }
    return { ok: true, answer: { percent: share } }
  }
  const read = readDuration(text, lengths)
  if (!read.ok) return { ok: false, why: `${read.why}, or a percentage like 60 %` }
  if (read.minutes < 0) return { ok: false, why: 'less than nothing cannot be left' }
  if (read.minutes === 0) return { ok: false, why: 'nothing is left: say when it finished' }
  return { ok: true, answer: { remaining: read.minutes } }
}

/** "29 may": when whoever does it promises to be done. */
export const readPromise = (text: string, { activity, finish, status }: CellGround): TypedAnswer => {
  if (isBlank(text)) return { ok: true, answer: { promise: null } }
  const read = readDate(text, Math.max(status, Math.min(finish, status)))
  if (!read.ok) return { ok: false, why: read.why }
  return {
    ok: true,
    answer: { promise: { finish: read.date, by: activity.promise?.by || (activity.owner ?? '') } },
  }
}

type Stretches = NonNullable<Answer['suspended']>

/** "12 may" as the beginning or the end of the last stretch in which work stood still; no beginning takes the stretch away. */
export const readStretch = (
  edge: 'from' | 'to',
  text: string,
  before: Stretches,
  { activity, status }: CellGround,
): { readonly ok: true; readonly stretches: Stretches } | { readonly ok: false; readonly why: string } => {
  const last = before.at(-1) ?? null
  const others = before.slice(0, -1)
  if (isBlank(text)) {
    if (edge === 'from') return { ok: true, stretches: others }
    return { ok: true, stretches: last === null ? others : [...others, { from: last.from, to: null }] }
  }
  const read = readDate(text, status)
  if (!read.ok) return read
  if (edge === 'to' && last === null) return { ok: false, why: 'say first since when it stood still' }
  const next =
    edge === 'from' ? { from: read.date, to: last?.to ?? null } : { from: last!.from, to: read.date }
  const from = instantOf(next.from, 'start')
  if (next.to !== null && instantOf(next.to, 'start') <= from)
    return { ok: false, why: 'it cannot be taken up before it stood still' }
  const begun = activity.progress.actualStart
  if (begun !== null && from < instantOf(begun, 'start'))
    return { ok: false, why: `it began ${instantWords(instantOf(begun, 'start'), 'start')}, after that` }
  return { ok: true, stretches: [...others, next] }
}

/** What a cell shows: what was said, else what the plan has. */
export const cellWords = (
  column: 'started' | 'finished' | 'left' | 'promised',
  activity: Activity,
  answer: Answer | undefined,
  lengths: DayLengths,
): string => {
  const { progress, promise } = activity
  const day = (date: string | null, edge: 'start' | 'finish'): string =>
    date === null ? '' : shortDay(instantOf(date, edge), edge)
  switch (column) {
    case 'started':
      return answer?.unchanged && progress.actualStart === null
        ? 'not yet'
        : day(answer?.start === undefined ? progress.actualStart : answer.start, 'start')
    case 'finished':
      return day(answer?.finish === undefined ? progress.actualFinish : answer.finish, 'finish')
    case 'left':
      if (answer?.finish) return ''
      if (answer?.percent !== undefined) return `${answer.percent} %`
      if (answer?.remaining != null) return durationWords(answer.remaining, lengths)
      if (progress.remaining !== null) return durationWords(progress.remaining, lengths)
      return progress.percent > 0 && progress.actualFinish === null ? `${progress.percent} %` : ''
    case 'promised': {
      const said = answer?.promise === undefined ? promise : answer.promise
      return said === null ? '' : day(said.finish, 'finish')
    }
  }
}
