import { newLink } from '../plan/links.ts'
import { findLoop } from '../plan/findLoop.ts'
import type { Change, Item } from '../plan/change.ts'
import { type DayLengths, lengthsOf } from '../plan/durations.ts'
import { freshId, setDuration } from '../plan/edits.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { assignEach, type Wanted } from '../plan/assignments.ts'
import {
  MAX_TEXT,
  type Activity,
  type Constraint,
  type Group,
  type Link,
  type Plan,
  type Resource,
} from '../plan/schema.ts'
import { readAssignments } from '../words/resources.ts'
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

/** What was understood of one sheet. */
export interface SheetReading {
  readonly added: number
  readonly updated: number
  readonly links: number
  readonly groups: number
  /** Resources that the plan did not have, and how many assignments are understood. */
  readonly resources: readonly string[]
  readonly assignments: number
  readonly problems: readonly ListProblem[]
}
export interface ListReading extends SheetReading {
  /** The change that takes everything that was understood into the plan, as one. */
  readonly change: Change
}
/** {@link ListReading} of a list of several sheets. */
export interface SheetsReading {
  readonly change: Change
  readonly sheets: readonly SheetReading[]
}

/** A sheet of a list of activities, and how it is read. */
export interface ListSheet {
  readonly name: string
  readonly cells: Cells
  readonly mapping: ListMapping
  /** What happens to a row with a problem: the row stays out, or only the cell does. */
  readonly badRows: 'leave-out' | 'without-cell'
}
export interface ListOptions {
  /** Where new activities go when the list has no groups. */
  readonly group: string | null
  readonly random: () => number
}

/** A sheet as it is read. */
interface OpenSheet extends ListSheet {
  readonly counts: { added: number; updated: number; links: number; groups: number; assignments: number }
  readonly resources: string[]
  readonly problems: ListProblem[]
  /** Activities by row, and by outline or running number. */
  readonly byRow: Map<string, Activity>
  /** The groups that the rows so far have opened, outermost first, with their outline depth. */
  readonly openGroups: { depth: number; id: string }[]
}
/** Where a row stands. */
interface Place {
  readonly sheet: OpenSheet
  readonly row: number
}
/** A cell of a row whose link leads to nothing, and why. */
interface LooseCell {
  readonly column: number
  readonly text: string
  readonly why: string
}
/** Loose cells by sheet and row. */
export type LooseRows = ReadonlyMap<string, readonly LooseCell[]>

interface AskedLink {
  readonly sheet: OpenSheet
  readonly link: ListLink
  readonly activity: Activity
  readonly side: 'in' | 'out'
  readonly row: number
  readonly column: number
}

/** {@link TypedAssignments} with the resources that the plan does not have yet. */
type Needs =
  | { readonly ok: true; readonly wanted: readonly Wanted[]; readonly made: readonly Resource[] }
  | { readonly ok: false; readonly why: string }

/** What takes no time of its own has nothing to estimate either. */
const POINT = { duration: 0, confirmed: true, estimate: null } as const

/**
 * Takes somebody else's list row by row, then ties its links, and says what it understood. Nothing is dropped in silence: what is not
 * taken stands in the problems of its sheet.
 */
export class ListReader {
  private readonly plan: Plan
  private readonly options: ListOptions
  private readonly loose: LooseRows
  private readonly sheets: OpenSheet[] = []
  /** The one that is being read. */
  private sheet!: OpenSheet
  private readonly changes: Change[] = []
  private readonly asked: AskedLink[] = []
  private readonly byCode: Map<string, Activity>
  private readonly byName = new Map<string, Activity | null>()
  /** Codes of rows that were left out, and of those taken, with where they stand. */
  private readonly leftOut = new Map<string, Place>()
  private readonly taken = new Map<string, Place>()
  private readonly groupsByName: Map<string, Group>
  private readonly activities: Activity[]
  private readonly groups: Group[]
  private readonly links: Link[]
  private readonly takenIds: Set<string>
  private readonly resources: Resource[]
  /** What each activity of the list is to have. */
  private readonly needed = new Map<string, Wanted[]>()

