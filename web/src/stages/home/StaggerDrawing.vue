<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import { instantOf, shortDay, type Staggered } from '@geodrome/core'
import SaveAs from '../../controls/SaveAs.vue'

/** Plans over time: each a line from its beginning to its last work, beads to its promise, full where it has the resource. */
const props = defineProps<{
  rows: readonly {
    readonly id: string
    readonly code: string
    readonly one: Staggered
    readonly planned: string
  }[]
  drum: string
}>()
const NAMES = 150
const ROW = 40
const HEAD = 30
const DAY = 1440
/** Room for the words of a tick. */
const LABEL = 46
const box = useTemplateRef<HTMLElement>('box')
const { width: room } = useElementSize(box)
const width = computed(() => Math.max(420, room.value))
const height = computed(() => HEAD + props.rows.length * ROW + 6)
const span = computed(() => {
  const all = props.rows.flatMap(({ one, planned }) => [
    instantOf(planned, 'start'),
    instantOf(one.start, 'start'),
    instantOf(one.promised, 'finish'),
  ])
  return [Math.min(...all), Math.max(...all)] as const
})
const x = (at: number): number =>
  NAMES + ((at - span.value[0]) / Math.max(DAY, span.value[1] - span.value[0])) * (width.value - NAMES - 24)
/** Mondays, as many as can be read. */
const ticks = computed(() => {
  const [from, to] = span.value
  const weeks = Math.max(1, Math.ceil((to - from) / DAY / 7 / ((width.value - NAMES) / 84)))
  const first = Math.ceil(from / DAY)
  const monday = first + ((((8 - (first % 7)) % 7) + 7) % 7)
  const found: number[] = []
  for (let day = monday; day * DAY <= to; day += 7 * weeks) found.push(day * DAY)
  return found.filter((tick) => x(tick) + LABEL <= width.value)
})
const BEAD = 9
const lines = computed(() =>
  props.rows.map(({ id, code, one, planned }, k) => {
    const y = HEAD + k * ROW + ROW / 2
    const [start, finish, promised] = [
      x(instantOf(one.start, 'start')),
      x(instantOf(one.finish, 'finish')),
      x(instantOf(one.promised, 'finish')),
    ]
    const beads = Math.max(0, Math.floor((promised - finish) / BEAD))
    return {
      id,
      code,
      y,
      start,
      finish,
      planned: one.days > 0 ? x(instantOf(planned, 'start')) : null,
      drum: one.drum.map(({ activity, from, to }) => ({ activity, x1: x(from), x2: x(to) })),
      beads: Array.from({ length: beads }, (_, b) => finish + (b + 0.5) * BEAD),
      words: `${code}: from ${shortDay(instantOf(one.start, 'start'))}, promised ${shortDay(instantOf(one.promised, 'finish'), 'finish')}; ${one.drum.length} times at ${props.drum}`,
      promise: shortDay(instantOf(one.promised, 'finish'), 'finish'),
      isStuck: one.state === 'cannot',
    }
  }),
)
const label = computed(() => lines.value.map(({ words }) => words).join('. '))
</script>

<template>
  <div class="stagger-drawing">
    <div ref="box">
      <svg :width="width" :height="height" role="img" :aria-label="label" data-test="stagger-drawing">
        <g v-for="tick in ticks" :key="tick">
          <line class="tick" :x1="x(tick)" :x2="x(tick)" :y1="HEAD - 8" :y2="height" />
          <text class="axis" :x="x(tick) + 3" :y="HEAD - 12">{{ shortDay(tick) }}</text>
        </g>
        <g v-for="line in lines" :key="line.id">
          <text class="name" x="0" :y="line.y + 4">{{ line.code }}</text>
          <path
            v-if="line.planned !== null"
            class="wait"
            :d="`M${line.planned} ${line.y - 5}v10M${line.planned} ${line.y}H${line.start}`"
          />
          <path
            class="span"
            :class="{ stuck: line.isStuck }"
            :d="`M${line.start} ${line.y}H${line.finish}`"
          />
          <rect
            v-for="work in line.drum"
            :key="work.activity"
            class="drum"
            :x="work.x1"
            :width="Math.max(4, work.x2 - work.x1)"
            :y="line.y - 7"
            height="14"
            rx="4"
          />
          <circle v-for="bead in line.beads" :key="bead" class="bead" :cx="bead" :cy="line.y" r="3.2" />
        </g>
      </svg>
    </div>
    <p class="legend soft">
      <span
        ><svg width="22" height="14" aria-hidden="true">
          <rect class="drum" width="22" height="14" rx="4" />
        </svg>
        at {{ drum }}</span
      >
      <span
        ><svg width="22" height="10" aria-hidden="true"><path class="span" d="M0 5H22" /></svg> the plan, on
        focused durations</span
      >
      <span
        ><svg width="22" height="10" aria-hidden="true">
          <circle class="bead" cx="5" cy="5" r="3.2" />
          <circle class="bead" cx="14" cy="5" r="3.2" />
        </svg>
        its buffer, to the promise</span
      >
      <span
        ><svg width="22" height="10" aria-hidden="true"><path class="wait" d="M1 0v10M1 5H22" /></svg> later
        than planned</span
      >
      <SaveAs name="Staggered plans" :drawing="() => box" />
    </p>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
.legend svg {
  display: inline-block;
  vertical-align: -2px;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  padding-top: 6px;
}
.tick {
  stroke: var(--hairline);
}
.axis {
  font-size: 11.5px;
  fill: var(--soft-ink);
}
.name {
  font-family: 'Sometype Mono Variable', monospace;
  font-size: 12.5px;
  fill: var(--ink);
}
.span {
  stroke: var(--ink);
  stroke-width: 2;
  fill: none;
}
.span.stuck {
  stroke: var(--brick);
}
.drum {
  fill: var(--ink);
}
.bead {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.wait {
  stroke: var(--signal-text);
  stroke-width: 1.5;
  stroke-dasharray: 3 3;
  fill: none;
}
</style>
