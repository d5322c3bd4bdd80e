import Papa from 'papaparse'
import type { NumberUnit } from './listCells.ts'

/** A table as it came: rows of cells as text. */
export type Cells = readonly (readonly string[])[]

/** Cells of a text with tabs, commas or semicolons between, quoted where needed. */
export const cellsOf = (text: string): Cells => {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    delimiter: text.includes('\t') ? '\t' : '',
    skipEmptyLines: 'greedy',
  })
  return data
}

/** What a column of an activity list holds. */
export type ListField =
  | 'leave-out'
  | 'code'
  | 'name'
  | 'duration'
  | 'kind'
  | 'group'
  | 'level'
  | 'number'
  | 'calendar'
  | 'waits'
  | 'leads'
  | 'start-limit'
  | 'finish-limit'
  | 'owner'
  | 'resources'
  | 'notes'
  | 'tag'

export interface ListMapping {
  /** Row of the heads; -1 where there is none. */
  readonly headRow: number
  readonly fields: readonly ListField[]
  readonly unit: NumberUnit
  readonly dayFirst: boolean
}

export const FIELD_WORDS: Readonly<Record<ListField, string>> = {
  'leave-out': 'leave out',
  code: 'code',
  name: 'name',
  duration: 'duration',
  kind: 'kind',
  group: 'group',
  level: 'outline level',
  number: 'running or outline number',
  calendar: 'calendar',
  waits: 'waits for',
  leads: 'leads to',
  'start-limit': 'start not before',
  'finish-limit': 'finish not after',
  owner: 'owner',
  resources: 'resources, like 2 WELD, CRAN',
  notes: 'notes',
  tag: 'tag, named by its head',
}

