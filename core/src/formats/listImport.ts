import { findLoop } from '../plan/findLoop.ts'
import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change, Item } from '../plan/change.ts'
import { CLOCK_LENGTHS, type DayLengths } from '../plan/durations.ts'
import { freshId, setDuration } from '../plan/edits.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { MAX_TEXT, type Activity, type Constraint, type Group, type Link, type Plan } from '../plan/schema.ts'
import { instantOf } from '../time/instant.ts'
import { readListDate, readListDuration, readListLinks, type ListLink } from './listCells.ts'
import type { Cells, ListField, ListMapping } from './listMapping.ts'

/** Something of a list that could not be taken as it stands. Rows count from 1, as people see them. */
export interface ListProblem {
  readonly row: number
  readonly column: number | null
  readonly text: string
  readonly why: string
}

export interface ListReading {
  /** The change that takes everything that was understood into the plan, as one. */
  readonly change: Change
  readonly added: number
  readonly updated: number
  readonly links: number
  readonly groups: number
  readonly problems: readonly ListProblem[]
}

export interface ListOptions {
  /** Where new activities go when the list has no groups. */
  readonly group: string | null
  /** What happens to a row with a problem: the row stays out, or only the cell does. */
  readonly badRows: 'leave-out' | 'without-cell'
  readonly random: () => number
}

/** A table of links beside a list of activities: which column holds what. */
export interface LinkMapping {
  readonly headRow: number
  readonly from: number
  readonly to: number
  readonly type: number
  readonly lag: number
}

/**
 * Reads somebody else's list into a plan: rows whose code is known change that activity, the others are added. What cannot be
 * understood is listed with its row and the reason, never dropped in silence; links that would close a loop among them.
 * Pure: the plan is only read. O(rows + links).
 */
export const readList = (plan: Plan, cells: Cells, mapping: ListMapping, options: ListOptions): ListReading => {
  const reader = new ListReader(plan, mapping, options)
  for (let r = mapping.headRow + 1; r < cells.length; r++) reader.takeRow(cells, r)
  reader.tieLinks()
  return reader.reading()
}

/** Reads a table of links (from, to, type, lag) into a plan that has the activities. */
export const readLinkTable = (plan: Plan, cells: Cells, mapping: LinkMapping, options: ListOptions): ListReading => {
  const reader = new ListReader(plan, { headRow: mapping.headRow, fields: [], unit: 'day', dayFirst: true }, options)
  for (let r = mapping.headRow + 1; r < cells.length; r++) {
    const row = cells[r]!
    const text = (c: number): string => (c < 0 ? '' : (row[c] ?? '').trim())
    if (row.every((cell) => cell.trim() === '')) continue
    const lag = text(mapping.lag)
    const read = readListLinks(`${text(mapping.from)} ${text(mapping.type) || 'FS'}${lag === '' || lag === '0' ? '' : /^[+-]/.test(lag) ? lag : `+${lag}`}`)
    const to = reader.find(text(mapping.to))
    if (read.links.length !== 1) reader.complain(r, mapping.from, text(mapping.from), read.problems[0] ?? 'not a link')
    else if (!to) reader.complain(r, mapping.to, text(mapping.to), `there is no activity ${text(mapping.to) || 'named here'}`)
    else reader.ask(read.links[0]!, to, 'in', r, mapping.from)
  }
  reader.tieLinks()
  return reader.reading()
}

/** Which columns of a table of links hold what, by their heads; -1 for what no head says. */
export const guessLinkMapping = (cells: Cells): LinkMapping => {
  const headRow = Math.max(0, cells.slice(0, 5).findIndex((row) => find(row, FROM) >= 0 && find(row, TO) >= 0))
  const head = cells[headRow] ?? []
  return { headRow, from: find(head, FROM), to: find(head, TO), type: find(head, /^(link |relation(ship)? )?(type|kind)$/i), lag: find(head, /lag|lead|offset/i) }
}
/** Whether a table is one of links, as far as its heads say. */
export const isLinkTable = (cells: Cells): boolean => {
  const { from, to } = guessLinkMapping(cells)
  return from >= 0 && to >= 0
}
const FROM = /^(from|predecessor|before|source)( (activity|code|id))?$/i
const TO = /^(to|successor|after|target)( (activity|code|id))?$/i
const find = (row: readonly string[], test: RegExp): number => row.findIndex((cell) => test.test(cell.trim()))

