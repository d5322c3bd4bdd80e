import {
  durationWords,
  readAmount,
  formatInstant,
  instantOf,
  instantWords,
  shortDay,
  parseDate,
  readDate,
  readDuration,
  type Activity,
  percentBySteps,
  stepsOf,
  type Answer,
  type Calendar,
  type DayLengths,
} from '@geodrome/core'

/** What was understood of a cell of an update; `null`: what was said there is taken back. */
export type TypedAnswer =
  { readonly ok: true; readonly answer: Answer | null } | { readonly ok: false; readonly why: string }

/** What a cell is read against. */
export interface CellGround {
  readonly activity: Activity
  readonly lengths: DayLengths
  readonly calendar: Calendar
  /** What was said of it until now. */
  readonly answer: Answer | undefined
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

/** A share that was done, in percent, as an answer. */
const doneBy = (share: number, said: string): TypedAnswer => {
  if (share > 100) return { ok: false, why: `${said} is more than all of it; write at most 100 %` }
  if (share === 100) return { ok: false, why: 'all of it is done: say when it finished' }
  return { ok: true, answer: { percent: share } }
}

/** Percent of the duration that went by from its beginning to the status date. */
const percentByTime = ({ activity, answer, calendar, status }: CellGround): number | null => {
  const begun = answer?.start === undefined ? activity.progress.actualStart : answer.start
  if (begun === null) return null
  const worked = calendar.countBefore(status) - calendar.countBefore(instantOf(begun, 'start'))
  return Math.max(0, Math.round((worked / Math.max(1, activity.duration)) * 100))
}

/** The steps of a checklist as they were ticked: they say how much is done, by their weights. */
export const tickedSteps = (activity: Activity, ticks: readonly boolean[]): Answer => {
  const percent = percentBySteps(stepsOf(activity).map((step, k) => ({ ...step, done: ticks[k]! })))
  return percent === null ? { steps: ticks } : { steps: ticks, percent: Math.min(99, percent) }
}

/** "5 d", "67 %", "12 of 30", "time", "steps": what is left, or how much is done and by what. */
export const readLeft = (text: string, ground: CellGround): TypedAnswer => {
  const { activity, lengths, answer } = ground
  if (isBlank(text)) return { ok: true, answer: { remaining: null } }
  if (isNotYet(text)) return { ok: true, answer: { unchanged: true } }
  if (activity.kind !== 'work') return { ok: false, why: 'a milestone has nothing left: give it its date' }
  const percent = /^(.+?)\s*%$/.exec(text.trim())
  const share = percent && readAmount(percent[1]!)
  if (share !== null) return doneBy(share, `${percent![1]} %`)
  const amounts = /^(\d[\d.,'’\s]*?)\s*(?:of|\/)\s*(\d+(?:[.,'’]\d+|\s\d{3}(?!\d))*)/i.exec(text.trim())
  const [done, all] = (amounts?.slice(1) ?? []).map(readAmount)
  if (done != null && all != null) {
    if (all === 0) return { ok: false, why: 'of nothing nothing can be done: write what it is in all' }
    return doneBy(Math.round((done / all) * 100), `${done} of ${all}`)
  }
  if (/^(by )?time$/i.test(text.trim())) {
    const share = percentByTime(ground)
    if (share === null) return { ok: false, why: 'say first when it began: by time counts from there' }
    if (share < 100) return { ok: true, answer: { percent: share } }
    return { ok: false, why: 'its time is used up: say what is left, or when it finished' }
  }
  if (/^(by )?steps$/i.test(text.trim())) {
    const steps = stepsOf(activity)
    if (percentBySteps(steps) === null) return { ok: false, why: 'its checklist has no step that counts' }
    return { ok: true, answer: tickedSteps(activity, answer?.steps ?? steps.map(({ done }) => done)) }
  }
  const read = readDuration(text, lengths)
  if (!read.ok) return { ok: false, why: `${read.why}, or a share like 60 %, 12 of 30, time or steps` }
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
