<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { instantOf, shortDay, type BufferState, type Plan } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import TimeBackdrop from '../../panes/ground/TimeBackdrop.vue'
import TimeRuler from '../../panes/ground/TimeRuler.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { useTimeDrawing } from '../../panes/ground/useTimeDrawing.ts'
import type { ChainRow, DrawnBuffer, DrawnChain, Span } from './chainRows.ts'

/**
 * The chain as one course down the rows, with what feeds it: each piece of work as it stands now (agreed ones in brackets), waits dotted,
 * a hand-over as a double step with the resource's code, a buffer as a bead a day, hollow once it is used.
 */
const props = defineProps<{
  plan: Plan
  drawn: DrawnChain
  /** As it stands now; null before anything was agreed. */
  now: Readonly<Record<string, Span>> | null
  states: ReadonlyMap<string, BufferState>
  gaps: readonly { readonly before: string; readonly length: number }[]
  calendars: CalendarLookup
  chosen: string | null
}>()
const emit = defineEmits<{ choose: [buffer: string]; show: [activity: string] }>()

const ROW = 24
const TOP = 6
const LABEL_ROOM = 190
const box = useTemplateRef<HTMLElement>('box')
const required = computed(() => {
  const date = props.plan.project.requiredFinish
  return date === null ? [] : [instantOf(date, 'finish')]
})
const spanOf = (id: string): Span | undefined => props.now?.[id] ?? props.drawn.dates.get(id)
const range = (): readonly [number, number] => {
  const spans = [...props.drawn.rows.flatMap(({ activities }) => activities)].flatMap(
    (id) => spanOf(id) ?? [],
  )
  const first = Math.min(...spans.map(({ start }) => start), props.drawn.promised)
  const last = Math.max(...spans.map(({ finish }) => finish), props.drawn.promised, ...required.value)
  return [first, last + 1440 * 2]
}
const {
  scale,
  context,
  pins: planPins,
  bands,
  statusAt,
} = useTimeDrawing(box, 0, range, () => props.calendars)
const pins = computed(() => [
  ...planPins.value.filter(({ id }) => id === 'status' || id === 'required'),
  {
    id: 'promised',
    at: props.drawn.promised,
    label: `promised ${shortDay(props.drawn.promised, 'finish')}`,
    tone: 'ink' as const,
  },
])
const byId = computed(() => new Map(props.plan.activities.map((activity) => [activity.id, activity])))
const bufferOf = (id: string): DrawnBuffer | undefined => props.drawn.buffers.find((one) => one.id === id)
const height = computed(() => props.drawn.rows.length * ROW + TOP * 2)
const yOf = (row: number): number => TOP + row * ROW + ROW / 2

interface Bead {
  readonly x: number
  readonly r: number
  readonly isUsed: boolean
}
/** One bead a day over the whole length, the last one for what is left of a day. */
const beadsOf = (buffer: DrawnBuffer, state: BufferState | undefined): Bead[] => {
  const [from, to] = [scale.x(buffer.start), scale.x(buffer.finish)]
  const count = Math.min(60, Math.max(1, Math.ceil(buffer.days - 1e-9)))
  const step = Math.max(5, (to - from) / count)
  const used = Math.min(1, state?.consumption ?? 0) * buffer.days
  return Array.from({ length: count }, (_, k) => ({
    x: from + step * (k + 0.5),
    r: Math.min(4.5, step / 2 - 0.5) * (k === count - 1 && buffer.days % 1 > 1e-9 && count > 1 ? 0.75 : 1),
    isUsed: k + 0.5 <= used || (k === 0 && used > 0),
  }))
}
const isDone = (id: string): boolean => byId.value.get(id)?.progress.actualFinish !== null
/** How much of a capsule lies behind the status date. */
const walked = ({ start, finish }: Span): number =>
  statusAt.value === null
    ? 0
    : Math.min(1, Math.max(0, (statusAt.value - start) / Math.max(1, finish - start)))