const LINK_FIELDS: ReadonlySet<ListField> = new Set(['waits', 'leads'])

interface AskedLink {
  readonly link: ListLink
  readonly activity: Activity
  readonly side: 'in' | 'out'
  readonly row: number
  readonly column: number
}

class ListReader {
  private plan: Plan
  private readonly mapping: ListMapping
  private readonly options: ListOptions
  private readonly changes: Change[] = []
  private readonly problems: ListProblem[] = []
  private readonly asked: AskedLink[] = []
  private readonly byCode: Map<string, Activity>
  private readonly byName = new Map<string, Activity | null>()
  private readonly byRow = new Map<string, Activity>()
  /** Codes of rows that were left out, with their row. */
  private readonly leftOut = new Map<string, number>()
  /** Rows of the codes taken so far, with what stood beside the links there. */
  private readonly taken = new Map<string, { readonly row: number; readonly said: string }>()
  private readonly groupsByName: Map<string, Group>
  /** The groups that the rows so far have opened, outermost first, with their outline depth. */
  private readonly openGroups: { depth: number; id: string }[] = []
  private readonly activities: Activity[]
  private readonly groups: Group[]
  private readonly links: Link[]
  private counts = { added: 0, updated: 0, links: 0, groups: 0 }
  private readonly takenIds: Set<string>

  constructor(plan: Plan, mapping: ListMapping, options: ListOptions) {
    this.plan = plan
    this.mapping = mapping
    this.options = options
    this.byCode = new Map(plan.activities.map((a) => [a.code.toLowerCase(), a]))
    this.groupsByName = new Map(plan.groups.map((g) => [groupKey(g.parent, g.name), g]))
    this.activities = [...plan.activities]
    this.groups = [...plan.groups]
    this.links = [...plan.links]
    this.takenIds = new Set(plan.activities.map((a) => a.id))
    for (const activity of plan.activities) this.name(activity)
  }

  private name(activity: Activity): void {
    const key = activity.name.trim().toLowerCase()
    if (key !== '') this.byName.set(key, this.byName.has(key) ? null : activity)
  }
  complain(r: number, column: number | null, text: string, why: string): void {
    this.problems.push({ row: r + 1, column, text, why })
  }
  /** An activity by its code, else its row or outline number in the list, else its name if that is one. */
  find(ref: string): Activity | undefined {
    const key = ref.trim().toLowerCase()
    return this.byCode.get(key) ?? this.byRow.get(key) ?? this.byName.get(key) ?? undefined
  }
  ask(link: ListLink, activity: Activity, side: 'in' | 'out', row: number, column: number): void {
    this.asked.push({ link, activity, side, row, column })
  }

