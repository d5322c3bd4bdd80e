import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { freshId, type KeptView } from '@geodrome/core'
import { columnOf, type Column } from './columns.ts'
import { GIVEN_VIEWS, type RowView, type SortKey } from './rowView.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Room that a date needs for its year. */
const YEAR_WIDTH = 14
const [CODE_LEAST, CODE_MOST, LETTER_WIDTH, CODE_MARGIN] = [48, 112, 7.4, 16]

const viewOf = ({ name, columns, widths, sort, across, groupBy, conditions }: KeptView): RowView => ({
  name,
  columns,
  widths,
  sort,
  across,
  groupBy,
  conditions,
})

/**
 * How the list of activities is shown: the view in use, and the views kept by name: in the plan for all who open it, or in this
 * browser for oneself, in every plan.
 */
export const useListStore = defineStore('list', () => {
  const plans = usePlanStore()
  const own = useLocalStorage<readonly RowView[]>('geodrome-views', [])
  const ofPlan = computed(() => (plans.viewPlan?.views ?? []).map(viewOf))
  const view = useLocalStorage<RowView>('geodrome-view', GIVEN_VIEWS[0]!, { mergeDefaults: true })
  const panelOpen = ref(false)
  const recodeOpen = ref(false)
  /** A group that is asked to another start, with more than one way to bring it there. */
  const groupMove = ref<{ readonly group: string; readonly date: string } | null>(null)
  /** Work that is being broken down. */
  const breaking = ref<string | null>(null)
  /** Counts up when the line for new activities should take the keyboard. */
  const entryAsked = ref(0)
  /** What the last command on the list was refused for. */
  const problem = ref('')

  /** All views by name, each from where it was kept nearest: the plan, then this browser, then those given. */
  const views = computed(() => {
    const isNamedIn = (lists: readonly (readonly RowView[])[], { name }: RowView): boolean =>
      lists.some((list) => list.some((v) => v.name === name))
    return [
      ...GIVEN_VIEWS.filter((v) => !isNamedIn([own.value, ofPlan.value], v)),
      ...own.value.filter((v) => !isNamedIn([ofPlan.value], v)),
      ...ofPlan.value,
    ]
  })
  const placeOf = (name: string): 'plan' | 'own' | null =>
    ofPlan.value.some((v) => v.name === name) ? 'plan' : own.value.some((v) => v.name === name) ? 'own' : null
  /** Wide enough for the longest code, within reason. */
  const codeWidth = computed(() => {
    const letters = (plans.viewPlan?.activities ?? []).reduce(
      (most, { code }) => Math.max(most, code.length),
      0,
    )
    return Math.min(CODE_MOST, Math.max(CODE_LEAST, Math.ceil(letters * LETTER_WIDTH) + CODE_MARGIN))
  })
  const columns = computed(() =>
    view.value.columns.flatMap((id): Column[] => {
      const column = columnOf(id)
      if (!column || column.width === null) return column ? [column] : []
      const needed =
        id === 'code'
          ? codeWidth.value
          : plans.saysYears && column.isDate
            ? column.width + YEAR_WIDTH
            : column.width
      const width = view.value.widths[id] ?? needed
      return [width === column.width ? column : { ...column, width }]
    }),
  )
  const isChanged = computed(
    () => JSON.stringify(views.value.find((v) => v.name === view.value.name)) !== JSON.stringify(view.value),
  )

  const set = (fields: Partial<RowView>): void => void (view.value = { ...view.value, ...fields })
  const use = (name: string): void => {
    const found = views.value.find((v) => v.name === name)
    if (found) view.value = found
  }
  const keptIn = (name: string): KeptView | undefined => plans.plan?.views.find((v) => v.name === name)
  /** Keeps the view in use by name. @throws PlanError if the plan refuses it */
  const keep = (name: string, place: 'plan' | 'own'): void => {
    const named = { ...view.value, name }
    if (place === 'own') own.value = [...own.value.filter((v) => v.name !== name), named]
    else {
      const old = keptIn(name)
      plans.editPlan(
        old
          ? { kind: 'set', list: 'views', key: old.id, set: { ...named } }
          : {
              kind: 'add',
              list: 'views',
              before: null,
              item: { id: freshId(plans.plan!.views, 'v', Math.random), ...named },
            },
      )
    }
    view.value = named
  }
  const forget = (name: string): void => {
    const old = keptIn(name)
    if (old) plans.editPlan({ kind: 'remove', list: 'views', key: old.id })
    else own.value = own.value.filter((v) => v.name !== name)
  }

  /** Sorts by a column; again turns the order, a third time ends it. @param add - as a further key after those there are */
  const sortBy = (column: string, add: boolean): void => {
    const at = view.value.sort.findIndex((key) => key.column === column)
    const key = view.value.sort[at]
    const next: SortKey | null = !key
      ? { column, descending: false }
      : key.descending
        ? null
        : { column, descending: true }
    if (!add) set({ sort: next ? [next] : [] })
    else if (at < 0) set({ sort: [...view.value.sort, next!] })
    else set({ sort: next ? view.value.sort.with(at, next) : view.value.sort.toSpliced(at, 1) })
  }
  /** What was being done in the list of one plan; how it is shown stays. */
  const leavePlan = (): void => {
    panelOpen.value = recodeOpen.value = false
    groupMove.value = breaking.value = null
    problem.value = ''
  }
  return {
    view,
    views,
    placeOf,
    columns,
    isChanged,
    panelOpen,
    recodeOpen,
    groupMove,
    breaking,
    entryAsked,
    problem,
    set,
    use,
    keep,
    forget,
    sortBy,
    leavePlan,
  }
})