const sizeWords = ({ days }: DrawnBuffer): string => `${(Math.round(days * 10) / 10).toLocaleString('en')} d`
const stateWords = (buffer: DrawnBuffer): string => {
  const state = props.states.get(buffer.id)
  if (!state) return sizeWords(buffer)
  if (state.consumption === 0) return `${sizeWords(buffer)}, untouched`
  return Number.isFinite(state.consumption)
    ? `${Math.round(100 * state.consumption)} % of ${sizeWords(buffer)} used`
    : `${sizeWords(buffer)}, used`
}
const codeOf = (id: string | undefined): string => byId.value.get(id ?? '')?.code ?? ''
const labelOf = (row: ChainRow): string => {
  const buffer = row.buffer === null ? undefined : bufferOf(row.buffer)
  if (row.isFeeding && buffer) {
    const [first, last] = [row.activities[0], row.activities.at(-1)]
    const course = first === last ? codeOf(first) : `${codeOf(first)} to ${codeOf(last)}`
    return `${course}, buffer ${stateWords(buffer)}`
  }
  if (buffer)
    return `${buffer.kind === 'project' ? 'Project buffer' : `Buffer before ${codeOf(buffer.before[0])}`}, ${stateWords(buffer)}`
  const activity = byId.value.get(row.activities[0]!)
  return activity ? `${activity.code} ${activity.name}` : ''
}
/** Where a feeding course joins the chain. */
const joinedAt = (buffer: DrawnBuffer | undefined): number => {
  const span = buffer?.kind === 'feeding' ? spanOf(buffer.before[0] ?? '') : undefined
  return span ? scale.x(span.start) : -Infinity
}
/** Dates of the chain's next work below a row. */
const nextOf = (row: number): Span | undefined => {
  const next = props.drawn.rows.find((one, k) => k > row && !one.isFeeding && one.activities.length > 0)
  return next && spanOf(next.activities[0]!)
}
const rows = computed(() =>
  props.drawn.rows.map((row, k) => {
    const capsules = row.activities.flatMap((id) => {
      const span = spanOf(id)
      const agreed = props.now ? props.drawn.dates.get(id) : undefined
      const hasMoved = agreed && span && (agreed.start !== span.start || agreed.finish !== span.finish)
      return span
        ? [{ id, span, agreed: hasMoved ? agreed : null, done: isDone(id), walked: walked(span) }]
        : []
    })
    const buffer = row.buffer === null ? undefined : bufferOf(row.buffer)
    const beads = buffer ? beadsOf(buffer, props.states.get(buffer.id)) : []
    const [left, right] = [
      Math.min(...capsules.map(({ span }) => scale.x(span.start)), ...beads.map((b) => b.x - b.r)),
      Math.max(...capsules.map(({ span }) => scale.x(span.finish)), ...beads.map((b) => b.x + b.r)),
    ]
    // Of the chain the label stands behind, where its next step goes down; of the rest before, so that nothing runs through it.
    const next = nextOf(k)
    const clear = next === undefined ? right : Math.max(right, scale.x(next.start))
    const wantsBehind = !row.isFeeding && !buffer
    const isBehind = wantsBehind ? clear + LABEL_ROOM < scale.width.value : left < LABEL_ROOM
    return {
      row,
      y: yOf(k),
      capsules,
      buffer,
      beads,
      label: labelOf(row),
      labelX: isBehind ? (wantsBehind ? clear : Math.max(right, joinedAt(buffer))) + 8 : left - 8,
      anchor: isBehind ? 'start' : 'end',
      gap: props.gaps.find(({ before }) => !row.isFeeding && before === row.activities[0]) ?? null,
    }
  }),
)
/** Steps of the chain from row to row: what drives, or who hands over; a wait between them is dotted. */
const steps = computed(() => {
  const handed = new Map(props.drawn.handovers.map(({ from, to, resource }) => [`${from}\n${to}`, resource]))
  const chainRows = rows.value.filter(({ row }) => !row.isFeeding && row.activities.length > 0)
  return chainRows.slice(1).flatMap((to, k) => {
    const from = chainRows[k]!
    const [a, b] = [from.capsules[0]?.span, to.capsules[0]?.span]
    if (!a || !b) return []
    const resource = handed.get(`${from.row.activities[0]}\n${to.row.activities[0]}`)
    const code = props.plan.resources.find(({ id }) => id === resource)?.code ?? ''
    return [{ key: to.row.key, x1: scale.x(a.finish), x2: scale.x(b.start), y1: from.y, y2: to.y, code }]
  })
})
const feeds = computed(() =>
  rows.value.flatMap(({ row, beads, y, buffer }) => {
    if (!row.isFeeding || !buffer) return []
    const at = rows.value.find(
      (other) => !other.row.isFeeding && other.row.activities[0] === buffer.before[0],
    )
    const span = at?.capsules[0]?.span
    const end = beads.at(-1)
    return at && span && end
      ? [{ key: row.key, x1: end.x + end.r, x2: scale.x(span.start), y1: y, y2: at.y }]
      : []
  }),
)
/** Room for the words of a gap, which end before what waits. */
const GAP_WORDS = 58
</script>