  takeRow(cells: Cells, r: number): void {
    const row = cells[r]!
    const { fields } = this.mapping
    const text = (field: ListField): string => (row[fields.indexOf(field)] ?? '').trim()
    if (row.every((cell) => cell.trim() === '')) return
    const before = this.problems.length
    const bad = (field: ListField, why: string): void => this.complain(r, fields.indexOf(field), text(field), why)

    const depth = this.depthOf(cells, r)
    if (depth !== null) {
      while (this.openGroups.length > 0 && this.openGroups.at(-1)!.depth >= depth) this.openGroups.pop()
      const next = this.nextDepth(cells, r)
      if (next !== null && next > depth) {
        this.openGroups.push({ depth, id: this.addGroup(text('name') || text('code'), this.openGroups.at(-1)?.id ?? this.options.group, text('code')) })
        return
      }
    }
    const name = text('name').replace(/^\s+/, '')
    const code = text('code')
    if (name === '' && code === '') return this.complain(r, null, row.join(' · ').slice(0, 80), 'the row has neither a name nor a code')
    for (const field of ['name', 'code', 'owner', 'notes'] as const) if (text(field).length > MAX_TEXT) this.complain(r, fields.indexOf(field), `${text(field).slice(0, 80)}…`, `longer than ${MAX_TEXT.toLocaleString('en')} letters; shorten it`)
    const isCode = !/\s/.test(code) && code.length <= MAX_TEXT
    if (/\s/.test(code)) bad('code', `“${code}” has a space in it; a code has none`)
    const said = row.filter((_, c) => !LINK_FIELDS.has(fields[c]!)).map((cell) => cell.trim()).join('\t')
    const earlier = this.taken.get(code.toLowerCase())
    // A list may have a row for each link of an activity; what else it says of it is said once.
    const isAgain = earlier !== undefined && earlier.said === said
    if (earlier && !isAgain) bad('code', `${code} is in row ${earlier.row} already; one of them needs another code`)
    const known = code === '' || (earlier && !isAgain) ? undefined : this.byCode.get(code.toLowerCase())
    const set: Item = {}
    for (const [field, value] of [['name', name], ['owner', text('owner')], ['notes', text('notes')]] as const) if (value !== '' && value.length <= MAX_TEXT) set[field] = value
    const tags = this.tagsOf(cells, row)
    if (tags) set.tags = { ...known?.tags, ...tags }

    const calendar = this.calendarOf(text('calendar'))
    if (calendar === undefined) bad('calendar', `there is no calendar “${text('calendar')}”; make it first, or leave the column out`)
    else if (text('calendar') !== '') set.calendar = calendar
    const lengths = this.lengthsOf((set.calendar as string | undefined) ?? known?.calendar ?? this.plan.project.calendar)

    const kind = text('kind').toLowerCase()
    if (/mile|event/.test(kind)) Object.assign(set, { kind: 'milestone', edge: /start/.test(kind) ? 'start' : 'finish' })
    else if (/hammock|summary/.test(kind)) set.kind = 'hammock'
    const duration = text('duration')
    if (duration !== '') {
      const read = readListDuration(duration, lengths, this.mapping.unit)
      if (!read.ok) bad('duration', read.why)
      else if (read.value < 0) bad('duration', 'a duration cannot be negative')
      else if (read.value === 0 && set.kind === undefined && !known) Object.assign(set, { kind: 'milestone', edge: 'finish', duration: 0, confirmed: true })
      else if (set.kind !== 'milestone' && set.kind !== 'hammock') Object.assign(set, { duration: read.value, confirmed: !duration.trim().endsWith('?') })
    }
    const limits = this.limitsOf(text, bad)
    if (limits.length > 0) set.constraints = [...(known?.constraints ?? []).filter((c) => !limits.some((l) => l.edge === c.edge && l.rule === c.rule)), ...limits]

    const asked = (['waits', 'leads'] as const).flatMap((field) => {
      const { links, problems } = readListLinks(text(field))
      for (const why of problems) bad(field, why)
      return links.map((link) => ({ link, field }))
    })
    if (this.problems.length > before && this.options.badRows === 'leave-out') {
      if (code !== '' && !earlier) this.leftOut.set(code.toLowerCase(), r + 1)
      return
    }
    const group = this.openGroups.at(-1)?.id ?? (text('group') === '' ? undefined : this.groupOf(text('group')))
    const activity = isAgain ? known! : known ? this.update(known, set, group) : this.add(earlier || !isCode ? '' : code, set, group ?? this.options.group)
    if (code !== '' && isCode && !earlier) this.taken.set(code.toLowerCase(), { row: r + 1, said })
    this.byRow.set(String(r - this.mapping.headRow), activity)
    if (text('number') !== '') this.byRow.set(text('number').toLowerCase(), activity)
    for (const { link, field } of asked) this.ask(link, activity, field === 'waits' ? 'in' : 'out', r, fields.indexOf(field))
  }

