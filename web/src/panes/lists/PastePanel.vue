<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import { onKeyStroke } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import { cellsOf } from '@geodrome/core'
import { useListCommands } from '../rows/useListCommands.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import ListMapper from './ListMapper.vue'
import { useListReading, type SheetManner } from './useListReading.ts'

const props = defineProps<{ text: string }>()
const emit = defineEmits<{ close: [] }>()
const plans = usePlanStore()
const ui = useUiStore()
const { attempt } = useListCommands()
const cells = computed(() => cellsOf(props.text))
const manner = shallowRef<SheetManner | null>(null)
const group = computed(
  () => ui.group ?? (ui.focus === null ? null : (plans.activity(ui.focus)?.group ?? null)),
)
const into = computed(() => plans.viewPlan!.groups.find((g) => g.id === group.value)?.name ?? 'the plan')
onKeyStroke('Escape', () => emit('close'))

const { reading, isReading } = useListReading(
  () =>
    manner.value
      ? {
          plan: plans.viewPlan!,
          sheets: [{ name: '', cells: cells.value, ...manner.value }],
          group: group.value,
        }
      : null,
  // The worker holds the plan in view already.
  (list) => plans.readList({ ...list, plan: null }),
)

const take = (): void => {
  const { change } = reading.value!
  if (attempt(() => plans.edit(change))) emit('close')
}
const isEmpty = computed(
  () =>
    reading.value === null ||
    (reading.value.change.kind === 'all' && reading.value.change.changes.length === 0),
)
</script>

<template>
  <section class="paste" aria-label="What was pasted">
    <header>
      <h2>What was pasted, into {{ into }}</h2>
      <p class="soft">
        Say what each column holds. Rows whose code is known change that activity, the others are added; one
        undo takes all of it back.
      </p>
    </header>
    <ListMapper
      :cells="cells"
      :reading="reading?.sheets[0] ?? null"
      :is-reading="isReading"
      @manner="manner = $event"
    />
    <footer>
      <ActButton kind="primary" :disabled="isEmpty" data-test="take-list" @click="take">
        Take it into the plan
      </ActButton>
      <ActButton @click="emit('close')">Leave it</ActButton>
    </footer>
  </section>
</template>

<style scoped>
.paste {
  position: absolute;
  inset: -84px 0 0 auto;
  width: min(860px, 100%);
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 16px 20px;
  background: var(--paper);
  border-left: 1.5px solid var(--ink);
  z-index: 9;
}
footer {
  display: flex;
  gap: 10px;
}
</style>
