<script setup lang="ts">
import { instantWords, type DrawnPlan } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import { useUiStore } from '../../stores/uiStore.ts'

/** An activity in a list of the Lens: its name, which leads to it, and where it finishes. */
const { drawn, index } = defineProps<{ drawn: Pick<DrawnPlan, 'plan' | 'view'>; index: number }>()
const ui = useUiStore()
</script>

<template>
  <p class="one">
    <ActButton kind="noun" class="name" @click="ui.select(drawn.plan.activities[index]!.id, { show: true })">
      {{ drawn.plan.activities[index]!.code }} {{ drawn.plan.activities[index]!.name }}
    </ActButton>
    <span class="soft">{{ instantWords(drawn.view.finish[index]!, 'finish', { time: false }) }}</span>
  </p>
</template>

<style scoped>
.one {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: baseline;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  justify-self: start;
  max-width: 100%;
}
</style>
