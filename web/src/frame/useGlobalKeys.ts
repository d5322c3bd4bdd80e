import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import { STAGES } from './stages.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'

/** Every shortcut that works anywhere, for the handler below and for the sheet that lists them. */
export const SHORTCUTS: readonly (readonly [keys: string, does: string])[] = [
  ['Ctrl K', 'Find an activity, or do anything'],
  ['Ctrl Z', 'Take the last change back'],
  ['Ctrl Shift Z', 'Do it again'],
  ['?', 'This sheet'],
  ['T', 'Show times in all dates, or only where they matter'],
  ['F', 'Find in the list'],
  ['Alt 1 … 7', 'Go to a stage'],
  ['↑ ↓ ← →', 'Move in the list'],
  ['Enter', 'Change the cell; again: keep it and go down'],
  ['F2', 'Change the cell; on a group its name, code or start'],
  ['Tab', 'Keep the cell and go right'],
  ['Esc', 'Leave the cell as it was; clear the selection'],
  ['Space', 'Add the row to the selection; Shift and arrows: a range'],
  ['N', 'New line: name, duration, what it waits for'],
  ['Delete', 'Remove what is selected'],
  ['L', 'Link the selection in series; Shift L: unlink'],
  ['G', 'Make a group of the selection'],
  ['B', 'Break work down into parts, typed one a line'],
  ['Alt ← →', 'Out of the group, into the group'],
  ['Alt ↑ ↓', 'Move the rows up, down'],
  ['Ctrl D', 'Fill the topmost cell down the selection'],
  ['Ctrl Enter', 'Keep the cell for all that are selected'],
  ['[ ]', 'Fold the groups by one level, open them by one'],
  ['Ctrl V', 'Paste a block: columns are recognised, then you say'],
  ['M', 'Ground, Map, Arrow map in turn'],
  ['+ −', 'Zoom the Ground in and out'],
  ['0', 'Fit the whole plan on the Ground'],
  ['Shift ← →', 'Move the Ground'],
]

export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

export const useGlobalKeys = (): void => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const router = useRouter()
  const route = useRoute()
  useEventListener(document, 'keydown', (event: KeyboardEvent) => {
    const ctrl = event.ctrlKey || event.metaKey
    const key = event.key.toLowerCase()
    if (ctrl && key === 'k') {
      event.preventDefault()
      ui.paletteOpen = !ui.paletteOpen
      return
    }
    if (isTyping(event.target)) return
    if (ctrl && key === 'z') {
      event.preventDefault()
      if (event.shiftKey) plans.redo()
      else plans.undo()
    } else if (event.altKey && /^[1-7]$/.test(event.key)) {
      event.preventDefault()
      void router.push({ name: STAGES[Number(event.key) - 1]!.name, params: route.params })
    } else if (!ctrl && !event.altKey && event.key === '?') ui.shortcutsOpen = !ui.shortcutsOpen
    else if (!ctrl && !event.altKey && key === 't') ui.allTimes = !ui.allTimes
    else if (!ctrl && !event.altKey && key === 'm')
      ui.pane = ui.pane === 'ground' ? 'map' : ui.pane === 'map' ? 'arrows' : 'ground'
  })
}