/** Words that heads of columns use, most telling first. */
const HEADS: readonly (readonly [RegExp, ListField])[] = [
  [/^(wbs|outline (no|number)\.?|structure|no\.? in outline)$/i, 'number'],
  [/^(outline )?level$/i, 'level'],
  [/^(activity |task |item )?(code|id|ref|reference|key|no\.?|nr\.?|num|number|#)$/i, 'code'],
  [
    /(^|\s)(duration|durn?\.?|time needed)(\s|$|[(,])|^(original |planned |remaining )?(days|length)\b/i,
    'duration',
  ],
  [/predecessor|waits? for|depends on|^after\b|^pred/i, 'waits'],
  [/successor|leads? to|^succ|^before$/i, 'leads'],
  [/^(\w+ )?calendar|^shifts?$/i, 'calendar'],
  [/^(activity |task |item )?(name|description|title|activity|task|work|what)$/i, 'name'],
  [/^(group|phase|section|area|work package|package|summary|chapter)$/i, 'group'],
  [/^(kind|type|activity type|task type)$/i, 'kind'],
  [/not before|no earlier|earliest start/i, 'start-limit'],
  [/not after|no later|deadline|must finish|due/i, 'finish-limit'],
  [/resource|^(labou?r|plant|equipment|manpower)$/i, 'resources'],
  [/^(work )?owner$|^responsible|^who\b|^assigned|^(trade|discipline|crew)s?$/i, 'owner'],
  [/^(notes?|remarks?|comments?)\b/i, 'notes'],
]

const RUNNING = /^(no\.?|nr\.?|num|number|#)$/i
const fieldOfHead = (head: string): ListField =>
  HEADS.find(([test]) => test.test(head.replaceAll('_', ' ').trim()))?.[1] ?? 'leave-out'
/** Fields by a row of heads; where another column is the code, a running number is only a number. */
const fieldsOfHeads = (heads: readonly string[]): ListField[] => {
  const fields = heads.map((head) => fieldOfHead(head))
  const isRunning = (c: number): boolean => fields[c] === 'code' && RUNNING.test(heads[c]!.trim())
  const hasCode = fields.some((field, c) => field === 'code' && !isRunning(c))
  return fields.map((field, c) => (hasCode && isRunning(c) ? 'number' : field))
}

/** The columns of a list recognised by their heads, or where there are none by what they hold; each field once. */
export const guessMapping = (cells: Cells): ListMapping => {
  const width = Math.max(0, ...cells.slice(0, 50).map((row) => row.length))
  const scored = cells
    .slice(0, 12)
    .map((row) => row.filter((cell) => fieldOfHead(cell) !== 'leave-out').length)
  const best = scored.length === 0 ? 0 : Math.max(...scored)
  // One known word alone may be the name of some work: it heads a list that begins with it, beside words.
  const isAlone =
    best === 1 && width <= 2 && scored[0] === 1 && !cells[0]!.some((cell) => /^\s*[\d+-]/.test(cell))
  const isKnown = best >= 2 || isAlone
  const headRow = isKnown ? scored.indexOf(best) : hasHeads(cells) ? 0 : -1
  const used = new Set<ListField>()
  const once = (field: ListField): ListField => {
    if (field === 'leave-out' || used.has(field)) return 'leave-out'
    used.add(field)
    return field
  }
  const said = isKnown ? fieldsOfHeads(cells[headRow]!) : []
  const fields = Array.from({ length: width }, (_, c) => once(said[c] ?? 'leave-out'))
  if (!isKnown) guessByContent(cells.slice(headRow + 1), fields, once)
  const body = cells.slice(headRow + 1, headRow + 400)
  const dates = body
    .flatMap((row) => row.map((cell) => /^(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}/.exec(cell.trim())))
    .filter((m) => m !== null)
  const durationHead = headRow >= 0 ? (cells[headRow]![fields.indexOf('duration')] ?? '') : ''
  return {
    headRow,
    fields,
    unit: /hour|\bh\b|hrs/i.test(durationHead)
      ? 'hour'
      : /min/i.test(durationHead)
        ? 'minute'
        : /week/i.test(durationHead)
          ? 'week'
          : 'day',
    dayFirst: !dates.some((m) => Number(m[2]) > 12),
  }
}

/** Whether the first row names the columns in words that are not known: it has no figures, and a column below it is mostly figures. */
const hasHeads = (cells: Cells): boolean => {
  const [first, ...body] = cells.slice(0, 100)
  if (!first || body.length === 0 || first.some((cell) => /^\s*[\d+-]/.test(cell))) return false
  return first.some((head, c) => {
    const filled = body.map((row) => (row[c] ?? '').trim()).filter((text) => text !== '')
    return (
      head.trim() !== '' &&
      filled.length > 0 &&
      filled.filter((text) => /^\d/.test(text)).length / filled.length > 0.8
    )
  })
}

/** Whether texts are numbers of an outline, "1", "1.1", "1.2", "2": each below one that stands before it. */
const isOutline = (texts: readonly string[]): boolean => {
  const before = new Set<string>()
  return (
    texts.some((text) => /^\d+\.\d/.test(text)) &&
    texts.every((text) => {
      const parts = /^\d+(\.\d+)*\.?$/.test(text) ? text.split('.').filter(Boolean) : []
      const isNew = parts.length > 0 && !before.has(parts.join('.'))
      const isBelow = parts.length <= 1 || before.has(parts.slice(0, -1).join('.'))
      before.add(parts.join('.'))
      return isNew && isBelow
    })
  )
}

/** Without known heads: a short unique text or a running number is the code, the longest text the name, what looks like time the duration, the rest stays out. */
const guessByContent = (cells: Cells, fields: ListField[], once: (field: ListField) => ListField): void => {
  const body = cells.slice(0, 200)
  const columns = fields.map((_, c) => body.map((row) => (row[c] ?? '').trim()))
  const filled = (c: number): string[] => columns[c]!.filter((text) => text !== '')
  const share = (c: number, test: (text: string) => boolean): number =>
    filled(c).length === 0 ? 0 : filled(c).filter(test).length / filled(c).length
  const length = (c: number): number =>
    filled(c).reduce((sum, text) => sum + text.length, 0) / Math.max(1, filled(c).length)
  const isCode = (c: number): boolean =>
    new Set(filled(c)).size === filled(c).length &&
    share(c, (text) => /^[A-Za-z]{0,6}[-.]?\d{1,6}[A-Za-z]?$/.test(text)) > 0.8
  const isDuration = (c: number): boolean =>
    share(c, (text) => /^\d+([.,]\d+)?\s*[a-z]{0,7}\??$/i.test(text)) > 0.8
  const isRunning = (c: number): boolean =>
    filled(c).length > 2 &&
    filled(c).every((text, k) => /^\d+$/.test(text) && (k === 0 || Number(text) > Number(filled(c)[k - 1])))
  const outline = columns.findIndex((_, c) => isOutline(filled(c)))
  if (outline >= 0) fields[outline] = once('number')
  const lettered = columns.findIndex((_, c) => isCode(c) && share(c, (text) => /[A-Za-z]/.test(text)) > 0.5)
  const code = lettered >= 0 ? lettered : outline >= 0 ? -1 : columns.findIndex((_, c) => isRunning(c))
  if (code >= 0) fields[code] = once('code')
  const duration = columns.findIndex((_, c) => c !== code && c !== outline && isDuration(c))
  if (duration >= 0) fields[duration] = once('duration')
  const rest = columns
    .map((_, c) => c)
    .filter((c) => ![code, outline, duration].includes(c) && filled(c).length > 0)
  const known = code < 0 ? new Set<string>() : new Set(filled(code).map((text) => text.toLowerCase()))
  const waits = rest.find(
    (c) =>
      known.size > 0 && share(c, (text) => [...known].some((k) => text.toLowerCase().startsWith(k))) > 0.6,
  )
  if (waits !== undefined) fields[waits] = once('waits')
  const name = rest
    .filter((c) => c !== waits)
    .sort((a, b) => length(b) * filled(b).length - length(a) * filled(a).length)[0]
  if (name !== undefined) fields[name] = once('name')
}

/** What a mapping is remembered by: the heads of the list, whoever sends it. */
export const headsOf = (cells: Cells, mapping: ListMapping): string =>
  mapping.headRow < 0
    ? `${mapping.fields.length} columns without heads`
    : (cells[mapping.headRow] ?? []).map((head) => head.trim().toLowerCase()).join('|')
