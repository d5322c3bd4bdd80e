<script setup lang="ts">
import ActButton from './ActButton.vue'

/** Long work that is under way, and can be stopped; or that was, and can be begun again. */
defineProps<{
  isRunning: boolean
  wasStopped: boolean
  /** What it is doing, e.g. "Looking for the chain". */
  doing: string
}>()
const emit = defineEmits<{ stop: []; again: [] }>()
</script>

<template>
  <span v-if="isRunning" role="status"
    >{{ doing }} … <ActButton kind="noun" data-test="stop-work" @click="emit('stop')">Stop</ActButton></span
  >
  <span v-else-if="wasStopped" role="status"
    >Stopped.
    <ActButton kind="noun" data-test="work-again" @click="emit('again')">Begin again</ActButton></span
  >
</template>
