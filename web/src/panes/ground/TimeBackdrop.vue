<script setup lang="ts">
import { type Pin } from '@geodrome/core'
import type { TimeScale } from '../../composables/useTimeScale.ts'

/** What lies behind a drawing over time: the days without work, and the dates that run down it. */
defineProps<{
  scale: TimeScale
  bands: readonly { readonly x: number; readonly width: number }[]
  pins: readonly Pin[]
  height: number
}>()
</script>

<template>
  <rect
    v-for="band in bands"
    :key="band.x"
    class="band"
    :x="band.x"
    y="0"
    :width="band.width"
    :height="height"
  />
  <line
    v-for="pin in pins"
    :key="pin.id"
    :class="['pin', pin.tone]"
    :x1="scale.x(pin.at)"
    :x2="scale.x(pin.at)"
    y1="0"
    :y2="height"
  />
</template>

<style scoped>
.band {
  fill: var(--shade);
  opacity: 0.45;
}
.pin {
  stroke: var(--ink);
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
