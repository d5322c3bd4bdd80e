<script setup lang="ts">
import HatchPattern from '../../controls/HatchPattern.vue'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { instantOf, instantWords, type Dates, type Resource, inkOf } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import OffBands from '../../panes/ground/OffBands.vue'
import TimeRuler from '../../panes/ground/TimeRuler.vue'
import { useUiStore } from '../../stores/uiStore.ts'
import type { LoadView, LoadsView } from '../../workers/questions.ts'

/**
 * One strip a resource on the Ground's ruler: what is asked for as ink under the stepped line of what there is, what is asked beyond it
 * above the line. Under the chosen one stand the activities that ask for it.
 */
const props = defineProps<{
  view: LoadsView
  calendars: CalendarLookup
  chosen: string | null
  /** Activities are drawn where they are planned: on other dates the load stands alone. */
  dates: Dates
  /** Number of the day that is looked at closely. */
  day: number | null
}>()
const emit = defineEmits<{ choose: [id: string]; day: [resource: string, day: number] }>()
const ui = useUiStore()

const NAMES = 128
const STRIP = 56
const ROW = 26
const box = useTemplateRef<HTMLElement>('box')
const { scale, fit, context, pins, bands, statusAt } = useTimeDrawing(
  box,
  NAMES,
  () => [props.view.firstDay * 1440, props.view.endDay * 1440],
  () => props.calendars,
)
// Chosen in the list beside it, it comes into view.
watch(
  () => props.chosen,
  async () => {
    await nextTick()
    box.value?.querySelector('.strip.chosen')?.scrollIntoView({ block: 'nearest' })
  },
)
defineExpose({ zoom: (factor: number) => scale.zoom(factor), fit })

interface Strip {
  readonly load: LoadView
  readonly done: string
  readonly asked: string
  /** Of the part that is marked; null where none is. */
  readonly part: string | null
  readonly beyond: string
  readonly line: string
  readonly steps: readonly { readonly x: number; readonly y: number; readonly text: string }[]
  readonly short: string
}
import { useTimeDrawing } from '../../panes/ground/useTimeDrawing.ts'

/** Blocks that follow each other at the same height are drawn as one. */
const blocks = (
  heights: (k: number) => readonly [from: number, to: number] | null,
  days: number,
  firstDay: number,
): string => {
  let path = ''
  for (let k = 0; k < days;) {
    const one = heights(k)
    let end = k + 1
    if (one === null) {
      k = end
      continue
    }
    for (; end < days; end++) {
      const next = heights(end)
      if (next === null || next[0] !== one[0] || next[1] !== one[1]) break
    }
    const [x1, x2] = [scale.x((firstDay + k) * 1440), scale.x((firstDay + end) * 1440)]
    if (x2 > 0 && x1 < scale.width.value)
      path += `M${x1.toFixed(1)} ${one[0].toFixed(1)}H${x2.toFixed(1)}V${one[1].toFixed(1)}H${x1.toFixed(1)}Z`
    k = end
  }
  return path
}
const availableOn = ({ available }: Resource, day: number): number => {
  let amount = available.length === 0 ? Infinity : 0
  for (const step of available)
    if (step.from === null || instantOf(step.from, 'start') < (day + 1) * 1440) amount = step.amount
  return amount
}
const stripOf = (load: LoadView): Strip => {
  const { firstDay } = props.view
  const { resource, byDay, partByDay, overloads } = load
  const available = Array.from(byDay, (_, k) => availableOn(resource, firstDay + k))
  const limit = Math.max(0, ...available.filter(Number.isFinite))
  const top = Math.max(load.peak, limit, 0.001)
  const y = (amount: number): number => STRIP - 8 - (amount / top) * (STRIP - 24)
  const floor = STRIP - 8
  const isOver = new Uint8Array(byDay.length)
  for (const { from, to } of overloads)
    for (let day = Math.floor(from / 1440); day <= Math.floor((to - 1) / 1440); day++)
      if (byDay[day - firstDay]! > available[day - firstDay]!) isOver[day - firstDay] = 1
  const doneUntil = statusAt.value === null ? -1 : Math.floor(statusAt.value / 1440) - firstDay
  const height = (k: number): readonly [number, number] | null =>
    byDay[k] === 0 ? null : [floor, y(isOver[k] === 1 ? available[k]! : byDay[k]!)]
  let line = ''
  const steps: { x: number; y: number; text: string }[] = []
  if (resource.available.length > 0) {
    let before: number | null = null
    available.forEach((amount, k) => {
      if (amount === before) return
      const x = Math.max(0, scale.x((firstDay + k) * 1440))
      line += before === null ? `M0 ${y(amount)}` : `H${x}V${y(amount)}`
      if (x < scale.width.value - 10) steps.push({ x: x + 3, y: y(amount) - 4, text: String(amount) })
      before = amount
    })
    line += `H${scale.width.value}`
  }
  const days = overloads.reduce((sum, one) => sum + one.days, 0)
  return {
    load,
    done: blocks((k) => (k < doneUntil ? height(k) : null), byDay.length, firstDay),
    asked: blocks((k) => (k >= doneUntil ? height(k) : null), byDay.length, firstDay),
    part:
      partByDay &&
      blocks((k) => (partByDay[k] === 0 ? null : [floor, y(partByDay[k]!)]), byDay.length, firstDay),
    beyond: blocks(
      (k) => (isOver[k] === 1 ? [y(available[k]!), y(byDay[k]!)] : null),
      byDay.length,
      firstDay,
    ),
    line,
    steps,
    short: days === 0 ? '' : `${load.peak} asked for at most, short on ${days} d`,
  }
}
const strips = computed(() => props.view.loads.map(stripOf))
/** What asks for nothing anywhere marks nothing: the load stays as it is. */
const hasPart = computed(() =>
  props.view.loads.some(({ partByDay }) => partByDay?.some((amount) => amount > 0)),
)