  private limitsOf(text: (field: ListField) => string, bad: (field: ListField, why: string) => void): Constraint[] {
    const around = instantOf(this.plan.project.start, 'start')
    return (['start-limit', 'finish-limit'] as const).flatMap((field): Constraint[] => {
      if (text(field) === '') return []
      const read = readListDate(text(field), this.mapping.dayFirst, around)
      if (!read.ok) {
        bad(field, read.why)
        return []
      }
      return [field === 'start-limit' ? { edge: 'start', rule: 'not-before', date: read.value, overrides: false } : { edge: 'finish', rule: 'not-after', date: read.value, overrides: false }]
    })
  }

  /** Depth in the outline from a level, or from the dots of an outline number; null where the list has neither. */
  private depthOf(cells: Cells, r: number): number | null {
    const { fields } = this.mapping
    const level = fields.indexOf('level')
    const number = fields.indexOf('number')
    const text = (c: number): string => (cells[r]?.[c] ?? '').trim()
    if (level >= 0 && /^\d+$/.test(text(level))) return Number(text(level))
    if (number >= 0 && text(number) !== '') return text(number).split('.').filter(Boolean).length
    return null
  }
  private nextDepth(cells: Cells, r: number): number | null {
    for (let at = r + 1; at < cells.length; at++) if (cells[at]!.some((cell) => cell.trim() !== '')) return this.depthOf(cells, at)
    return null
  }

  private tagsOf(cells: Cells, row: readonly string[]): Record<string, string> | null {
    const { fields, headRow } = this.mapping
    const tags: Record<string, string> = {}
    fields.forEach((field, c) => {
      const value = (row[c] ?? '').trim()
      if (field === 'tag' && value !== '') tags[(headRow < 0 ? '' : (cells[headRow]![c] ?? '').trim()) || `column ${c + 1}`] = value
    })
    return Object.keys(tags).length > 0 ? tags : null
  }

  private lengthsOf(calendar: string): DayLengths {
    return this.plan.calendars.find((c) => c.id === calendar) ?? CLOCK_LENGTHS
  }
  private calendarOf(text: string): string | null | undefined {
    const wanted = text.toLowerCase()
    if (wanted === '') return null
    if (wanted === 'clock' || wanted === 'round the clock') return 'clock'
    return this.plan.calendars.find((c) => c.name.toLowerCase() === wanted || c.id.toLowerCase() === wanted)?.id
  }

  /** A group by its path, "Hull / Coating"; made where it is missing. */
  private groupOf(path: string): string {
    let parent: string | null = this.options.group
    for (const name of path.split(/\s*[/>\\]\s*/).filter(Boolean)) parent = this.groupsByName.get(groupKey(parent, name))?.id ?? this.addGroup(name, parent, '')
    return parent!
  }
  private addGroup(name: string, parent: string | null, code: string): string {
    const item = { id: freshId(this.groups, 'g', this.options.random), code: /\s/.test(code) ? '' : code, name, parent }
    this.groups.push(item as Group)
    this.groupsByName.set(groupKey(parent, name), item as Group)
    this.changes.push({ kind: 'add', list: 'groups', item, before: null })
    this.counts.groups++
    return item.id
  }

  private update(known: Activity, set: Item, group: string | undefined): Activity {
    const next: Item = { ...set }
    if (group !== undefined && group !== known.group) next.group = group
    const { duration, ...rest } = next
    // A new duration takes its estimate along, as everywhere.
    const timed = typeof duration === 'number' && duration !== known.duration ? (setDuration(known, duration) as { set: Item }).set : {}
    const fields = { ...rest, ...timed }
    for (const field of Object.keys(fields)) if (JSON.stringify(fields[field]) === JSON.stringify(known[field])) delete fields[field]
    if (Object.keys(fields).length > 0) {
      this.changes.push({ kind: 'set', list: 'activities', key: known.id, set: fields })
      this.counts.updated++
    }
    return { ...known, ...fields } as Activity
  }

