<script setup lang="ts">
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** What one came from Review for: its sentence, its places one after the other, and the way back to the same line of the sheet. */
const plans = usePlanStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const thread = computed(() => ui.thread!)
const places = computed(() => thread.value.places.filter((id) => plans.activity(id)))
const at = computed(() => places.value.indexOf(ui.focus ?? ''))
const PART: Readonly<Record<string, string>> = { points: 'points', shape: 'shape' }
const step = (by: number): void => {
  const next = places.value[(at.value + by + places.value.length) % places.value.length]
  if (next) ui.select(next, { show: true })
}
const leave = (): void => {
  ui.thread = null
  ui.filter = null
}
const back = async (): Promise<void> => {
  const part = PART[thread.value.check] ?? ''
  leave()
  await router.push({ name: 'review', params: { id: route.params.id as string, part } })
}
</script>

<template>
  <div class="thread" role="region" aria-label="From Review">
    <ActButton kind="noun" data-test="thread-back" @click="back">← Review</ActButton>
    <span class="what" :title="thread.message">{{ thread.message }}</span>
    <template v-if="places.length > 1">
      <IconButton :icon="ChevronLeft" class="step" label="The place before" @click="step(-1)" />
      <span class="soft" role="status">{{ at + 1 }} of {{ places.length }}</span>
      <IconButton
        :icon="ChevronRight"
        class="step"
        label="The next place"
        data-test="thread-next"
        @click="step(1)"
      />
    </template>
    <ActButton kind="bare" class="close" @click="leave">Leave it</ActButton>
  </div>
</template>

<style scoped>
.thread {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 30px;
  padding: 0 14px;
  background: var(--wash);
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
.what {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-weight: 600;
}
.step {
  width: 24px;
  height: 24px;
  text-align: center;
}
.close {
  margin-left: auto;
  border-bottom: 1.5px dotted var(--ink);
}
</style>