/** Who asks for the chosen one: those of overloads first in their order, then the rest, as many as can be looked at. */
const MOST_ROWS = 14
const rows = computed(() => {
  const strip = strips.value.find(({ load }) => load.resource.id === props.chosen)
  if (!strip || props.dates !== 'placed') return []
  const { plan, view } = context.value
  const short = new Set(strip.load.overloads.flatMap(({ activities }) => activities))
  return strip.load.uses
    .map(({ activity, amount }) => ({ i: activity, amount, isShort: short.has(activity) }))
    .sort((a, b) => Number(b.isShort) - Number(a.isShort) || view.start[a.i]! - view.start[b.i]!)
    .slice(0, MOST_ROWS)
    .map(({ i, amount, isShort }) => {
      const activity = plan.activities[i]!
      const [x1, x2] = [scale.x(view.start[i]!), scale.x(view.finish[i]!)]
      return {
        id: activity.id,
        code: activity.code,
        name: activity.name,
        amount,
        isShort,
        x1,
        x2: Math.max(x1 + 3, x2),
        late: view.totalFloat[i]! > 0 ? scale.x(view.lateFinish[i]!) : null,
        ink: inkOf(view.totalFloat[i]!, view.state[i]!, plan.project),
        words: `${activity.code} ${activity.name}: ${instantWords(view.start[i]!, 'start')} to ${instantWords(view.finish[i]!, 'finish')}, asks for ${amount}`,
      }
    })
})
const hidden = computed(() => {
  const strip = strips.value.find(({ load }) => load.resource.id === props.chosen)
  return strip && props.dates === 'placed' ? Math.max(0, strip.load.uses.length - MOST_ROWS) : 0
})
</script>

