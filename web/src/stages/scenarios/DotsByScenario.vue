<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import { FINISH_ROW, MARK_PATHS, placeFinishes, shortDay } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import SaveAs from '../../controls/SaveAs.vue'
import type { Shown } from './shown.ts'

/** The finishes of all, fifty marks each, on one axis of dates: two in a hundred iterations a mark, hollow beyond the 80 %. */
const props = defineProps<{ shown: readonly Shown[]; chosen: string | null; required: number | null }>()
const emit = defineEmits<{ choose: [scenario: string] }>()

const NAMES = 186
const RIGHT = 34
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const placed = computed(() =>
  placeFinishes(
    props.shown.map(({ result, itself }) => ({
      dots: result?.dots ?? [],
      percentiles: result?.percentiles ?? null,
      planned: itself?.finish ?? null,
    })),
    props.required,
    NAMES,
    inner.value,
  ),
)
const inner = computed(() => Math.max(120, width.value - NAMES - RIGHT))
const x = (instant: number): number => placed.value.x(instant)
const ticks = computed(() => placed.value.ticks)
const height = computed(() => placed.value.height)
const rows = computed(() => props.shown.map((one, k) => ({ ...one, ...placed.value.rows[k]! })))
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
          :height="FINISH_ROW - 2"
        />
        <line class="base" :x1="NAMES" :x2="NAMES + inner" :y1="row.base" :y2="row.base" />
        <path
          v-for="(dot, k) in row.dots"
          :key="k"
          :d="MARK_PATHS[row.mark]"
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
    <SaveAs class="save" name="Finishes of the scenarios" :drawing="() => box" />
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