  /** @param loose - rows that are known to have links to nothing, from {@link looseRows} of a reading before */
  constructor(plan: Plan, options: ListOptions, loose: LooseRows = new Map()) {
    this.plan = plan
    this.loose = loose
    this.options = options
    this.byCode = new Map(plan.activities.map((a) => [a.code.toLowerCase(), a]))
    this.groupsByName = new Map(plan.groups.map((g) => [groupKey(g.parent, g.name), g]))
    this.activities = [...plan.activities]
    this.groups = [...plan.groups]
    this.links = [...plan.links]
    this.resources = [...plan.resources]
    this.takenIds = new Set(plan.activities.map((a) => a.id))
    for (const activity of plan.activities) this.name(activity)
  }

  /** Goes on with another sheet. */
  turnTo(sheet: ListSheet): void {
    this.sheet = {
      ...sheet,
      counts: { added: 0, updated: 0, links: 0, groups: 0, assignments: 0 },
      resources: [],
      problems: [],
      byRow: new Map(),
      openGroups: [],
    }
    this.sheets.push(this.sheet)
  }
  /** A place, as it is said on the sheet that is being read. */
  private placeWords({ sheet, row }: Place): string {
    return sheet === this.sheet ? `in row ${row}` : `in row ${row} of the sheet “${sheet.name}”`
  }

  private name(activity: Activity): void {
    const key = activity.name.trim().toLowerCase()
    if (key !== '') this.byName.set(key, this.byName.has(key) ? null : activity)
  }
  complain(r: number, column: number | null, text: string, why: string): void {
    this.sheet.problems.push({ row: r + 1, column, text, why })
  }
  /** An activity by its code, else its row or outline number in the list, else its name if that is one. */
  find(ref: string): Activity | undefined {
    const key = ref.trim().toLowerCase()
    return this.byCode.get(key) ?? this.sheet.byRow.get(key) ?? this.byName.get(key) ?? undefined
  }
  ask(link: ListLink, activity: Activity, side: 'in' | 'out', row: number, column: number): void {
    this.asked.push({ sheet: this.sheet, link, activity, side, row, column })
  }

  /** What was typed of resources; who is not known yet is a resource without a price. */
  readNeeds(typed: string): Needs {
    const made: Resource[] = []
    const plan = { ...this.plan, resources: this.resources }
    const read = readAssignments(plan, typed, (name) => {
      const isWord = /\p{L}/u.test(name) && name.length <= MAX_TEXT
      const known = made.find((one) => (one.code || one.name).toLowerCase() === name.toLowerCase())
      if (known || !isWord) return known ?? null
      const isCode = !/\s/.test(name)
      const id = freshId([...this.resources, ...made], 'r', this.options.random)
      const item: Item = { id, code: isCode ? name : '', name: isCode ? '' : name, kind: 'people' }
      made.push(item as unknown as Resource)
      return made.at(-1)!
    })
    return read.ok ? { ...read, made } : read
  }
  /** @returns why it cannot be, where it says something else than was said before */
  takeNeeds(activity: Activity, { wanted, made }: Needs & { ok: true }): string | null {
    if (wanted.length === 0) return null // an empty cell says nothing
    const own = this.needed.get(activity.id) ?? []
    this.needed.set(activity.id, own)
    for (const one of wanted) {
      const before = own.find(({ resource }) => resource === one.resource)
      if (before && before.amount !== one.amount)
        return `${activity.code} has ${before.amount} of it already; the first counts`
      if (before) continue
      own.push(one)
      this.sheet.counts.assignments++
    }
    for (const resource of made) {
      this.resources.push(resource)
      this.sheet.resources.push(resource.code || resource.name)
      this.changes.push({ kind: 'add', list: 'resources', item: { ...resource }, before: null })
    }
    return null
  }

