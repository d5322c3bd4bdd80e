import { DAYLIGHT, DUSK } from '@geodrome/core'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

/** What is selected and how things are shown; nothing of the plan. */
export const useUiStore = defineStore('ui', () => {
  const theme = useLocalStorage<'daylight' | 'dusk'>('geodrome-theme', 'daylight')
  const tokens = computed(() => (theme.value === 'dusk' ? DUSK : DAYLIGHT))
  /** Ids of selected activities, the one that the Lens is about last. */
  const selection = ref<readonly string[]>([])
  const focus = computed(() => selection.value.at(-1) ?? null)
  /** Activities to show alone, with the reason that is said; null for all. */
  const filter = ref<{ readonly ids: ReadonlySet<string>; readonly reason: string } | null>(null)
  /** What led here from Review: named in the network, with the way back and to the next of its places. */
  const thread = ref<{
    readonly message: string
    readonly check: string
    readonly places: readonly string[]
  } | null>(null)
  const search = ref('')
  /** A group that is selected in the list instead of activities. */
  const group = ref<string | null>(null)
  const allTimes = ref(false)
  /** What stands beside the list: the time drawing, or one of the two diagrams. */
  const pane = useLocalStorage<'ground' | 'map' | 'arrows'>('geodrome-pane', 'ground')
  const paletteOpen = ref(false)
  const shortcutsOpen = ref(false)
  const changesOpen = ref(false)
  const collapsed = ref<ReadonlySet<string>>(new Set())
  /** Baselines whose brackets are shown on the time drawing; beside the one that is compared with. */
  const baselines = ref<readonly string[]>([])
  const showBaseline = (id: string, isShown: boolean): void => {
    baselines.value = [...baselines.value.filter((other) => other !== id), ...(isShown ? [id] : [])]
  }
  /** Counts up when the selected activity should be brought into view. */
  const reveal = ref(0)

  const select = (id: string, { add = false, show = false } = {}): void => {
    selection.value = add ? [...selection.value.filter((other) => other !== id), id] : [id]
    group.value = null
    if (show) reveal.value++
  }
  const toggleGroup = (id: string): void => {
    const next = new Set(collapsed.value)
    if (!next.delete(id)) next.add(id)
    collapsed.value = next
  }
  /** What was selected, folded and sought belongs to one plan. */
  const leavePlan = (): void => {
    selection.value = []
    group.value = filter.value = thread.value = null
    search.value = ''
    collapsed.value = new Set()
    baselines.value = []
    changesOpen.value = false
  }
  return {
    theme,
    tokens,
    selection,
    focus,
    filter,
    thread,
    search,
    group,
    allTimes,
    pane,
    paletteOpen,
    shortcutsOpen,
    changesOpen,
    collapsed,
    reveal,
    baselines,
    showBaseline,
    select,
    toggleGroup,
    leavePlan,
  }
})
