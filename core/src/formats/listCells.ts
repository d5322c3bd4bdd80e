import { civilDate, dayNumber, parseDate } from '../time/instant.ts'
import { readDuration } from '../words/durations.ts'
import { isLinkSentence, linkAsWritten } from '../words/typedLinks.ts'
import { readDate } from '../words/typedDate.ts'
import type { DayLengths } from '../plan/durations.ts'
import type { LinkType } from '../plan/schema.ts'

/** What single cells of somebody else's list mean. Each reader says why where it cannot tell. */

export type Read<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly why: string }

/** What a bare number in the duration column counts. */
export type NumberUnit = 'day' | 'hour' | 'minute' | 'week'

/** "5", "5 days", "5,5 d", "40 hrs", "3 ed" (elapsed is refused: it is not working time). */
export const readListDuration = (text: string, lengths: DayLengths, unit: NumberUnit): Read<number> => {
  const trimmed = text.trim().replace(/\?$/, '').trim()
  if (/^e\s*(d|h|w|days?|hours?)|\de(d|h|w)/i.test(trimmed))
    return {
      ok: false,
      why: `“${text}” is elapsed time; write working time, or put the activity on the round-the-clock calendar`,
    }
  const bare = /^[+-]?\d+([.,]\d+)?$/.test(trimmed)
  const per = { minute: 'min', hour: 'h', day: 'd', week: 'w' }[unit]
  const read = readDuration(bare ? `${trimmed}${per}` : trimmed, lengths)
  if (!read.ok) return { ok: false, why: read.why }
  return { ok: true, value: read.minutes }
}

/** Days from the spreadsheet's epoch, 30 December 1899, to ours. */
const SHEET_EPOCH = dayNumber(1899, 12, 30)

/**
 * Dates as lists write them: ISO, "12 apr 2027", "12/04/2027", "12.04.27 07:30", or a spreadsheet's day number.
 * @param dayFirst - whether 03/04/2027 is the third of April
 */
export const readListDate = (text: string, dayFirst: boolean, around: number): Read<string> => {
  const trimmed = text.trim()
  const refused: Read<string> = {
    ok: false,
    why: `“${trimmed}” is not a date; write for example 2027-04-12 or 12 apr 2027 14:00`,
  }
  const serial = /^(\d{5})(\.\d+)?$/.exec(trimmed)
  if (serial) {
    const minutes = Math.round((SHEET_EPOCH + Number(trimmed)) * 1440)
    return checked(iso(Math.floor(minutes / 1440)) + (serial[2] ? clock(minutes % 1440) : ''), refused)
  }
  const match =
    /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[ T]+(\d{1,2}):(\d{2})(?::\d{2}(?:\.\d+)?)?\s*(am|pm)?Z?)?$/i.exec(
      trimmed,
    )
  if (!match) {
    const read = readDate(trimmed, around)
    return read.ok ? { ok: true, value: read.date } : refused
  }
  const [, a, b, c, hour, minute, half] = match
  const isYearFirst = a!.length === 4
  const [day, month] = isYearFirst ? [c!, b!] : dayFirst ? [a!, b!] : [b!, a!]
  const year = Number(isYearFirst ? a : c)
  const date = `${year < 100 ? 2000 + year : year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
  if (hour === undefined) return checked(date, refused)
  const h = (Number(hour) % (half ? 12 : 24)) + (half?.toLowerCase() === 'pm' ? 12 : 0)
  return checked(date + clock(h * 60 + Number(minute)), refused)
}
const clock = (minutes: number): string =>
  `T${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
const iso = (day: number): string => {
  const { year, month, day: date } = civilDate(day)
  return `${year}-${String(month).padStart(2, '0')}-${String(date).padStart(2, '0')}`
}
const checked = (text: string, refused: Read<string>): Read<string> =>
  parseDate(text) ? { ok: true, value: text } : refused

/** A link as a list writes it, before the code is looked up and the lag is measured. */
export interface ListLink {
  readonly ref: string
  readonly type: LinkType
  /** As text, in the units of the list. */
  readonly lag: string
  readonly text: string
}

/** Splits and reads "K10FS+2d; K20", "K10 SS, K30", "after K10, 2d later", "12FF-1 day". */
export const readListLinks = (text: string): { links: ListLink[]; problems: string[] } => {
  const links: ListLink[] = []
  const problems: string[] = []
  const pieces: string[] = []
  for (const piece of text.split(/[;\n,|]/)) {
    const trimmed = piece.trim()
    if (trimmed === '') continue
    const last = pieces.at(-1)
    if (last !== undefined && isLinkSentence(last) && /(later|earlier)$/i.test(trimmed))
      pieces[pieces.length - 1] = `${last}, ${trimmed}`
    // A decimal comma inside a lag is not the end of a link.
    else if (last !== undefined && /[+-]\s*\d+$/.test(last) && /^\d+\s*[a-z]/i.test(trimmed))
      pieces[pieces.length - 1] = `${last}.${trimmed}`
    else pieces.push(trimmed)
  }
  for (const piece of pieces) {
    if (/%/.test(piece)) {
      problems.push(`“${piece}”: a lag as a share of a duration would change with it; write it as a duration`)
      continue
    }
    links.push({ ...linkAsWritten(piece), text: piece })
  }
  return { links, problems }
}