  takeRow(r: number): void {
    const { cells, mapping, problems, byRow, openGroups, badRows } = this.sheet
    const row = cells[r]!
    const { fields } = mapping
    const text = (field: ListField): string => (row[fields.indexOf(field)] ?? '').trim()
    if (row.every((cell) => cell.trim() === '')) return
    const before = problems.length
    const bad = (field: ListField, why: string): void =>
      this.complain(r, fields.indexOf(field), text(field), why)

    const depth = this.depthOf(r)
    if (depth !== null) {
      while (openGroups.length > 0 && openGroups.at(-1)!.depth >= depth) openGroups.pop()
      const next = this.nextDepth(r)
      if (next !== null && next > depth) {
        openGroups.push({
          depth,
          id: this.addGroup(
            text('name') || text('code'),
            openGroups.at(-1)?.id ?? this.options.group,
            text('code'),
          ),
        })
        return
      }
    }
    const name = text('name').replace(/^\s+/, '')
    const code = text('code')
    if (name === '' && code === '')
      return this.complain(r, null, row.join(' · ').slice(0, 80), 'the row has neither a name nor a code')
    for (const field of ['name', 'code', 'owner', 'notes'] as const)
      if (text(field).length > MAX_TEXT)
        this.complain(
          r,
          fields.indexOf(field),
          `${text(field).slice(0, 80)}…`,
          `longer than ${MAX_TEXT.toLocaleString('en')} letters; shorten it`,
        )
    const isCode = !/\s/.test(code) && code.length <= MAX_TEXT
    if (/\s/.test(code)) bad('code', `“${code}” has a space in it; a code has none`)
    const known = code === '' ? undefined : this.byCode.get(code.toLowerCase())
    const earlier = this.taken.get(code.toLowerCase())
    const set: Item = {}
    for (const [field, value] of [
      ['name', name],
      ['owner', text('owner')],
      ['notes', text('notes')],
    ] as const)
      if (value !== '' && value.length <= MAX_TEXT) set[field] = value
    const tags = this.tagsOf(row)
    if (tags) set.tags = { ...known?.tags, ...tags }

    const calendar = this.calendarOf(text('calendar'))
    if (calendar === undefined)
      bad('calendar', `there is no calendar “${text('calendar')}”; make it first, or leave the column out`)
    else if (text('calendar') !== '') set.calendar = calendar
    const lengths = this.lengthsOf(
      (set.calendar as string | undefined) ?? known?.calendar ?? this.plan.project.calendar,
    )

    const kind = text('kind').toLowerCase()
    if (/mile|event/.test(kind))
      Object.assign(set, { kind: 'milestone', edge: /start/.test(kind) ? 'start' : 'finish', ...POINT })
    else if (/hammock|summary/.test(kind)) Object.assign(set, { kind: 'hammock', ...POINT })
    const duration = text('duration')
    if (duration !== '') {
      const read = readListDuration(duration, lengths, mapping.unit)
      if (!read.ok) bad('duration', read.why)
      else if (read.value < 0) bad('duration', 'a duration cannot be negative')
      else if (read.value === 0 && set.kind === undefined && !known)
        Object.assign(set, { kind: 'milestone', edge: 'finish', ...POINT })
      else if (set.kind === undefined && known && known.kind !== 'work') {
        if (read.value !== 0)
          bad(
            'duration',
            `${known.code} is a ${known.kind} in the plan, which takes no duration; make it work first, or leave the cell empty`,
          )
      } else if (set.kind === undefined)
        Object.assign(set, { duration: read.value, confirmed: !duration.trim().endsWith('?') })
    }
    const limits = this.limitsOf(text, bad)
    if (limits.length > 0)
      set.constraints = [
        ...(known?.constraints ?? []).filter(
          (c) => !limits.some((l) => l.edge === c.edge && l.rule === c.rule),
        ),
        ...limits,
      ]

    const asked = (['waits', 'leads'] as const).flatMap((field) => {
      const { links, problems } = readListLinks(text(field))
      for (const why of problems) bad(field, why)
      return links.map((link) => ({ link, field }))
    })
    const needs = this.readNeeds(text('resources'))
    if (!needs.ok) bad('resources', needs.why)
    // A list may have a row for each link of an activity; what else it says of it is said once, or is the same.
    const isOther = earlier !== undefined && !this.saysTheSame(known!, set, text('group'))
    if (isOther)
      bad(
        'code',
        `${code} is ${this.placeWords(earlier)} already, and says something else there; one of them needs another code`,
      )
    for (const { column, text: said, why } of this.loose.get(this.rowKey(this.sheet, r)) ?? [])
      this.complain(r, column, said, why)
    if (problems.length > before && badRows === 'leave-out') {
      if (code !== '' && !earlier) this.leftOut.set(code.toLowerCase(), { sheet: this.sheet, row: r + 1 })
      return
    }
    const group = openGroups.at(-1)?.id ?? (text('group') === '' ? undefined : this.groupOf(text('group')))
    const activity =
      isOther || !isCode || !known
        ? this.add(isOther || !isCode ? '' : code, set, group ?? this.options.group)
        : earlier
          ? known
          : this.update(known, set, group)
    if (code !== '' && isCode && !earlier)
      this.taken.set(code.toLowerCase(), { sheet: this.sheet, row: r + 1 })
    byRow.set(String(r - mapping.headRow), activity)
    if (text('number') !== '') byRow.set(text('number').toLowerCase(), activity)
    const unfit = needs.ok ? this.takeNeeds(activity, needs) : null
    if (unfit !== null) bad('resources', unfit)
    for (const { link, field } of asked)
      this.ask(link, activity, field === 'waits' ? 'in' : 'out', r, fields.indexOf(field))
  }
  /** Whether a row of a code that was taken already says nothing else of it. */
  private saysTheSame(taken: Activity, set: Item, path: string): boolean {
    const group = this.sheet.openGroups.at(-1)?.id ?? (path === '' ? undefined : this.groupAt(path))
    return Object.keys(this.differing(taken, set, group)).length === 0
  }

