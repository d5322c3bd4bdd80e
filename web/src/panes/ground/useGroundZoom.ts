import { computed } from 'vue'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const ZOOMS = [
  ['days', 'by day'],
  ['weeks', 'by week'],
  ['months', 'by month'],
  ['quarters', 'by quarter'],
  ['all', 'the whole plan'],
] as const
const PER_DAY: Readonly<Record<string, number>> = { days: 160, weeks: 40, months: 11, quarters: 4 }

/**
 * How closely time is looked at: by day to the whole plan, to the selection, in and out around the work that is looked at.
 * @param inView - activities in view, by position
 * @param statusDate - where there is one
 */
export const useGroundZoom = (
  scale: TimeScale,
  inView: () => readonly number[],
  statusDate: () => number | undefined,
) => {
  const plans = usePlanStore()
  const ui = useUiStore()

  const zoomOptions = computed(() => [
    ...ZOOMS.map(([key, label]) => ({ key: key as string, label: label as string })),
    { key: 'selection', label: 'to the selection', disabled: ui.selection.length === 0 },
  ])
  const zoomTo = (choice: string): void => {
    if (choice === 'all') return scale.fitAll()
    if (choice === 'selection') {
      const at = ui.selection.map((id) => plans.byId.get(id)).filter((i) => i !== undefined)
      return scale.fit(
        Math.min(...at.map((i) => plans.view!.start[i]!)),
        Math.max(...at.map((i) => plans.view!.finish[i]!)),
      )
    }
    scale.show(PER_DAY[choice]!, whereWorkIs())
  }
  /** Where a closer look at time begins: at what is selected, else at the status date, else at the first work of the rows in view. */
  const whereWorkIs = (): number => {
    const view = plans.view!
    const starts = inView().map((i) => view.start[i]!)
    const selected = ui.selection.flatMap((id) => plans.byId.get(id) ?? []).map((i) => view.start[i]!)
    if (selected.length > 0) return Math.min(...selected)
    return statusDate() ?? (starts.length > 0 ? Math.min(...starts) : view.projectStart)
  }
  /** Around the work that is looked at, where that is in view. */
  const zoomBy = (factor: number): void => {
    const at = scale.x(whereWorkIs())
    scale.zoom(factor, at >= 0 && at <= scale.width.value ? at : undefined)
  }

  return { zoomOptions, zoomTo, zoomBy }
}
