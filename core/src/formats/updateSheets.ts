import { formatInstant, instantOf, type Instant } from '../time/instant.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import { lengthsOf } from '../plan/durations.ts'
import { durationWords } from '../words/durations.ts'
import { askedBy } from '../update/asked.ts'
import type { Cells } from './listMapping.ts'
import type { RecordSheet } from './reviewRecord.ts'

/** Heads of a sheet that is sent out and comes back; those from `started` on are for whoever fills it in. */
export const UPDATE_HEADS = [
  'code',
  'activity',
  'planned start',
  'planned finish',
  'started',
  'finished',
  'left or %',
  'promised finish',
  'remark',
] as const

/** One sheet for each owner with what an update to a status date asks of them; what has no owner stands on one of its own. */
export const updateSheets = (schedule: Schedule, statusDate: Instant): RecordSheet[] => {
  const { network } = schedule
  const { plan, activities } = network
  const byOwner = new Map<string, RecordSheet['rows'][number][]>()
  for (const { activity: i } of askedBy(schedule, statusDate, new Set())) {
    const activity = activities[i]!
    const { progress, promise } = activity
    const owner = activity.owner ?? ''
    const rows = byOwner.get(owner) ?? []
    byOwner.set(owner, rows)
    const left =
      progress.remaining !== null
        ? durationWords(progress.remaining, lengthsOf(plan, calendarOf(plan.project, activity)))
        : progress.percent > 0
          ? `${progress.percent} %`
          : ''
    rows.push([
      activity.code,
      activity.name,
      formatInstant(schedule.start[i]!).replace('T', ' '),
      formatInstant(schedule.finish[i]!).replace('T', ' '),
      progress.actualStart === null
        ? ''
        : formatInstant(instantOf(progress.actualStart, 'start')).replace('T', ' '),
      '',
      left,
      promise === null ? '' : promise.finish.replace('T', ' '),
      '',
    ])
  }
  const taken = new Set<string>()
  return [...byOwner]
    .sort(([a], [b]) => a.localeCompare(b, 'en'))
    .map(([owner, rows]) => ({ name: sheetName(owner || 'No owner', taken), head: UPDATE_HEADS, rows }))
}

/** A name that a workbook takes: 31 letters, none of the signs that it keeps for itself, none twice. */
const sheetName = (owner: string, taken: Set<string>): string => {
  const plain =
    owner
      .replaceAll(/[[\]:*?/\\']/g, ' ')
      .trim()
      .slice(0, 27) || 'Owner'
  let name = plain
  for (let k = 2; taken.has(name.toLowerCase()); k++) name = `${plain} ${k}`
  taken.add(name.toLowerCase())
  return name
}

/** A line of a sheet that came back. */
export interface ReturnedLine {
  readonly sheet: string
  /** From 1 on, as people see it. */
  readonly row: number
  readonly code: string
  readonly plannedFinish: string
  readonly cells: Readonly<Record<'started' | 'finished' | 'left' | 'promised', string>>
}
export interface ReturnedSheets {
  readonly lines: readonly ReturnedLine[]
  /** Sheets without a column of codes or of anything that was asked, each with the reason. */
  readonly unread: readonly { readonly sheet: string; readonly why: string }[]
}

const HEADS: Readonly<Record<'code' | 'plannedFinish' | keyof ReturnedLine['cells'], RegExp>> = {
  code: /^(code|id|ref|activity (code|id)|no\.?)$/i,
  plannedFinish: /^(planned|scheduled) finish$/i,
  started: /^(started|actual start|start(ed)? on|began|begun)$/i,
  finished: /^(finished|actual finish|done( on)?|completed|ended)$/i,
  left: /^(left( or %)?|remaining( duration)?|to go|%|percent( complete)?|% (done|complete))$/i,
  promised: /^(promised( finish)?|promise|(forecast|expect[a-z]*) (finish|end))$/i,
}

/** Reads sheets that came back, columns in any order; what is not known by its head is left alone. */
export const readReturned = (
  sheets: readonly { readonly name: string; readonly rows: Cells }[],
): ReturnedSheets => {
  const lines: ReturnedLine[] = []
  const unread: { sheet: string; why: string }[] = []
  for (const { name, rows } of sheets) {
    const at = (head: readonly string[], field: keyof typeof HEADS): number =>
      head.findIndex((cell) => HEADS[field].test(cell.trim()))
    const headRow = rows.slice(0, 10).findIndex((row) => at(row, 'code') >= 0)
    if (headRow < 0) {
      if (rows.some((row) => row.some((cell) => cell.trim() !== '')))
        unread.push({
          sheet: name,
          why: 'no column is headed “code”: nothing says which activity a row is about',
        })
      continue
    }
    const head = rows[headRow]!
    const asked = (['started', 'finished', 'left', 'promised'] as const).filter(
      (field) => at(head, field) >= 0,
    )
    if (asked.length === 0) {
      unread.push({
        sheet: name,
        why: 'no column is headed “started”, “finished”, “left or %” or “promised finish”',
      })
      continue
    }
    rows.slice(headRow + 1).forEach((row, k) => {
      const cell = (field: keyof typeof HEADS): string => (row[at(head, field)] ?? '').trim()
      if (cell('code') === '' && row.every((text) => text.trim() === '')) return
      lines.push({
        sheet: name,
        row: headRow + 2 + k,
        code: cell('code'),
        plannedFinish: cell('plannedFinish'),
        cells: {
          started: cell('started'),
          finished: cell('finished'),
          left: cell('left'),
          promised: cell('promised'),
        },
      })
    })
  }
  return { lines, unread }
}
