<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import { instantOf, shortDay } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import type { Shown } from './shown.ts'

/** The finishes of all, fifty marks each, on one axis of dates: two in a hundred iterations a mark, hollow beyond the 80 %. */
const props = defineProps<{ shown: readonly Shown[]; chosen: string | null; required: number | null }>()
const emit = defineEmits<{ choose: [scenario: string] }>()

const ROW = 58
const NAMES = 186
const MARK = 8
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const at = (date: string): number => instantOf(date, 'finish')
const range = computed(() => {
  const all = [
    ...props.shown.flatMap(({ result, itself }) => [
      ...(result ? [at(result.dots[0]!), at(result.dots.at(-1)!)] : []),
      ...(itself ? [itself.finish] : []),
    ]),
    ...(props.required === null ? [] : [props.required]),
  ]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const pad = Math.max(1440, (high - low) * 0.03)
  return all.length === 0 ? ([0, 1440] as const) : ([low - pad, high + pad] as const)
})
const inner = computed(() => Math.max(120, width.value - NAMES - 34))
const x = (instant: number): number =>
  NAMES + ((instant - range.value[0]) / (range.value[1] - range.value[0])) * inner.value
const rows = computed(() =>
  props.shown.map((one, k) => {
    const base = k * ROW + 46
    const p80 = one.result && at(one.result.percentiles['80']!)
    const heights = new Map<number, number>()
    const dots = (one.result?.dots ?? []).map((date) => {
      const bin = Math.round((x(at(date)) - NAMES) / MARK)
      const level = heights.get(bin) ?? 0
      heights.set(bin, level + 1)
      // What would stand above the row stands closer.
      return { x: NAMES + bin * MARK, level, isBeyond: at(date) > p80! }
    })
    const tallest = Math.max(1, ...heights.values())
    const step = Math.min(MARK, 38 / tallest)
    const pins =
      one.result === null ? [] : ['50', '80'].map((p) => ({ p, x: x(at(one.result!.percentiles[p]!)) }))
    return {
      ...one,
      base,
      dots: dots.map((dot) => ({ ...dot, y: base - 5 - dot.level * step })),
      // Where the two are on one spot they share a name.
      pins:
        pins.length === 2 && Math.abs(pins[1]!.x - pins[0]!.x) < 34 ? [{ p: '50, 80', x: pins[1]!.x }] : pins,
      planned: one.itself ? x(one.itself.finish) : null,
    }
  }),
)
const height = computed(() => props.shown.length * ROW + 34)
const ticks = computed(() => {
  const [low, high] = range.value
  const days = (high - low) / 1440
  const step = [1, 2, 7, 14, 28, 56, 112].find((size) => days / size <= inner.value / 72) ?? 224
  const first = Math.ceil(low / 1440)
  return Array.from({ length: Math.floor(days / step) + 1 }, (_, k) => (first + k * step) * 1440).filter(
    (instant) => instant < high,
  )
})
const MARKS: Readonly<Record<string, string>> = {
  '●': 'M0,-3.3a3.3,3.3 0 1 0 0.01,0z',
  '▲': 'M0,-3.6l3.8,6.8h-7.6z',
  '■': 'M-3.1,-3.1h6.2v6.2h-6.2z',
  '◆': 'M0,-4l4,4l-4,4l-4,-4z',
  '★': 'M0,-4.2l1.2,2.8 3,.2 -2.3,2 .8,3 -2.7,-1.7 -2.7,1.7 .8,-3 -2.3,-2 3,-.2z',
  '✚': 'M-1.2,-3.7h2.4v2.5h2.5v2.4h-2.5v2.5h-2.4v-2.5h-2.5v-2.4h2.5z',
}
</script>

<template>
  <div ref="box" class="dots" data-test="scenario-dots">
    <svg
      :width="width"
      :height="height"
      role="img"
      aria-label="Finishes of the plan and of the scenarios; the table below says the same"
    >
      <line
        v-for="tick in ticks"
        :key="tick"
        class="grid"
        :x1="x(tick)"
        :x2="x(tick)"
        y1="6"
        :y2="height - 26"
      />
      <template v-if="required !== null">
        <line class="required" :x1="x(required)" :x2="x(required)" y1="2" :y2="height - 26" />
        <text class="required-name" :x="x(required) + 4" y="10">
          required {{ shortDay(required, 'finish') }}
        </text>
      </template>
      <g v-for="row in rows" :key="row.id ?? 'plan'">
        <rect
          v-if="row.id !== null && row.id === chosen"
          class="chosen"
          x="0"
          :y="row.base - 44"
          :width="width"
          :height="ROW - 2"
        />
        <line class="base" :x1="NAMES" :x2="NAMES + inner" :y1="row.base" :y2="row.base" />
        <path
          v-for="(dot, k) in row.dots"
          :key="k"
          :d="MARKS[row.mark]"
          :transform="`translate(${dot.x},${dot.y})`"
          :fill="dot.isBeyond ? 'var(--paper)' : row.colour"
          :stroke="row.colour"
          stroke-width="1.2"
        />
        <path
          v-if="row.planned !== null"
          class="planned"
          :d="`M${row.planned},${row.base - 5}v10`"
          :stroke="row.colour"
        />
        <text
          v-for="pin in row.pins"
          :key="pin.p"
          class="pin"
          :x="pin.x"
          :y="row.base + 11"
          :fill="row.colour"
        >
          {{ pin.p }} %
        </text>
      </g>
      <line class="axis" :x1="NAMES" :x2="NAMES + inner" :y1="height - 24" :y2="height - 24" />
      <text v-for="tick in ticks" :key="tick" class="tick" :x="x(tick)" :y="height - 8">
        {{ shortDay(tick, 'start') }}
      </text>
    </svg>
    <div
      v-for="row in rows"
      :key="row.id ?? 'plan'"
      class="name"
      :style="{ top: `${row.base - 30}px`, width: `${NAMES - 10}px` }"
    >
      <span class="mark" :style="{ color: row.colour }" aria-hidden="true">{{ row.mark }}</span>
      <strong v-if="row.id === null">{{ row.name }}</strong>
      <ActButton
        v-else
        kind="bare"
        :aria-pressed="row.id === chosen"
        data-test="scenario-name"
        @click="emit('choose', row.id)"
        ><strong>{{ row.name }}</strong></ActButton
      >
    </div>
  </div>
</template>

<style scoped>
.dots {
  position: relative;
}
.name {
  position: absolute;
  left: 0;
  display: flex;
  gap: 8px;
  line-height: 1.15;
  max-height: 46px;
  white-space: normal;
  overflow: hidden;
}
.name .act-button {
  height: auto;
  flex-shrink: 1;
}
.chosen {
  fill: var(--wash);
}
.grid {
  stroke: var(--hairline);
  stroke-width: 1;
}
.base,
.axis {
  stroke: var(--line);
}
.planned {
  stroke-width: 2;
}
.required {
  stroke: var(--brick);
  stroke-width: 1.5;
  stroke-dasharray: 2 3;
}
.required-name {
  fill: var(--brick);
  font-size: 11.5px;
  font-weight: 650;
}
.pin {
  font-size: 11px;
  font-weight: 650;
  text-anchor: middle;
}
.tick {
  font-size: 11.5px;
  fill: var(--soft-ink);
  text-anchor: middle;
}
</style>
