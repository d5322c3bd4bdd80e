import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { columnOf, type Column } from '../panes/rows/columns.ts'
import { GIVEN_VIEWS, type RowView, type SortKey } from '../panes/rows/rowView.ts'

/** How the list of activities is shown in this browser: the view in use and the views kept by name. */
export const useListStore = defineStore('list', () => {
  const kept = useLocalStorage<readonly RowView[]>('geodrome-views', [])
  const view = useLocalStorage<RowView>('geodrome-view', GIVEN_VIEWS[0]!, { mergeDefaults: true })
  const panelOpen = ref(false)
  const recodeOpen = ref(false)
  /** A group that is asked to another start, with more than one way to bring it there. */
  const groupMove = ref<{ readonly group: string; readonly date: string } | null>(null)
  /** Counts up when the line for new activities should take the keyboard. */
  const entryAsked = ref(0)
  /** What the last deed on the list was refused for. */
  const problem = ref('')

  const views = computed(() => [...GIVEN_VIEWS.filter((given) => !kept.value.some((k) => k.name === given.name)), ...kept.value])
  const columns = computed(() =>
    view.value.columns.flatMap((id): Column[] => {
      const column = columnOf(id)
      const width = view.value.widths[id]
      return column ? [width === undefined || column.width === null ? column : { ...column, width }] : []
    }),
  )
  const isChanged = computed(() => JSON.stringify(views.value.find((v) => v.name === view.value.name)) !== JSON.stringify(view.value))

  const set = (fields: Partial<RowView>): void => void (view.value = { ...view.value, ...fields })
  const use = (name: string): void => {
    const found = views.value.find((v) => v.name === name)
    if (found) view.value = found
  }
  const keep = (name: string): void => {
    view.value = { ...view.value, name }
    kept.value = [...kept.value.filter((v) => v.name !== name), view.value]
  }
  const forget = (name: string): void => void (kept.value = kept.value.filter((v) => v.name !== name))

  /** Sorts by a column; again turns the order, a third time ends it. @param add - as a further key after those there are */
  const sortBy = (column: string, add: boolean): void => {
    const at = view.value.sort.findIndex((key) => key.column === column)
    const key = view.value.sort[at]
    const next: SortKey | null = !key ? { column, descending: false } : key.descending ? null : { column, descending: true }
    if (!add) set({ sort: next ? [next] : [] })
    else if (at < 0) set({ sort: [...view.value.sort, next!] })
    else set({ sort: next ? view.value.sort.with(at, next) : view.value.sort.toSpliced(at, 1) })
  }
  return { view, views, kept, columns, isChanged, panelOpen, recodeOpen, groupMove, entryAsked, problem, set, use, keep, forget, sortBy }
})
