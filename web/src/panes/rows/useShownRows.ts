import { computed, type ComputedRef } from 'vue'
import { useRows } from '../../composables/useRows.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { columnOf, type CellContext } from './columns.ts'
import { useListStore } from './listStore.ts'
import { buildFilter } from './rowFilter.ts'

const inOrder = new Intl.Collator('en', { numeric: true })

/** The rows of the list as its view asks for them: found, filtered, sorted, under their groups or other headings. */
export const useShownRows = (context: ComputedRef<CellContext>) => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const list = useListStore()

  const filter = computed(() => buildFilter(context.value, list.view.conditions))
  const keeps = computed(() => {
    const words = ui.search.trim().toLowerCase().split(/\s+/).filter(Boolean)
    const { keeps: fits } = filter.value
    const alone = ui.filter?.ids
    if (!alone && !fits && words.length === 0) return null
    const { activities } = context.value.plan
    return (index: number): boolean => {
      const activity = activities[index]!
      const text = `${activity.code} ${activity.name}`.toLowerCase()
      return (
        (!alone || alone.has(activity.id)) &&
        (!fits || fits(index)) &&
        words.every((word) => text.includes(word))
      )
    }
  })
  const compare = computed(() => {
    const keys = list.view.sort.flatMap(({ column, descending }) => {
      const found = columnOf(column)
      return found ? [{ value: found.sortBy ?? found.text, sign: descending ? -1 : 1 }] : []
    })
    if (keys.length === 0) return null
    // Of the plan as it is now: after an edit every value is found anew.
    const now = context.value
    // What is sorted by is found once for each row: ten thousand are compared a hundred thousand times.
    const known = keys.map(() => new Map<number, number | string>())
    const of = (k: number, i: number): number | string => {
      let value = known[k]!.get(i)
      if (value === undefined) known[k]!.set(i, (value = keys[k]!.value(now, i)))
      return value
    }
    return (a: number, b: number): number => {
      for (let k = 0; k < keys.length; k++) {
        const [x, y] = [of(k, a), of(k, b)]
        if (x !== y)
          return (
            keys[k]!.sign *
            (typeof x === 'number' && typeof y === 'number' ? x - y : inOrder.compare(String(x), String(y)))
          )
      }
      return a - b
    }
  })
  const heading = computed(() => {
    const { groupBy } = list.view
    if (groupBy === '') return null
    if (groupBy === 'none') return undefined
    const { plan } = context.value
    if (groupBy.startsWith('tag:'))
      return (i: number): string => String(plan.activities[i]!.tags[groupBy.slice(4)] ?? '')
    if (groupBy === 'calendar')
      return (i: number): string =>
        context.value.calendars.name(context.value.calendars.idOf(plan.activities[i]!))
    const column = columnOf(groupBy)
    return (i: number): string => column?.text(context.value, i) ?? ''
  })
  const model = useRows(
    () => plans.viewPlan,
    () => ({
      collapsed: ui.collapsed,
      keeps: keeps.value,
      compare: compare.value,
      across: list.view.across && list.view.sort.length > 0,
      heading: heading.value,
    }),
  )
  return { filter, keeps, model }
}
