<script setup lang="ts">
import { computed } from 'vue'
import { estimateCurve, type ThreePoint } from '@geodrome/core'

/** The shape of an estimate: how likely each duration is, with its likely value and where the planned one stands. Beside text that says it. */
const props = defineProps<{ estimate: ThreePoint; planned: number }>()
const [WIDTH, HEIGHT, PAD] = [104, 24, 3]
const drawn = computed(() => {
  const points = estimateCurve(props.estimate)
  const low = Math.min(props.planned, points[0]?.at ?? props.estimate.likely)
  const high = Math.max(props.planned, points.at(-1)?.at ?? props.estimate.likely)
  const x = (at: number): number =>
    PAD + ((at - low) / Math.max(1e-9, high - low)) * (WIDTH - 2 * PAD) || WIDTH / 2
  const y = (density: number): number => HEIGHT - 3 - density * (HEIGHT - 7)
  const [first, last] = [points[0], points.at(-1)]
  const edge = points.map(({ at, density }) => `${x(at).toFixed(1)},${y(density).toFixed(1)}`).join(' ')
  return {
    hill: first && last ? `${x(first.at)},${y(0)} ${edge} ${x(last.at)},${y(0)}` : null,
    planned: x(props.planned),
    base: y(0),
  }
})
</script>

<template>
  <svg :width="WIDTH" :height="HEIGHT" aria-hidden="true">
    <line class="base" :x1="PAD" :x2="WIDTH - PAD" :y1="drawn.base" :y2="drawn.base" />
    <polygon v-if="drawn.hill" class="hill" :points="drawn.hill" />
    <line class="planned" :x1="drawn.planned" :x2="drawn.planned" y1="2" :y2="HEIGHT" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
}
.base {
  stroke: var(--hairline);
}
.hill {
  fill: color-mix(in srgb, var(--fjord) 26%, transparent);
  stroke: var(--fjord);
}
.planned {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
