import {
  contradictionIn,
  instantOf,
  instantWords,
  parseDate,
  type Activity,
  type Answer,
  type Plan,
  type ReturnedLine,
} from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'
import {
  cellWords,
  readFinished,
  readLeft,
  readPromise,
  readStarted,
  type CellGround,
  type TypedAnswer,
} from './updateCells.ts'

/** A line of a returned sheet that says something new. */
interface TakenLine {
  readonly line: ReturnedLine
  readonly activity: Activity
  readonly answer: Answer
  /** What was understood: "started 12 May, 2 d left". */
  readonly words: string
  /** The plan put it elsewhere when the sheet was made; empty where it did not. */
  readonly since: string
}
export interface ReturnedAnswers {
  readonly taken: readonly TakenLine[]
  readonly refused: readonly { readonly line: ReturnedLine; readonly why: string }[]
  /** Lines that say nothing new. */
  readonly silent: number
}

const READERS: Readonly<
  Record<keyof ReturnedLine['cells'], (text: string, ground: CellGround) => TypedAnswer>
> = {
  started: readStarted,
  finished: readFinished,
  left: readLeft,
  promised: readPromise,
}
const WORDS = { started: 'started', finished: 'finished', left: '', promised: 'promised' } as const

/** A date of a workbook, and a share that it keeps as a number below one, as somebody would type them. */
const asTyped = (column: keyof ReturnedLine['cells'], text: string): string => {
  if (column === 'left' && /^0?[.,]\d+$/.test(text))
    return `${Math.round(Number(text.replace(',', '.')) * 1000) / 10} %`
  return column === 'left' && /^\d+([.,]\d+)?$/.test(text) ? `${text} d` : text
}
/** Whether a cell says what the plan says already. */
const isAsBefore = (
  column: keyof ReturnedLine['cells'],
  text: string,
  { activity, lengths }: CellGround,
): boolean => {
  if (text === '') return true
  const { progress, promise } = activity
  const date = {
    started: progress.actualStart,
    finished: progress.actualFinish,
    promised: promise?.finish ?? null,
  }
  if (column === 'left') return text === cellWords('left', activity, undefined, lengths)
  const before = date[column]
  const now = parseDate(text.replace(' ', 'T'))
  const edge = column === 'started' ? 'start' : 'finish'
  return (
    before !== null && now !== null && instantOf(text.replace(' ', 'T'), edge) === instantOf(before, edge)
  )
}

/** What returned sheets say of a plan, line by line: what is new, what is not understood and why, and what the plan has changed since. */
export const returnedAnswers = (
  plan: Plan,
  view: ScheduleView,
  calendars: CalendarLookup,
  status: number,
  lines: readonly ReturnedLine[],
): ReturnedAnswers => {
  const byCode = new Map(plan.activities.map((activity, i) => [activity.code.toLowerCase(), { activity, i }]))
  const taken: TakenLine[] = []
  const refused: { line: ReturnedLine; why: string }[] = []
  const seen = new Map<string, ReturnedLine>()
  let silent = 0
  for (const line of lines) {
    const refuse = (why: string): void => void refused.push({ line, why })
    if (line.code === '') {
      refuse('it has no code: nothing says which activity it is about')
      continue
    }
    const found = byCode.get(line.code.toLowerCase())
    if (!found) {
      refuse(`there is no activity ${line.code} in the plan`)
      continue
    }
    const { activity, i } = found
    const earlier = seen.get(activity.id)
    if (earlier) {
      refuse(`${activity.code} is in row ${earlier.row} of “${earlier.sheet}” already; the first counts`)
      continue
    }
    seen.set(activity.id, line)
    const before: Omit<CellGround, 'answer'> = {
      activity,
      calendar: calendars.of(activity),
      lengths: calendars.lengthsOf(activity),
      start: view.start[i]!,
      finish: view.finish[i]!,
      status,
    }
    let answer: Answer = {}
    let isSound = true
    const words: string[] = []
    for (const column of ['started', 'left', 'finished', 'promised'] as const) {
      const ground: CellGround = { ...before, answer }
      const text = line.cells[column]
      if (isAsBefore(column, text, ground)) continue
      const read = READERS[column](asTyped(column, text), ground)
      if (!read.ok) {
        refuse(`${activity.code}: ${read.why}`)
        isSound = false
        continue
      }
      answer = { ...read.answer, ...answer, ...read.answer }
      const shown = cellWords(column, activity, read.answer ?? undefined, ground.lengths)
      words.push(
        column === 'left'
          ? shown.endsWith('%')
            ? `${shown} done`
            : `${shown} left`
          : `${WORDS[column]} ${shown}`,
      )
    }
    const contradiction = contradictionIn(activity, answer)
    if (contradiction !== null) {
      refuse(`${activity.code}: ${contradiction}`)
      continue
    }
    if (words.length === 0) {
      if (isSound) silent++
      continue
    }
    taken.push({ line, activity, answer, words: words.join(', '), since: sinceWords(line, view.finish[i]!) })
  }
  return { taken, refused, silent }
}

/** The finish that the sheet was made with, where the plan has another one now. */
const sinceWords = ({ plannedFinish }: ReturnedLine, now: number): string => {
  const date = plannedFinish.replace(' ', 'T')
  if (parseDate(date) === null) return ''
  const then = instantOf(date, 'finish')
  return then === now
    ? ''
    : `planned for ${instantWords(then, 'finish')} then, ${instantWords(now, 'finish')} now`
}
