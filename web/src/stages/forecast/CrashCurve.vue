<script setup lang="ts">
import HatchPattern from '../../controls/HatchPattern.vue'
import { computed, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import { amountWords, shortDay } from '@geodrome/core'
import type { CrashStepView } from '../../workers/crashProtocol.ts'
import SaveAs from '../../controls/SaveAs.vue'

/**
 * Cost that depends on the finish, stacked: what depends on time below, damages on it, crashing on top; the total a line. The axis is of
 * calendar days, so that a weekend is as wide as it is.
 */
const props = defineProps<{
  steps: readonly CrashStepView[]
  chosen: number
  /** Instant of the required finish. */
  required: number | null
  currency: string
}>()
const emit = defineEmits<{ choose: [step: number] }>()

const HEIGHT = 260
const TOP = 34
const BOTTOM = 36
const LEFT = 64
const RIGHT = 24
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)

/** Time-dependent cost that is there whatever the finish is drawn off: what differs is what one decides about. */
const always = computed(() => Math.min(...props.steps.map(({ cost }) => cost.time)))
const bars = computed(() =>
  props.steps.map(({ finish, cost }) => {
    const time = cost.time - always.value
    return {
      finish,
      time,
      damages: cost.damages,
      crashing: cost.crashing,
      total: time + cost.damages + cost.crashing,
    }
  }),
)
const most = computed(() => Math.max(1, ...bars.value.map(({ total }) => total)))
const first = computed(() => Math.min(props.steps.at(-1)!.finish, props.required ?? Infinity) - 720)
const last = computed(() => Math.max(props.steps[0]!.finish, props.required ?? -Infinity) + 720)
const x = (at: number): number =>
  LEFT +
  ((at - first.value) / Math.max(1, last.value - first.value)) * Math.max(10, width.value - LEFT - RIGHT)
const y = (amount: number): number => HEIGHT - BOTTOM - (amount / most.value) * (HEIGHT - TOP - BOTTOM)
const ticks = computed(() => {
  const rough = most.value / 4
  const power = 10 ** Math.floor(Math.log10(Math.max(1, rough)))
  const step = [1, 2, 2.5, 5, 10].map((k) => k * power).find((k) => k >= rough)!
  return Array.from({ length: Math.floor(most.value / step) + 1 }, (_, k) => k * step)
})
const area = (low: (k: number) => number, high: (k: number) => number): string => {
  const points = bars.value.map((bar, k) => [x(bar.finish), y(high(k)), y(low(k))] as const)
  const upper = points.map(([at, top]) => `${at.toFixed(1)} ${top.toFixed(1)}`)
  const lower = points.map(([at, , base]) => `${at.toFixed(1)} ${base.toFixed(1)}`).reverse()
  return points.length < 2 ? '' : `M${upper.join('L')}L${lower.join('L')}Z`
}
const layers = computed(() => {
  const all = bars.value
  return [
    {
      name: 'time',
      words: 'hammocks and cost per day',
      path: area(
        () => 0,
        (k) => all[k]!.time,
      ),
      shown: all.some(({ time }) => time > 0),
    },
    {
      name: 'damages',
      words: 'damages',
      path: area(
        (k) => all[k]!.time,
        (k) => all[k]!.time + all[k]!.damages,
      ),
      shown: all.some(({ damages }) => damages > 0),
    },
    {
      name: 'crashing',
      words: 'crashing',
      path: area(
        (k) => all[k]!.time + all[k]!.damages,
        (k) => all[k]!.total,
      ),
      shown: true,
    },
  ].filter(({ shown }) => shown)
})
const total = computed(
  () =>
    `M${bars.value.map(({ finish, total: sum }) => `${x(finish).toFixed(1)} ${y(sum).toFixed(1)}`).join('L')}`,
)
const least = computed(() =>
  bars.value.reduce((best, bar, k) => (bar.total < bars.value[best]!.total - 1e-9 ? k : best), 0),
)
/** Dates below the axis give way to each other. */
const dates = computed(() => {
  let right = -Infinity
  return [...bars.value.keys()].reverse().flatMap((k) => {
    const at = x(bars.value[k]!.finish)
    if (at < right) return []
    right = at + 58
    return [{ k, at, text: shortDay(bars.value[k]!.finish, 'finish') }]
  })
})
</script>