<template>
  <div ref="box" class="strips" data-test="load-strips">
    <svg width="0" height="0" class="defs" aria-hidden="true">
      <HatchPattern id="load-beyond" :gap="6" :thick="2" ground="var(--signal)" />
      <HatchPattern id="load-near" :gap="5" :thick="2.6" ground="var(--paper)" />
    </svg>
    <div class="ruler" :style="{ paddingLeft: `${NAMES}px` }">
      <TimeRuler :scale="scale" :pins="pins" :context="context" />
    </div>
    <div
      v-for="strip in strips"
      :key="strip.load.resource.id"
      class="strip"
      :class="{ chosen: strip.load.resource.id === chosen }"
    >
      <ActButton
        kind="bare"
        class="name"
        :aria-pressed="strip.load.resource.id === chosen"
        @click="emit('choose', strip.load.resource.id)"
      >
        <strong>{{ strip.load.resource.name || strip.load.resource.code }}</strong>
        <small v-if="strip.short" class="signal">{{ strip.short }}</small>
        <small v-else class="soft">peak {{ strip.load.peak }}</small>
      </ActButton>
      <svg
        :width="scale.width.value"
        :height="STRIP"
        role="img"
        class="load"
        @click="emit('day', strip.load.resource.id, Math.floor(scale.at($event.offsetX) / 1440))"
        :aria-label="`Load of ${strip.load.resource.name || strip.load.resource.code}: at most ${strip.load.peak} asked for${strip.short ? `; ${strip.short}` : ''}`"
      >
        <OffBands :bands="bands" :height="STRIP" />
        <rect
          v-if="statusAt !== null"
          class="walked"
          x="0"
          y="0"
          :width="Math.max(0, scale.x(statusAt))"
          :height="STRIP"
        />
        <path class="done" :d="strip.done" />
        <path class="asked" :class="{ others: strip.part !== null && hasPart }" :d="strip.asked" />
        <path v-if="strip.part !== null && hasPart" class="asked" :d="strip.part" data-test="part-of-load" />
        <path class="beyond" :d="strip.beyond" />
        <line class="floor" x1="0" :x2="scale.width.value" :y1="STRIP - 8" :y2="STRIP - 8" />
        <path class="available" :d="strip.line" />
        <rect
          v-if="day !== null && strip.load.resource.id === chosen"
          class="day"
          :x="scale.x(day * 1440)"
          y="1"
          :width="Math.max(3, scale.perDay.value)"
          :height="STRIP - 2"
        />
        <text v-for="(step, k) in strip.steps" :key="k" :x="step.x" :y="step.y">{{ step.text }}</text>
      </svg>
      <template v-if="strip.load.resource.id === chosen">
        <template v-for="row in rows" :key="row.id">
          <ActButton
            kind="bare"
            class="row-name"
            :title="row.words"
            :aria-pressed="ui.selection.includes(row.id)"
            :data-test="`asks-${row.code}`"
            @click="ui.select(row.id)"
          >
            <span class="code">{{ row.code }}</span> {{ row.name }}
          </ActButton>
          <svg :width="scale.width.value" :height="ROW" role="img" :aria-label="row.words">
            <OffBands :bands="bands" :height="ROW" />
            <rect
              v-if="row.late !== null && row.late > row.x2"
              class="pocket"
              :x="row.x2"
              :width="row.late - row.x2"
              y="9"
              height="8"
            />
            <rect
              :class="['capsule', row.ink]"
              :x="row.x1"
              :width="row.x2 - row.x1"
              y="6"
              height="14"
              rx="7"
            />
            <text :class="{ strong: row.isShort }" :x="Math.max(row.x2, row.late ?? 0) + 8" y="17">
              asks for {{ row.amount }}
            </text>
          </svg>
        </template>
        <p v-if="hidden > 0" class="soft hidden">
          {{ hidden }} more not drawn; they stand in the list beside it.
        </p>
      </template>
    </div>
  </div>
</template>

<style scoped>
.strips {
  position: relative;
}
.defs {
  position: absolute;
}
.ruler {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--paper);
}
.strip {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr);
  border-top: 1px solid var(--hairline);
}
.strip.chosen {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
.name,
.row-name {
  justify-content: flex-start;
  text-align: left;
}
.name :deep(.n-button__content) {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}
.name {
  padding: 8px 8px 0 12px;
  line-height: 1.25;
  overflow: hidden;
}
.row-name {
  padding: 4px 8px 0 12px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  font-size: 12.5px;
}
svg {
  display: block;
}
.walked {
  fill: var(--shade);
  opacity: 0.55;
}
.asked {
  fill: var(--ink);
}
.asked.others {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1;
}
.load {
  cursor: crosshair;
}
.day {
  fill: none;
  stroke: var(--signal);
  stroke-width: 2;
}
.row-name[aria-pressed='true'] {
  font-weight: 700;
  text-decoration: underline;
}
.done {
  fill: var(--stone);
}
.beyond {
  fill: url(#load-beyond);
  stroke: var(--ink);
  stroke-width: 1;
}
.floor {
  stroke: var(--line);
}
.available {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  paint-order: stroke;
}
text {
  font-size: 11.5px;
  font-weight: 600;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.chosen text {
  stroke: var(--wash);
}
.capsule {
  stroke: var(--ink);
  stroke-width: 1.5;
  fill: var(--paper);
}
.capsule.solid,
.capsule.short {
  fill: var(--ink);
}
.capsule.hatch {
  fill: url(#load-near);
}
.capsule.stone {
  fill: var(--stone);
  stroke: var(--stone);
}
.pocket {
  fill: none;
  stroke: var(--line);
  stroke-dasharray: 2 2;
}
.row-name + svg text {
  font-weight: 400;
}
.row-name + svg text.strong {
  font-weight: 650;
}
.hidden {
  grid-column: 1 / -1;
  padding: 4px 12px 8px;
}
</style>