  private limitsOf(
    text: (field: ListField) => string,
    bad: (field: ListField, why: string) => void,
  ): Constraint[] {
    const around = instantOf(this.plan.project.start, 'start')
    return (['start-limit', 'finish-limit'] as const).flatMap((field): Constraint[] => {
      if (text(field) === '') return []
      const read = readListDate(text(field), this.sheet.mapping.dayFirst, around)
      if (!read.ok) {
        bad(field, read.why)
        return []
      }
      return [
        field === 'start-limit'
          ? { edge: 'start', rule: 'not-before', date: read.value, overrides: false }
          : { edge: 'finish', rule: 'not-after', date: read.value, overrides: false },
      ]
    })
  }

  /** Depth in the outline from a level, or from the dots of an outline number; null where the list has neither. */
  private depthOf(r: number): number | null {
    const { cells, mapping } = this.sheet
    const { fields } = mapping
    const level = fields.indexOf('level')
    const number = fields.indexOf('number')
    const text = (c: number): string => (cells[r]?.[c] ?? '').trim()
    if (level >= 0 && /^\d+$/.test(text(level))) return Number(text(level))
    if (number >= 0 && text(number) !== '') return text(number).split('.').filter(Boolean).length
    return null
  }
  private nextDepth(r: number): number | null {
    const { cells } = this.sheet
    for (let at = r + 1; at < cells.length; at++)
      if (cells[at]!.some((cell) => cell.trim() !== '')) return this.depthOf(at)
    return null
  }

  private tagsOf(row: readonly string[]): Record<string, string> | null {
    const { cells, mapping } = this.sheet
    const { fields, headRow } = mapping
    const tags: Record<string, string> = {}
    fields.forEach((field, c) => {
      const value = (row[c] ?? '').trim()
      if (field === 'tag' && value !== '')
        tags[(headRow < 0 ? '' : (cells[headRow]![c] ?? '').trim()) || `column ${c + 1}`] = value
    })
    return Object.keys(tags).length > 0 ? tags : null
  }