<template>
  <div ref="box" class="curve">
    <svg
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`Cost that depends on the finish, for ${steps.length} finishes`"
    >
      <defs>
        <HatchPattern id="crash-time" :gap="9" :thick="1" ink="var(--soft-ink)" :degrees="60" />
        <pattern id="crash-damages" width="5" height="5" patternUnits="userSpaceOnUse">
          <circle cx="1.5" cy="1.5" r="1" class="dot-of-damages" />
        </pattern>
        <HatchPattern id="crash-crashing" :gap="4" :thick="2" ink="var(--soft-ink)" />
      </defs>
      <g v-for="tick in ticks" :key="tick">
        <line class="grid" :x1="LEFT" :x2="width - RIGHT" :y1="y(tick)" :y2="y(tick)" />
        <text class="soft" :x="LEFT - 8" :y="y(tick) + 4" text-anchor="end">{{ amountWords(tick) }}</text>
      </g>
      <text class="soft" :x="LEFT - 8" :y="TOP - 16" text-anchor="end">{{ currency }}</text>
      <path
        v-for="layer in layers"
        :key="layer.name"
        :d="layer.path"
        :fill="`url(#crash-${layer.name})`"
        class="layer"
      />
      <path v-if="bars.length > 1" :d="total" class="total" />
      <g v-if="required !== null">
        <line class="due" :x1="x(required)" :x2="x(required)" :y1="TOP - 18" :y2="HEIGHT - BOTTOM" />
        <text class="brick-text" :x="x(required) + 5" :y="TOP - 20">required</text>
      </g>
      <g v-for="(bar, k) in bars" :key="bar.finish" class="step" @click="emit('choose', k)">
        <line
          v-if="k === chosen"
          class="chosen-line"
          :x1="x(bar.finish)"
          :x2="x(bar.finish)"
          :y1="y(bar.total)"
          :y2="HEIGHT - BOTTOM"
        />
        <circle
          :class="['dot', { chosen: k === chosen }]"
          :cx="x(bar.finish)"
          :cy="y(bar.total)"
          :r="k === chosen ? 6 : 4.5"
        />
        <circle class="reach" :cx="x(bar.finish)" :cy="y(bar.total)" r="14" />
        <text class="amount" :x="x(bar.finish)" :y="y(bar.total) - 11" text-anchor="middle">
          {{ amountWords(bar.total) }}{{ k === least ? ', the least' : '' }}
        </text>
      </g>
      <line class="axis" :x1="LEFT" :x2="width - RIGHT" :y1="HEIGHT - BOTTOM" :y2="HEIGHT - BOTTOM" />
      <text
        v-for="date in dates"
        :key="date.k"
        :x="date.at"
        :y="HEIGHT - BOTTOM + 16"
        text-anchor="middle"
        :class="{ strong: date.k === chosen }"
      >
        {{ date.text }}
      </text>
    </svg>
    <p class="legend soft">
      <span v-for="layer in layers" :key="layer.name"
        ><svg width="22" height="12" aria-hidden="true">
          <rect width="22" height="12" :fill="`url(#crash-${layer.name})`" class="layer" />
        </svg>
        {{ layer.words }}</span
      >
      <span v-if="always > 0"
        >beside {{ amountWords(Math.round(always)) }} {{ currency }} that are spent in any case</span
      >
      <SaveAs name="Cost of each finish" :drawing="() => box" />
    </p>
  </div>
</template>

<style scoped>
.curve {
  min-width: 0;
}
svg {
  display: block;
  overflow: visible;
  font-size: 12px;
  fill: var(--ink);
}
.dot-of-damages {
  fill: var(--brick);
}
.layer {
  stroke: var(--soft-ink);
  stroke-width: 0.8;
}
.grid {
  stroke: var(--hairline);
}
.axis,
.total {
  stroke: var(--ink);
  fill: none;
  stroke-width: 1.5;
}
.total {
  stroke-width: 2.5;
}
.due {
  stroke: var(--brick);
  stroke-dasharray: 2 3;
  stroke-width: 1.5;
}
.brick-text {
  fill: var(--brick);
}
.soft {
  fill: var(--soft-ink);
}
.dot {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
.dot.chosen {
  fill: var(--signal);
}
.reach {
  fill: transparent;
  cursor: pointer;
}
.chosen-line {
  stroke: var(--ink);
}
.amount {
  font-weight: 600;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.strong {
  font-weight: 700;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  margin: 4px 0 0;
  padding-left: 64px;
  font-size: 12px;
}
.legend span {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
</style>