<template>
  <div ref="box" class="chain-ground" data-test="chain-ground">
    <TimeRuler :scale="scale" :pins="pins" :context="context" />
    <svg :width="scale.width.value" :height="height" role="group" aria-label="The chain over time">
      <TimeBackdrop :scale="scale" :bands="bands" :pins="pins" :height="height" />
      <path
        v-for="one in feeds"
        :key="one.key"
        class="feed"
        :d="`M${one.x1},${one.y1} H${Math.max(one.x1 + 3, one.x2 - 3)} V${one.y2 - 6}`"
      />
      <g v-for="one in steps" :key="one.key">
        <line v-if="one.x2 - one.x1 > 4" class="wait" :x1="one.x1" :x2="one.x2" :y1="one.y1" :y2="one.y1" />
        <template v-if="one.code">
          <path
            class="step thin"
            :d="`M${one.x2 - 3},${one.y1} V${one.y2 - 4} M${one.x2 + 3},${one.y1} V${one.y2 - 4}`"
          />
          <rect
            class="tag"
            :x="one.x2 + 7"
            :y="(one.y1 + one.y2) / 2 - 8"
            :width="one.code.length * 7.5 + 8"
            height="16"
            rx="3"
          />
          <text class="code" :x="one.x2 + 11" :y="(one.y1 + one.y2) / 2 + 4">{{ one.code }}</text>
        </template>
        <path v-else class="step" :d="`M${one.x2},${one.y1} V${one.y2}`" />
      </g>
      <g
        v-for="one in rows"
        :key="one.row.key"
        :class="{ feeding: one.row.isFeeding, chosen: one.buffer && one.buffer.id === chosen }"
      >
        <line
          v-if="one.row.isFeeding && one.capsules.length > 1"
          class="course"
          :x1="scale.x(one.capsules[0]!.span.start)"
          :x2="scale.x(one.capsules.at(-1)!.span.finish)"
          :y1="one.y"
          :y2="one.y"
        />
        <template v-for="capsule in one.capsules" :key="capsule.id">
          <path
            v-if="capsule.agreed"
            class="agreed"
            :d="`M${scale.x(capsule.agreed.start) + 4},${one.y - 9} h-4 v5 M${scale.x(capsule.agreed.finish) - 4},${one.y - 9} h4 v5`"
          />
          <rect
            class="capsule"
            :class="{ done: capsule.done }"
            :x="scale.x(capsule.span.start)"
            :y="one.y - 5"
            :width="Math.max(7, scale.x(capsule.span.finish) - scale.x(capsule.span.start))"
            height="10"
            rx="5"
          >
            <title>{{ codeOf(capsule.id) }} {{ byId.get(capsule.id)?.name }}</title>
          </rect>
          <line
            v-if="!capsule.done && capsule.walked > 0"
            class="groove"
            :x1="scale.x(capsule.span.start) + 4"
            :x2="
              scale.x(capsule.span.start) +
              4 +
              capsule.walked * Math.max(0, scale.x(capsule.span.finish) - scale.x(capsule.span.start) - 8)
            "
            :y1="one.y"
            :y2="one.y"
          />
        </template>
        <circle
          v-for="bead in one.beads"
          :key="bead.x"
          class="bead"
          :class="{ used: bead.isUsed }"
          :cx="bead.x"
          :cy="one.y"
          :r="Math.max(1.5, bead.r)"
        />
        <rect
          v-if="one.buffer"
          class="hit"
          role="button"
          tabindex="0"
          :aria-label="one.label"
          :aria-pressed="one.buffer.id === chosen"
          :x="(one.beads[0]?.x ?? 0) - 8"
          :y="one.y - 12"
          :width="Math.max(24, (one.beads.at(-1)?.x ?? 0) - (one.beads[0]?.x ?? 0) + 16)"
          height="24"
          @click="emit('choose', one.buffer.id)"
          @keydown.enter="emit('choose', one.buffer.id)"
          @keydown.space.prevent="emit('choose', one.buffer.id)"
        />
        <rect
          v-else
          class="hit"
          role="button"
          tabindex="0"
          :aria-label="`Show ${one.label}`"
          :x="scale.x(one.capsules[0]?.span.start ?? 0) - 4"
          :y="one.y - 12"
          :width="
            Math.max(
              24,
              scale.x(one.capsules[0]?.span.finish ?? 0) - scale.x(one.capsules[0]?.span.start ?? 0) + 8,
            )
          "
          height="24"
          @click="emit('show', one.row.activities[0]!)"
          @keydown.enter="emit('show', one.row.activities[0]!)"
        />
        <text class="label" :x="one.labelX" :y="one.y + 4" :text-anchor="one.anchor">{{ one.label }}</text>
        <text
          v-if="one.gap"
          class="gap"
          :x="Math.max(GAP_WORDS, scale.x(one.capsules[0]?.span.start ?? 0) - 6)"
          :y="one.y - 7"
          text-anchor="end"
        >
          gap {{ (Math.round(one.gap.length * 10) / 10).toLocaleString('en') }} d
        </text>
      </g>
    </svg>
    <SaveAs name="Critical chain" :drawing="() => box" />
  </div>
