/** How the list is shown: which columns, in what order the rows stand, what is left out. Views have names and can be kept. */
export interface RowView {
  readonly name: string
  readonly columns: readonly string[]
  /** Widths that differ from the columns' own, in pixels. */
  readonly widths: Readonly<Record<string, number>>
  readonly sort: readonly SortKey[]
  /** Sorted inside groups (the groups stay), or across them. */
  readonly across: boolean
  /** '' for the outline, 'none', 'owner', 'calendar', 'kind', or 'tag:<name>'. */
  readonly groupBy: string
  readonly conditions: readonly Condition[]
}
export interface SortKey {
  readonly column: string
  readonly descending: boolean
}
/** One line of the filter: rows must keep all of them. */
export interface Condition {
  readonly field: string
  readonly test: string
  readonly value: string
}

const view = (name: string, columns: string, rest: Partial<RowView> = {}): RowView => ({
  name,
  columns: columns.split(' '),
  widths: {},
  sort: [],
  across: false,
  groupBy: '',
  conditions: [],
  ...rest,
})

/** Views that come with the application; changing one makes it one's own. */
export const GIVEN_VIEWS: readonly RowView[] = [
  view('Plan', 'code name duration start finish float'),
  view('Logic', 'code name duration waits leads float'),
  view('Dates', 'code name start finish late float free limits'),
  view('Progress', 'code name done start finish agreed-finish finish-variance float'),
  view('People', 'code name duration owner calendar tags checklist notes'),
  view('Estimates', 'code name duration estimate calendar float'),
  view('Tightest first', 'code name duration start finish float', {
    sort: [
      { column: 'float', descending: false },
      { column: 'start', descending: false },
    ],
    across: true,
  }),
]
