<script setup lang="ts">
import { computed } from 'vue'
import { thresholdAt } from '@geodrome/core'

/** What a fever picture stands on: how much of a buffer is used over how much of its chain is done, in three hatch densities. */
const props = defineProps<{
  thresholds: readonly (readonly [number, number])[]
  /** All that is drawn on it, in words. */
  label: string
}>()
const WIDTH = 250
const HEIGHT = 182
const [LEFT, BOTTOM, TOP, RIGHT] = [30, 36, 8, 8]
/** Above all used there is room for more. */
const MOST = 1.2
const x = (share: number): number => LEFT + share * (WIDTH - LEFT - RIGHT)
const y = (share: number): number =>
  HEIGHT - BOTTOM - (Math.min(share, MOST) / MOST) * (HEIGHT - BOTTOM - TOP)
const lines = computed(() =>
  props.thresholds.map(
    (one) => [thresholdAt([one[0], one[1]], 0), thresholdAt([one[0], one[1]], 1)] as const,
  ),
)
const areas = computed(() => {
  const [lower, upper] = [lines.value[0]!, lines.value[1]!]
  const band = (low: readonly [number, number], high: readonly [number, number]): string =>
    `${x(0)},${y(low[0])} ${x(1)},${y(low[1])} ${x(1)},${y(high[1])} ${x(0)},${y(high[0])}`
  return [
    { says: 'leave it alone', points: band([0, 0], lower), x: x(1) - 4, y: y(0) - 5, pattern: 'leave' },
    {
      says: 'plan what to do',
      points: band(lower, upper),
      x: x(1) - 4,
      y: y((lower[1] + upper[1]) / 2) + 3,
      pattern: 'plan',
    },
    { says: 'act', points: band(upper, [MOST, MOST]), x: x(1) - 4, y: y(MOST) + 12, pattern: 'act' },
  ]
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" class="fever" role="img" :aria-label="label">
    <defs>
      <pattern
        v-for="[id, gap] in [
          ['leave', 12],
          ['plan', 7],
          ['act', 4],
        ] as const"
        :id="`fever-${id}`"
        :key="id"
        :width="gap"
        :height="gap"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <line x1="0" x2="0" y1="0" :y2="gap" class="hatch" />
      </pattern>
    </defs>
    <polygon
      v-for="area in areas"
      :key="area.says"
      class="area"
      :points="area.points"
      :fill="`url(#fever-${area.pattern})`"
    />
    <line class="full" :x1="x(0)" :x2="x(1)" :y1="y(1)" :y2="y(1)" />
    <text v-for="area in areas" :key="area.says" class="says" :x="area.x" :y="area.y" text-anchor="end">
      {{ area.says }}
    </text>
    <text
      v-for="share in [0, 0.5, 1]"
      :key="`y${share}`"
      class="tick"
      :x="LEFT - 4"
      :y="y(share) + 4"
      text-anchor="end"
    >
      {{ share * 100 }}
    </text>
    <text
      v-for="share in [0, 0.5, 1]"
      :key="`x${share}`"
      class="tick"
      :x="x(share)"
      :y="HEIGHT - 22"
      :text-anchor="share === 1 ? 'end' : 'middle'"
    >
      {{ share * 100 }}
    </text>
    <text class="tick" :x="LEFT" :y="HEIGHT - 6">% of the buffer used, over % of its chain done</text>
    <slot :x="x" :y="y" :width="WIDTH" :top="TOP" />
  </svg>
</template>

<style scoped>
.fever {
  flex: none;
  width: 100%;
  aspect-ratio: 250 / 182;
  display: block;
}
.hatch {
  stroke: var(--soft-ink);
  stroke-width: 1;
}
.area {
  stroke: var(--ink);
  stroke-width: 0.8;
}
.full {
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.says,
.tick {
  font-size: 10.5px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--raised);
  stroke-width: 3px;
}
.says {
  font-weight: 600;
}
</style>