  private lengthsOf(calendar: string): DayLengths {
    return lengthsOf(this.plan, calendar)
  }
  private calendarOf(text: string): string | null | undefined {
    const wanted = text.toLowerCase()
    if (wanted === '') return null
    if (wanted === 'clock' || wanted === 'round the clock') return 'clock'
    return this.plan.calendars.find((c) => c.name.toLowerCase() === wanted || c.id.toLowerCase() === wanted)
      ?.id
  }

  /** A group by its path, "Hull / Coating"; made where it is missing. */
  private groupOf(path: string): string {
    let parent: string | null = this.options.group
    for (const name of pathOf(path))
      parent = this.groupsByName.get(groupKey(parent, name))?.id ?? this.addGroup(name, parent, '')
    return parent!
  }
  /** The same where there is one; null where it would have to be made. */
  private groupAt(path: string): string | null {
    let parent: string | null = this.options.group
    for (const name of pathOf(path)) {
      parent = this.groupsByName.get(groupKey(parent, name))?.id ?? null
      if (parent === null) return null
    }
    return parent
  }
  private addGroup(name: string, parent: string | null, code: string): string {
    const item = {
      id: freshId(this.groups, 'g', this.options.random),
      code: /\s/.test(code) ? '' : code,
      name,
      parent,
    }
    this.groups.push(item)
    this.groupsByName.set(groupKey(parent, name), item)
    this.changes.push({ kind: 'add', list: 'groups', item, before: null })
    this.sheet.counts.groups++
    return item.id
  }

  /** What would be another than it is. */
  private differing(known: Activity, set: Item, group: string | null | undefined): Item {
    const next: Item = { ...set }
    if (group !== undefined && group !== known.group) next.group = group
    const { duration, ...rest } = next
    // A new duration takes its estimate along, as everywhere.
    const timed =
      typeof duration === 'number' && duration !== known.duration
        ? (setDuration(known, duration) as { set: Item }).set
        : {}
    const fields = { ...rest, ...timed }
    for (const field of Object.keys(fields))
      if (JSON.stringify(fields[field]) === JSON.stringify(known[field])) delete fields[field]
    return fields
  }
  private update(known: Activity, set: Item, group: string | undefined): Activity {
    const fields = this.differing(known, set, group)
    if (Object.keys(fields).length > 0) {
      this.changes.push({ kind: 'set', list: 'activities', key: known.id, set: fields })
      this.sheet.counts.updated++
    }
    const updated = { ...known, ...fields } as Activity
    this.byCode.set(known.code.toLowerCase(), updated)
    return updated
  }

  private add(code: string, set: Item, group: string | null): Activity {
    let id: string
    do id = freshId([], 'a', this.options.random)
    while (this.takenIds.has(id))
    this.takenIds.add(id)
    let own = code
    if (own === '')
      for (
        let n = this.activities.length * 10 + 10;
        own === '' || this.byCode.has(own.toLowerCase());
        n += 10
      )
        own = `A${n}`
    const item: Item = {
      id,
      code: own,
      name: '',
      group,
      kind: 'work',
      duration: 0,
      confirmed: false,
      calendar: null,
      constraints: [],
      tags: {},
      ...set,
    }
    const activity = item as unknown as Activity
    this.activities.push(activity)
    this.byCode.set(own.toLowerCase(), activity)
    this.name(activity)
    this.changes.push({ kind: 'add', list: 'activities', item, before: null })
    this.sheet.counts.added++
    return activity
  }

  private rowKey(sheet: OpenSheet, row: number): string {
    return `${this.sheets.indexOf(sheet)} ${row}`
  }
  /** Why a link that was asked for leads to nothing; the other activity where it leads to one. */
  private otherEnd({ link, activity }: AskedLink): Activity | string {
    const other = this.find(link.ref)
    if (other) return other.id === activity.id ? 'an activity cannot wait for itself' : other
    const leftOut = this.leftOut.get(link.ref.toLowerCase())
    return leftOut
      ? `${link.ref} is ${this.placeWords(leftOut)}, which is left out`
      : `there is no activity ${link.ref}`
  }

