import { computed, type Ref, type WritableComputedRef } from 'vue'
import { useElementSize, useLocalStorage } from '@vueuse/core'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** The Ground keeps at least this much: in a narrow window the list gives way. */
const GROUND_MIN = 250
const LIST_MIN = 240

/** How wide list and Lens are, as they were left; what remains is the Ground's. */
export const usePaneWidths = (
  body: Readonly<Ref<HTMLElement | null>>,
): {
  /** As wide as the list was made. */
  readonly rowsWidth: WritableComputedRef<number>
  readonly lensWidth: Ref<number>
  readonly rowsFolded: WritableComputedRef<boolean>
  /** As wide as it is. */
  readonly listWidth: Readonly<Ref<number>>
} => {
  const plans = usePlanStore()
  const ui = useUiStore()
  /** The diagrams need more room beside the list than the Ground does. */
  const widths = useLocalStorage('geodrome-rows-widths', { ground: 506, diagram: 250 })
  const kind = computed(() => (ui.pane === 'ground' ? 'ground' : 'diagram'))
  const rowsWidth = computed({
    get: () => widths.value[kind.value],
    set: (width) => (widths.value = { ...widths.value, [kind.value]: width }),
  })
  const lensWidth = useLocalStorage('geodrome-lens-width', 290)
  /** Of each plan by itself; a plan with nothing in it is written in the list. */
  const isFolded = useLocalStorage(`geodrome-rows-folded-${plans.planId}`, false)
  const rowsFolded = computed({
    get: () => isFolded.value && (plans.viewPlan?.activities.length ?? 0) > 0,
    set: (folded) => (isFolded.value = folded),
  })
  const { width } = useElementSize(body)
  const listWidth = computed(() => {
    if (rowsFolded.value) return 0
    if (width.value === 0) return rowsWidth.value
    return Math.max(LIST_MIN, Math.min(rowsWidth.value, width.value - lensWidth.value - GROUND_MIN))
  })
  return { rowsWidth, lensWidth, rowsFolded, listWidth }
}
