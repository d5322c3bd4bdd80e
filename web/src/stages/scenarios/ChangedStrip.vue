<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { AlternativeBeside, Plan } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import TimeBackdrop from '../../panes/ground/TimeBackdrop.vue'
import TimeRuler from '../../panes/ground/TimeRuler.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { useTimeDrawing } from '../../panes/ground/useTimeDrawing.ts'

/** What an alternative changed and what only moved with it, over time: here full and outlined, in the plan dashed. */
const props = defineProps<{
  /** As the alternative has it: work that only it has is named there. */
  plan: Plan
  beside: AlternativeBeside
  calendars: CalendarLookup
}>()
const emit = defineEmits<{ show: [activity: string] }>()
const ROW = 24
const NAMES = 250
const FEW = 8
const isAll = ref(false)
const box = useTemplateRef<HTMLElement>('box')
const names = computed(() => new Map(props.plan.activities.map((one) => [one.id, one])))
const rows = computed(() =>
  (isAll.value ? props.beside.moves : props.beside.moves.slice(0, FEW)).map((move) => ({
    ...move,
    code: names.value.get(move.activity)?.code ?? '',
    name: names.value.get(move.activity)?.name ?? 'taken out',
  })),
)
const range = (): readonly [number, number] => {
  const spans = props.beside.moves.flatMap(({ here, plan }) => [here, plan].flatMap((span) => span ?? []))
  return spans.length === 0 ? [0, 1440] : [Math.min(...spans), Math.max(...spans) + 1440]
}
const { scale, context, pins: all, bands } = useTimeDrawing(box, 0, range, () => props.calendars)
const pins = computed(() => all.value.filter(({ id }) => id === 'required'))
const changed = computed(() => props.beside.moves.filter(({ isChanged }) => isChanged).length)
const height = computed(() => rows.value.length * ROW + 6)
const y = (row: number): number => row * ROW + 3
const bar = (span: readonly [number, number], top: number, tall: number): string => {
  const [from, to] = span.map(scale.x) as [number, number]
  const r = tall / 2
  const wide = Math.max(tall, to - from) - tall
  return `M${from + r},${top}h${wide}a${r},${r} 0 0 1 0,${tall}h${-wide}a${r},${r} 0 0 1 0,${-tall}z`
}
const strip = useTemplateRef<HTMLElement>('strip')
</script>

<template>
  <section ref="strip" class="strip" data-test="changed-strip">
    <h3>
      {{ changed }} {{ changed === 1 ? 'activity' : 'activities' }} changed,
      {{ beside.moves.length - changed }} only moved
      <span class="key soft">dashed: the plan; full: changed; open: moved</span>
      <ActButton v-if="beside.moves.length > FEW" kind="noun" @click="isAll = !isAll">{{
        isAll ? 'the first few' : `all ${beside.moves.length}`
      }}</ActButton>
    </h3>
    <div class="drawn" :style="{ gridTemplateColumns: `${NAMES}px minmax(0, 1fr)` }">
      <ul :style="{ marginTop: '84px' }">
        <li v-for="row in rows" :key="row.activity" :style="{ height: `${ROW}px` }">
          <ActButton kind="bare" :class="{ own: row.isChanged }" @click="emit('show', row.activity)"
            ><span class="code">{{ row.code }}</span> {{ row.name }}</ActButton
          >
        </li>
      </ul>
      <div ref="box" class="time">
        <TimeRuler :scale="scale" :pins="pins" :context="context" />
        <svg
          :width="scale.width.value"
          :height="height"
          role="img"
          aria-label="What changed and what moved, over time"
        >
          <TimeBackdrop :scale="scale" :bands="bands" :pins="pins" :height="height" />
          <g v-for="(row, k) in rows" :key="row.activity">
            <path v-if="row.plan" class="plan" :d="bar(row.plan, y(k) + 1, 9)" />
            <path
              v-if="row.here"
              :class="row.isChanged ? 'changed' : 'moved'"
              :d="bar(row.here, y(k) + 7, 9)"
            />
          </g>
        </svg>
      </div>
    </div>
    <SaveAs name="What changed and what moved" :drawing="() => strip" />
  </section>
</template>

<style scoped>
.drawn {
  display: grid;
}
.key {
  font-weight: 400;
  margin: 0 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  line-height: 24px;
}
.own {
  font-weight: 650;
}
.code {
  font-size: 12px;
}
.time {
  min-width: 0;
  border-left: 1px solid var(--hairline);
}
svg {
  display: block;
}
.plan {
  fill: none;
  stroke: var(--line);
  stroke-dasharray: 3 2;
}
.changed {
  fill: var(--fjord);
  stroke: var(--fjord);
}
.moved {
  fill: var(--paper);
  stroke: var(--fjord);
  stroke-width: 1.5;
}
</style>