  private add(code: string, set: Item, group: string | null): Activity {
    let id: string
    do id = freshId([], 'a', this.options.random)
    while (this.takenIds.has(id))
    this.takenIds.add(id)
    let own = code
    if (own === '') for (let n = this.activities.length * 10 + 10; own === '' || this.byCode.has(own.toLowerCase()); n += 10) own = `A${n}`
    const item: Item = { id, code: own, name: '', group, kind: 'work', duration: 0, confirmed: false, calendar: null, constraints: [], tags: {}, ...set }
    const activity = item as unknown as Activity
    this.activities.push(activity)
    this.byCode.set(own.toLowerCase(), activity)
    this.name(activity)
    this.changes.push({ kind: 'add', list: 'activities', item, before: null })
    this.counts.added++
    return activity
  }

  /** Once all rows are known, links are tied by code, row number, outline number or name. */
  tieLinks(): void {
    const made: { change: Change & { kind: 'add' }; asked: AskedLink }[] = []
    const known = new Set(this.links.map((l) => `${l.from}|${l.to}|${l.type}`))
    const ids = new Set(this.links.map((l) => l.id))
    for (const asked of this.asked) {
      const { link, activity, side, row, column } = asked
      const other = this.find(link.ref)
      const leftOut = this.leftOut.get(link.ref.toLowerCase())
      const why = !other ? (leftOut === undefined ? `there is no activity ${link.ref}` : `${link.ref} is in row ${leftOut}, which is left out`) : other.id === activity.id ? 'an activity cannot wait for itself' : ''
      if (!other || why !== '') {
        this.complain(row, column, link.text, why)
        continue
      }
      const [from, to] = side === 'in' ? [other, activity] : [activity, other]
      const lag = link.lag === '' ? ({ ok: true, value: 0 } as const) : readListDuration(link.lag, this.lengthsOf(lagCalendarOf(this.plan.project, { lagOn: null }, from, to)), this.mapping.unit)
      if (!lag.ok) {
        this.complain(row, column, link.text, lag.why)
        continue
      }
      const key = `${from.id}|${to.id}|${link.type}`
      if (known.has(key)) continue
      known.add(key)
      let id: string
      do id = freshId([], 'l', this.options.random)
      while (ids.has(id))
      ids.add(id)
      made.push({ asked, change: { kind: 'add', list: 'links', item: { id, from: from.id, to: to.id, type: link.type, lag: lag.value, lagOn: null, nature: 'hard', reason: '' }, before: null } })
    }
    this.dropLoops(made)
    for (const { change } of made) this.changes.push(change)
    this.counts.links = made.length
  }

  /** Takes out, and reports, the last link of each loop that the list would close. */
  private dropLoops(made: { change: Change & { kind: 'add' }; asked: AskedLink }[]): void {
    const codeOf = new Map(this.activities.map((a) => [a.id, a.code]))
    for (;;) {
      const loop = findLoop({ ...this.plan, activities: this.activities, links: [...this.links, ...made.map((m) => m.change.item as unknown as Link)] })
      if (!loop) return
      const inLoop = new Set(loop.map((l) => l.id))
      const at = made.findLastIndex((m) => inLoop.has(m.change.item.id as string))
      if (at < 0) return
      const { row, column, link } = made[at]!.asked
      this.complain(row, column, link.text, `it would close a loop: ${[...loop.map((l) => codeOf.get(l.from)), codeOf.get(loop[0]!.from)].join(' → ')}`)
      made.splice(at, 1)
    }
  }

  reading(): ListReading {
    return { change: { kind: 'all', changes: this.changes }, ...this.counts, problems: this.problems.toSorted((a, b) => a.row - b.row) }
  }
}

const groupKey = (parent: string | null, name: string): string => `${parent ?? ''}|${name.trim().toLowerCase()}`

/** The plan after a reading; for the preview of what taking it would do. */
export const afterReading = (plan: Plan, reading: ListReading): Plan => applyUnchecked(plan, reading.change).plan
