import {
  durationWords,
  formatInstant,
  instantWords,
  nextWork,
  setDuration,
  withStartLimit,
  type Activity,
  type Calendar,
  type Change,
  type DayLengths,
} from '@geodrome/core'

/** What pulling a bar would do, shown while it is pulled. */
export interface Pull {
  readonly words: string
  /** Where the bar would stand, in instants. */
  readonly start: number
  readonly finish: number
  readonly change: Change | null
}

const DAY = 1440

/** Where a date drawn with the mouse falls: on a day's first working minute, or with room for hours on the quarter. */
export const snapStart = (calendar: Calendar, at: number, perDay: number): number => {
  const step = perDay > 90 ? 15 : perDay > 30 ? 60 : DAY
  return nextWork(calendar, Math.round(at / step) * step)
}

/** Moving a bar sets a limit, not before where it was let go; back to where its links hold it, the limit goes. */
export const pullStart = (
  activity: Activity,
  calendar: Calendar,
  at: number,
  perDay: number,
  scheduled: { start: number; finish: number },
): Pull => {
  const start = snapStart(calendar, at, perDay)
  const finish =
    activity.duration === 0
      ? start
      : calendar.minuteAt(calendar.countBefore(start) + activity.duration - 1) + 1
  const others = activity.constraints.filter((c) => !(c.edge === 'start' && c.rule === 'not-before'))
  const hasLimit = others.length < activity.constraints.length
  if (start < scheduled.start)
    return hasLimit
      ? {
          words: `without its constraint: as early as its links allow`,
          start,
          finish,
          change: { kind: 'set', list: 'activities', key: activity.id, set: { constraints: others } },
        }
      : {
          words: 'its links hold it; it cannot come earlier',
          start: scheduled.start,
          finish: scheduled.finish,
          change: null,
        }
  if (start === scheduled.start) return { words: 'as it is', start, finish, change: null }
  return {
    words: `start not before ${instantWords(start, 'start')}`,
    start,
    finish,
    change: {
      kind: 'set',
      list: 'activities',
      key: activity.id,
      set: { constraints: withStartLimit(activity, formatInstant(start)) },
    },
  }
}

/** Pulling the end of a bar changes its duration: by days, or by the hour where there is room for it. */
export const pullFinish = (
  activity: Activity,
  calendar: Calendar,
  lengths: DayLengths,
  at: number,
  perDay: number,
  start: number,
): Pull => {
  const step = perDay > 90 ? 30 : lengths.dayMinutes
  const worked = calendar.countBefore(at) - calendar.countBefore(start)
  const minutes = Math.max(step, Math.round(worked / step) * step)
  const finish = calendar.minuteAt(calendar.countBefore(start) + minutes - 1) + 1
  return {
    words: `${durationWords(activity.duration, lengths)} → ${durationWords(minutes, lengths)}`,
    start,
    finish,
    change: minutes === activity.duration ? null : setDuration(activity, minutes),
  }
}
