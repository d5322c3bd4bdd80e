<script setup lang="ts">
import { type Pin } from '@geodrome/core'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import OffBands from './OffBands.vue'

/** What lies behind a drawing over time: the days without work, and the dates that run down it. */
const props = defineProps<{
  scale: TimeScale
  bands: readonly { readonly x: number; readonly width: number }[]
  pins: readonly Pin[]
  height: number
}>()
const at = (pin: Pin): number => Math.round(props.scale.x(pin.at) * 10) / 10
</script>

<template>
  <OffBands :bands="bands" :height="height" />
  <line
    v-for="pin in pins"
    :key="pin.id"
    :class="['pin', pin.tone]"
    :x1="at(pin)"
    :x2="at(pin)"
    y1="0"
    :y2="height"
  />
</template>

<style scoped>
.pin {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.pin.brick {
  stroke: var(--brick);
  stroke-dasharray: 2 3;
}
.pin.fjord {
  stroke: var(--fjord);
  stroke-dasharray: 6 3;
}
.pin.soft {
  stroke: var(--soft-ink);
}
</style>