</template>

<style scoped>
.chain-ground {
  min-width: 0;
}
svg {
  display: block;
}
.capsule {
  fill: var(--ink);
}
.feeding .capsule {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.capsule.done,
.feeding .capsule.done {
  fill: var(--stone);
  stroke: var(--soft-ink);
  stroke-width: 1;
}
.groove {
  stroke: var(--paper);
  stroke-width: 2;
}
.feeding .groove {
  stroke: var(--soft-ink);
}
.agreed {
  fill: none;
  stroke: var(--plum);
  stroke-width: 2;
}
.step {
  fill: none;
  stroke: var(--ink);
  stroke-width: 4;
}
.step.thin {
  stroke-width: 1.5;
}
.wait {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 1.5 4;
  stroke-linecap: round;
}
.feed,
.course {
  fill: none;
  stroke: var(--soft-ink);
}
.tag {
  fill: var(--raised);
  stroke: var(--ink);
}
.code {
  font-size: 11px;
  fill: var(--ink);
}
.bead {
  fill: var(--ink);
  stroke: var(--ink);
}
.bead.used {
  fill: var(--paper);
}
.label {
  font-size: 12.5px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
}
.chosen .label {
  font-weight: 700;
}
.gap {
  font-size: 12px;
  font-weight: 600;
  fill: var(--signal-text);
}
.hit {
  fill: transparent;
  cursor: pointer;
}
.hit:focus-visible {
  outline: 2px solid var(--signal);
}
</style>
