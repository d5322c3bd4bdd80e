<script setup lang="ts">
import { computed } from 'vue'
import { instantOf, shortDay, type FeverPoint } from '@geodrome/core'
import FeverGround from '../../controls/FeverGround.vue'

/** How much of a buffer was used over how much of its chain was done: an ink path, one dot a period. */
const props = defineProps<{
  points: readonly FeverPoint[]
  buffer: string
  thresholds: readonly (readonly [number, number])[]
}>()
const dots = computed(() =>
  props.points.flatMap(({ period, statusDate, buffers }) => {
    const state = buffers.find(({ id }) => id === props.buffer)
    if (!state) return []
    return [
      {
        key: period?.id ?? 'now',
        isNow: period === null,
        label: shortDay(instantOf(statusDate, 'start')),
        done: state.progress,
        used: state.consumption,
        words: `${shortDay(instantOf(statusDate, 'start'))}: ${Math.round(100 * state.progress)} % done, ${Math.round(100 * state.consumption)} % used`,
      },
    ]
  }),
)
const label = computed(() => `Used over done, by period. ${dots.value.map(({ words }) => words).join('; ')}`)
</script>

<template>
  <FeverGround v-slot="{ x, y, width, top }" :thresholds="thresholds" :label="label" data-test="fever">
    <polyline
      v-if="dots.length > 1"
      class="path"
      :points="dots.map(({ done, used }) => `${x(done)},${y(used)}`).join(' ')"
    />
    <g v-for="(dot, k) in dots" :key="dot.key">
      <circle
        class="dot"
        :class="{ now: dot.isNow }"
        :cx="x(dot.done)"
        :cy="y(dot.used)"
        :r="k === dots.length - 1 ? 5 : 3.5"
      />
      <text
        class="date"
        :x="x(dot.done) > width - 80 ? x(dot.done) - 8 : x(dot.done) + 8"
        :y="y(dot.used) + (k % 2 === 0 && y(dot.used) > top + 14 ? -5 : 13 + (k % 2) * 10)"
        :text-anchor="x(dot.done) > width - 80 ? 'end' : 'start'"
      >
        {{ dot.label }}
      </text>
    </g>
  </FeverGround>
</template>

<style scoped>
.date {
  font-size: 10.5px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--raised);
  stroke-width: 3px;
}
.path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.dot {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 2;
}
.dot.now {
  fill: var(--paper);
}
</style>
