<script setup lang="ts">
import ActButton from '../controls/ActButton.vue'
import { useLocalStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import type { Change } from '@geodrome/core'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'

/** The first minutes, on the Kiln rebuild: each step is ticked by doing it. */
const plans = usePlanStore()
const ui = useUiStore()
const state = useLocalStorage('geodrome-guide', { closed: false, done: [] as string[] })

const parts = (change: Change): Change[] => (change.kind === 'all' ? change.changes.flatMap(parts) : [change])
const made = computed(() =>
  [...plans.log.map((e) => e.change), ...plans.pending.map((p) => p.change)].flatMap(parts),
)
const STEPS: readonly { id: string; text: string; isDone: () => boolean }[] = [
  {
    id: 'why',
    text: 'Select K50 in the list: the Lens says why it starts on 16 March.',
    isDone: () => ui.focus !== null && plans.activity(ui.focus)?.code === 'K50',
  },
  {
    id: 'edit',
    text: 'On the duration of K40 press Enter, type 7d, Enter: the line above says what moved.',
    isDone: () => made.value.some((c) => c.kind === 'set' && 'duration' in c.set),
  },
  {
    id: 'line',
    text: 'Press Alt N and type a line: Inspect lining, 4h, after K40',
    isDone: () => made.value.some((c) => c.kind === 'add' && c.list === 'activities'),
  },
  { id: 'map', text: 'Look at it as a Map: below, right of the list.', isDone: () => ui.pane !== 'ground' },
  {
    id: 'undo',
    text: 'Ctrl Z takes back the last change, Ctrl K does everything else.',
    isDone: () => plans.log.some((e) => e.undoes !== null) || ui.paletteOpen,
  },
]
watch(
  () => STEPS.filter((s) => s.isDone()).map((s) => s.id),
  (ids) => {
    const fresh = ids.filter((id) => !state.value.done.includes(id))
    if (fresh.length > 0) state.value = { ...state.value, done: [...state.value.done, ...fresh] }
  },
  { immediate: true },
)
const isShown = computed(() => !state.value.closed && plans.plan?.project.code === 'KILN')
const next = computed(() => STEPS.find((s) => !state.value.done.includes(s.id)))
</script>

<template>
  <aside v-if="isShown" class="guide" aria-label="First steps">
    <strong>{{
      next ? `First steps, ${STEPS.length - state.done.length} to go` : 'That is how it works'
    }}</strong>
    <span>{{ next?.text ?? 'Open Kittiwake refit for a network with real trouble in it.' }}</span>
    <ActButton kind="bare" class="close" @click="state = { ...state, closed: true }">
      {{ next ? 'Not now' : 'Close' }}
    </ActButton>
  </aside>
</template>

<style scoped>
.guide {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 30px;
  padding: 3px 18px;
  background: var(--raised);
  border-bottom: 1px solid var(--hairline);
  box-shadow: inset 4px 0 0 var(--fjord);
  flex: none;
}
.guide strong {
  white-space: nowrap;
  color: var(--fjord);
}
.close {
  margin-left: auto;
  border-bottom: 1.5px dotted var(--ink);
  min-height: 22px;
  white-space: nowrap;
}
</style>
