<script setup lang="ts">
import { utcDay, utcMonday, utcMonth, utcYear, type TimeInterval } from 'd3-time'
import { computed } from 'vue'
import { MONTH, placePins, type Pin } from '@geodrome/core'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import type { CellContext } from '../rows/columns.ts'

const props = defineProps<{ scale: TimeScale; pins: readonly Pin[]; context: CellContext }>()
const EPOCH = Date.UTC(1950, 0, 1)
const BASE = 84
const LINE = 62

const dateOf = (at: number): Date => new Date(EPOCH + at * 60_000)
const instantOfDate = (date: Date): number => (date.getTime() - EPOCH) / 60_000

/** Ticks as dense as there is room for labels. */
const ticks = computed(() => {
  const perDay = props.scale.perDay.value
  const choices: readonly (readonly [TimeInterval | null, number])[] = [
    [utcDay, 1],
    [utcMonday, 7],
    [utcMonday.every(2) ?? utcMonday, 14],
    [utcMonth, 30],
    [utcMonth.every(3), 91],
    [utcYear, 365],
  ]
  const [interval] = choices.find(([, days]) => days * perDay > 46) ?? choices.at(-1)!
  const range = interval!.range(
    dateOf(props.scale.at(-60)),
    dateOf(props.scale.at(props.scale.width.value + 10)),
  )
  let year = 0
  return range.map((date) => {
    const isYear = date.getUTCFullYear() !== year && (date.getUTCMonth() === 0 || perDay < 1)
    year = date.getUTCFullYear()
    const label =
      perDay * 30 < 46 && date.getUTCMonth() === 0
        ? String(year)
        : perDay * 14 <= 46
          ? `${MONTH[date.getUTCMonth()]}${isYear ? ` ${year}` : ''}`
          : `${date.getUTCDate()} ${MONTH[date.getUTCMonth()]}`
    return { x: props.scale.x(instantOfDate(date)), label }
  })
})

/** Chainage: working days of the project calendar since the project's start. */
const chainage = computed(() => {
  const { calendars, view } = props.context
  const calendar = calendars.project
  const { dayMinutes } = calendars.projectLengths
  const perDay = props.scale.perDay.value
  const step = [1, 5, 10, 20, 50, 100, 200, 500, 1000].find((days) => days * perDay * 1.4 > 64) ?? 2000
  const found: { x: number; label: string }[] = []
  try {
    const origin = calendar.countBefore(view.projectStart)
    const from = Math.ceil((calendar.countBefore(props.scale.at(0)) - origin) / dayMinutes / step)
    for (let k = Math.max(0, from); found.length < 60; k++) {
      const x = props.scale.x(calendar.minuteAt(origin + k * step * dayMinutes))
      if (x > props.scale.width.value) break
      found.push({ x, label: `+${k * step}` })
    }
  } catch {
    return found
  }
  return found
})
const placed = computed(() => placePins(props.pins, props.scale.x, props.scale.width.value))
/** Chainage gives way to a pin's label in the lowest lane. */
const isFree = (x: number): boolean =>
  !placed.value.some(
    (p) =>
      p.lane === 2 &&
      (p.anchor === 'end'
        ? x > p.x - p.text.length * 6.6 - 20 && x < p.x + 6
        : x > p.x - 26 && x < p.x + p.text.length * 6.6 + 6),
  )
const weekTicks = computed(() =>
  props.scale.perDay.value > 5
    ? utcDay
        .range(dateOf(props.scale.at(0)), dateOf(props.scale.at(props.scale.width.value)))
        .map((d) => props.scale.x(instantOfDate(d)))
    : [],
)
</script>

<template>
  <svg class="ruler" :width="scale.width.value" :height="BASE" aria-hidden="true">
    <line class="base" x1="0" :x2="scale.width.value" :y1="LINE" :y2="LINE" />
    <line
      v-for="(x, k) in weekTicks"
      :key="`w${k}`"
      class="minor"
      :x1="x"
      :x2="x"
      :y1="LINE - 3"
      :y2="LINE"
    />
    <g v-for="(tick, k) in ticks" :key="`t${k}`">
      <line class="base" :x1="tick.x" :x2="tick.x" :y1="LINE" :y2="LINE + 6" />
      <text :x="tick.x + 3" :y="LINE + 17">{{ tick.label }}</text>
    </g>
    <template v-for="(mark, k) in chainage" :key="`c${k}`">
      <line class="base" :x1="mark.x" :x2="mark.x" :y1="LINE - 7" :y2="LINE" />
      <text v-if="isFree(mark.x)" class="chainage" :x="mark.x + 3" :y="LINE - 6">{{ mark.label }}</text>
    </template>
    <g v-for="pin in placed" :key="pin.id" :class="['pin', pin.tone]">
      <line
        v-if="scale.x(pin.at) >= 0 && scale.x(pin.at) <= scale.width.value"
        :x1="pin.x"
        :x2="pin.x"
        :y1="pin.lane * 15 + 4"
        :y2="BASE"
      />
      <text
        :x="pin.anchor === 'end' ? pin.x - 4 : pin.x + 4"
        :y="pin.lane * 15 + 14"
        :text-anchor="pin.anchor"
      >
        {{ pin.text }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.ruler {
  display: block;
}
text {
  font-size: 11.5px;
  fill: var(--soft-ink);
}
.base {
  stroke: var(--ink);
  stroke-width: 1;
}
.minor {
  stroke: var(--line);
  stroke-width: 1;
}
.chainage {
  font-family: 'Sometype Mono Variable', monospace;
  font-size: 10.5px;
}
.pin text {
  font-weight: 650;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.pin line {
  stroke-width: 1.5;
}
.pin.ink text {
  fill: var(--ink);
}
.pin.ink line {
  stroke: var(--ink);
}
.pin.brick text {
  fill: var(--brick);
}
.pin.brick line {
  stroke: var(--brick);
  stroke-dasharray: 2 3;
}
.pin.fjord text {
  fill: var(--fjord);
}
.pin.fjord line {
  stroke: var(--fjord);
  stroke-dasharray: 6 3;
}
.pin.soft text {
  fill: var(--soft-ink);
}
.pin.soft line {
  stroke: var(--soft-ink);
}
</style>
