<script setup lang="ts">
import { BAR, BAR_TOP, barWidth, limitPath, ROW_HEIGHT, shapeParts, type Shape } from '@geodrome/core'

/** One activity or group on the Ground: its bar or sign, what marks it as chosen, its limits, and where it is taken hold of. */
defineProps<{
  s: Shape
  isSelected: boolean
  /** Whether links can be drawn from its ends. */
  isFocused: boolean
  /** Beside it; null: not said. */
  name: string | null
}>()
const EDGES = ['start', 'finish'] as const
const emit = defineEmits<{
  pick: [event: MouseEvent]
  press: [event: PointerEvent]
  pressGroup: [event: PointerEvent]
  pressEnd: [atStart: boolean, event: PointerEvent]
  dropLimit: [edge: 'start' | 'finish']
}>()
</script>

<template>
  <g class="shape" :class="[s.ink, s.kind]" @click="s.kind !== 'group' && emit('pick', $event)">
    <title>{{ s.label }}</title>
    <rect
      v-if="s.kind === 'group'"
      class="hit work"
      :x="s.x1 - 3"
      :y="s.y + 6"
      :width="Math.max(12, s.x2 - s.x1 + 6)"
      height="17"
      @pointerdown="emit('pressGroup', $event)"
    />
    <template v-else>
      <rect
        class="hit"
        :class="{ work: s.kind === 'work' }"
        :x="s.x1 - 6"
        :y="s.y + 2"
        :width="Math.max(24, s.x2 - s.x1 + 12)"
        :height="ROW_HEIGHT - 4"
        @pointerdown="emit('press', $event)"
      />
      <rect
        v-if="s.kind === 'work' && s.ink !== 'stone'"
        class="hit end"
        :x="s.x2 - 6"
        :y="s.y + 2"
        width="12"
        :height="ROW_HEIGHT - 4"
        @pointerdown="emit('press', $event)"
      />
      <rect
        v-if="isSelected && s.kind === 'work'"
        class="halo"
        :x="s.x1 - 3.5"
        :y="s.y + BAR_TOP - 3.5"
        :width="barWidth(s) + 7"
        :height="BAR + 7"
        :rx="BAR / 2 + 3"
      />
    </template>
    <path v-for="part in shapeParts(s)" :key="part.pen" :class="part.pen" :d="part.d" />
    <template v-if="s.kind !== 'group'">
      <circle
        v-if="isSelected && s.kind !== 'work' && s.kind !== 'hammock'"
        class="halo"
        :cx="s.x1"
        :cy="s.y + ROW_HEIGHT / 2"
        r="14"
      />
      <template v-for="edge in EDGES" :key="edge">
        <g
          v-if="s.limit?.[edge]"
          class="limit"
          role="button"
          @click.stop="emit('dropLimit', edge)"
          @pointerdown.stop
        >
          <title>A date holds its {{ edge }}; click to take the constraint away</title>
          <rect
            :x="edge === 'start' ? s.x1 - 13 : s.x2 + 1"
            :y="s.y + 2"
            width="12"
            :height="ROW_HEIGHT - 4"
          />
          <path :d="limitPath(s, edge)" />
        </g>
      </template>
      <template v-if="isFocused && s.kind !== 'hammock'">
        <circle
          class="tie"
          :cx="s.x2 + 13"
          :cy="s.y + ROW_HEIGHT / 2"
          r="5"
          @pointerdown.stop="emit('pressEnd', false, $event)"
        >
          <title>Drag onto another bar: it then waits for this finish</title>
        </circle>
        <circle
          class="tie"
          :cx="s.x1 - 13"
          :cy="s.y + ROW_HEIGHT / 2"
          r="5"
          @pointerdown.stop="emit('pressEnd', true, $event)"
        >
          <title>Drag onto another bar: it then waits for this start</title>
        </circle>
      </template>
      <text v-if="name !== null" class="name" :x="Math.max(s.x2, s.pocket ?? 0) + 8" :y="s.y + 19">
        {{ name }}
      </text>
    </template>
  </g>
</template>

<style scoped>
.hit {
  fill: transparent;
  cursor: pointer;
}
.body {
  stroke: var(--ink);
  stroke-width: 1.5;
  cursor: pointer;
  pointer-events: none;
}
.solid .body,
.short .body {
  fill: var(--ink);
}
.hatch .body {
  fill: url(#hatch);
}
.outline .body {
  fill: var(--raised);
}
.stone .body {
  fill: var(--stone);
  stroke: var(--line);
}
.keel {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
  stroke-linecap: round;
  pointer-events: none;
}
.notch {
  fill: var(--signal);
  stroke: var(--paper);
  stroke-width: 0.8;
  pointer-events: none;
}
.halo {
  fill: none;
  stroke: var(--signal);
  stroke-width: 2.5;
}
.groove {
  fill: var(--raised);
  pointer-events: none;
}
.outline .groove,
.hatch .groove {
  fill: var(--ink);
}
.pocket {
  pointer-events: none;
  fill: none;
  stroke: var(--line);
  stroke-width: 1;
  stroke-dasharray: 2 2;
}
.span {
  pointer-events: none;
  stroke: var(--ink);
  stroke-width: 1.2;
  fill: none;
}
.rope {
  fill: none;
  stroke: var(--soft-ink);
  stroke-width: 1.6;
  pointer-events: none;
}
.pole {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.flag {
  fill: var(--ink);
  pointer-events: none;
}
.outline .flag {
  fill: var(--raised);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.hatch .flag {
  fill: url(#hatch);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.short .flag {
  fill: var(--signal);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.mark {
  fill: var(--raised);
  stroke: var(--plum);
  stroke-width: 2;
  pointer-events: none;
}
.limit {
  cursor: pointer;
}
.limit rect {
  fill: transparent;
}
.limit path {
  fill: none;
  stroke: var(--plum);
  stroke-width: 1.8;
}
.hit.work {
  cursor: grab;
}
.hit.end {
  cursor: ew-resize;
}
.tie {
  fill: var(--raised);
  stroke: var(--signal-text);
  stroke-width: 2;
  cursor: crosshair;
}
.name {
  font-size: 12px;
  fill: var(--soft-ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
  pointer-events: none;
}
</style>