  /**
   * The rows that are to be left out because a link of theirs names nothing that there is. Known only once all rows have been read: the
   * list is then read anew without them. A row that waits for one of them stays, as one that waits for any row that is left out.
   */
  looseRows(): LooseRows {
    const loose = new Map<string, LooseCell[]>()
    for (const { sheet, link, row, column } of this.asked) {
      this.sheet = sheet
      if (sheet.badRows !== 'leave-out' || this.find(link.ref) || this.leftOut.has(link.ref.toLowerCase()))
        continue
      const key = this.rowKey(sheet, row)
      loose.set(key, [
        ...(loose.get(key) ?? []),
        { column, text: link.text, why: `there is no activity ${link.ref}` },
      ])
    }
    return loose
  }

  /** Once all rows are known, links are tied by code, row number, outline number or name. */
  connectLinks(): void {
    const made: { change: Change & { kind: 'add' }; asked: AskedLink }[] = []
    const known = new Set(this.links.map((l) => `${l.from}|${l.to}|${l.type}`))
    const ids = new Set(this.links.map((l) => l.id))
    for (const asked of this.asked) {
      const { sheet, link, activity, side, row, column } = asked
      this.sheet = sheet
      const other = this.otherEnd(asked)
      if (typeof other === 'string') {
        this.complain(row, column, link.text, other)
        continue
      }
      const [from, to] = side === 'in' ? [other, activity] : [activity, other]
      const lag =
        link.lag === ''
          ? ({ ok: true, value: 0 } as const)
          : readListDuration(
              link.lag,
              this.lengthsOf(lagCalendarOf(this.plan.project, { lagOn: null }, from, to)),
              sheet.mapping.unit,
            )
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
      made.push({
        asked,
        change: {
          kind: 'add',
          list: 'links',
          item: newLink({
            id,
            from: from.id,
            to: to.id,
            type: link.type,
            lag: lag.value,
          }),
          before: null,
        },
      })
    }
    this.dropLoops(made)
    for (const { change, asked } of made) {
      this.changes.push(change)
      asked.sheet.counts.links++
    }
  }

  /** Takes out, and reports, the last link of each loop that the list would close. */
  private dropLoops(made: { change: Change & { kind: 'add' }; asked: AskedLink }[]): void {
    const codeOf = new Map(this.activities.map((a) => [a.id, a.code]))
    for (;;) {
      const loop = findLoop({
        ...this.plan,
        activities: this.activities,
        links: [...this.links, ...made.map((m) => m.change.item as unknown as Link)],
      })
      if (!loop) return
      const inLoop = new Set(loop.map((l) => l.id))
      const at = made.findLastIndex((m) => inLoop.has(m.change.item.id as string))
      if (at < 0) return
      const { sheet, row, column, link } = made[at]!.asked
      this.sheet = sheet
      this.complain(
        row,
        column,
        link.text,
        `it would close a loop: ${[...loop.map((l) => codeOf.get(l.from)), codeOf.get(loop[0]!.from)].join(' → ')}`,
      )
      made.splice(at, 1)
    }
  }

  reading(): SheetsReading {
    this.changes.push(...assignEach(this.plan, this.needed, this.options.random))
    const sheets = this.sheets.map(({ counts, resources, problems }) => ({
      ...counts,
      resources,
      problems: problems.toSorted((a, b) => a.row - b.row),
    }))
    return { change: { kind: 'all', changes: this.changes }, sheets }
  }
}

const pathOf = (path: string): string[] => path.split(/\s*[/>\\]\s*/).filter(Boolean)
const groupKey = (parent: string | null, name: string): string =>
  `${parent ?? ''}|${name.trim().toLowerCase()}`
