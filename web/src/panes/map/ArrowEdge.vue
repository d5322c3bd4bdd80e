<script setup lang="ts">
import { computed } from 'vue'

const props = defineProps<{
  id: string
  sourceX: number
  sourceY: number
  targetX: number
  targetY: number
  data: { kind: 'work' | 'dummy' | 'wait'; code: string; name: string; below: string; strong: boolean; bow: number; faded: boolean }
}>()
/** Circles have a radius of 20; arrows run from rim to rim, bowed where several lie between the same rows. */
const line = computed(() => {
  const [x1, y1, x2, y2] = [props.sourceX - 20, props.sourceY, props.targetX + 20, props.targetY]
  const length = Math.hypot(x2 - x1, y2 - y1) || 1
  const [ux, uy] = [(x2 - x1) / length, (y2 - y1) / length]
  const [ax, ay, bx, by] = [x1 + ux * 21, y1 + uy * 21, x2 - ux * 24, y2 - uy * 24]
  const [mx, my] = [(ax + bx) / 2 - uy * props.data.bow, (ay + by) / 2 + ux * props.data.bow]
  return { d: `M${ax},${ay}Q${mx},${my} ${bx},${by}`, x: (ax + bx) / 4 + mx / 2, y: (ay + by) / 4 + my / 2, angle: Math.abs(Math.atan2(uy, ux)) }
})
</script>

<template>
  <g class="arrow" :class="[data.kind, { strong: data.strong, faded: data.faded }]">
    <path class="vue-flow__edge-path line" :d="line.d" marker-end="url(#arrow-head)" />
    <path v-if="data.kind === 'work'" class="hit" :d="line.d" />
    <template v-if="data.code || data.below">
      <text :x="line.x" :y="line.y - 8"><tspan class="code">{{ data.code }}</tspan> {{ data.name }}</text>
      <text class="below" :x="line.x" :y="line.y + 17">{{ data.below }}</text>
    </template>
  </g>
</template>

<style scoped>
.line { fill: none; stroke: var(--line); stroke-width: 1.4; }
.strong .line { stroke: var(--ink); stroke-width: 2.6; }
.dummy .line { stroke-dasharray: 6 4; }
.wait .line { stroke-dasharray: 1.5 4; stroke-linecap: round; stroke-width: 2; stroke: var(--fjord); }
.hit { fill: none; stroke: transparent; stroke-width: 24; cursor: pointer; }
.faded { opacity: 0.35; }
text { font-size: 11.5px; fill: var(--ink); text-anchor: middle; paint-order: stroke; stroke: var(--paper); stroke-width: 4px; pointer-events: none; }
.below { fill: var(--soft-ink); }
</style>
