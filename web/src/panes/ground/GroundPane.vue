<script setup lang="ts">
import HatchPattern from '../../controls/HatchPattern.vue'
import { computed } from 'vue'
import {
  BAR,
  BAR_TOP,
  nonWorkingBands,
  ROW_HEIGHT,
  shapeOf,
  type Pin,
  type RowModel,
  type Shape,
} from '@geodrome/core'
import { useForesight } from '../../composables/useForesight.ts'
import { useListCommands } from '../rows/useListCommands.ts'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { CellContext } from '../rows/columns.ts'
import GroundBrackets from './GroundBrackets.vue'
import GroundLinks from './GroundLinks.vue'
import GroundPromises from './GroundPromises.vue'
import GroundReplay from './GroundReplay.vue'
import GroundShape from './GroundShape.vue'
import TimeBackdrop from './TimeBackdrop.vue'
import { useGroundDrags } from './useGroundDrags.ts'

const props = defineProps<{
  model: RowModel
  window: readonly { index: number; start: number }[]
  context: CellContext
  scale: TimeScale
  pins: readonly Pin[]
  height: number
  nameOnBars: boolean
}>()
const ui = useUiStore()
const plans = usePlanStore()
const forecast = useForecastStore()
const { attempt } = useListCommands()

const first = computed(() => props.window[0]?.index ?? 0)
const last = computed(() => props.window.at(-1)?.index ?? -1)
const offset = computed(() => first.value * ROW_HEIGHT)
const groundHeight = computed(() => Math.max(props.height, (last.value - first.value + 1) * ROW_HEIGHT))
/** From the top of the list, so that a bar keeps its place while the window moves over it. */
const y = (row: number): number => row * ROW_HEIGHT
const x = (at: number): number => Math.round(props.scale.x(at) * 10) / 10

const isSelected = (id: string): boolean => ui.selection.includes(id)

const shapes = computed((): Shape[] =>
  props.window.flatMap(({ index: r }) => shapeOf(props.model.rows[r], r, props.context, x, y)),
)

const brackets = computed(() => props.context.plan.baselines.filter(({ id }) => ui.baselines.includes(id)))

/** Time without work on the selected activity's calendar (else the project's). */
const bands = computed(() => {
  const { plan, calendars } = props.context
  const focused = plan.activities.find((a) => a.id === ui.focus)
  return nonWorkingBands(
    focused ? calendars.of(focused) : calendars.project,
    props.scale.at(0),
    props.scale.at(props.scale.width.value),
    props.scale.x,
    props.scale.perDay.value,
  )
})
/** The ground walked so far: up to the status date. */
const walked = computed(() => {
  const status = props.pins.find((pin) => pin.id === 'status')
  return status ? Math.min(props.scale.width.value, x(status.at)) : 0
})
const name = (s: Shape): string => {
  const row = props.model.rows[s.row]
  return row?.kind === 'activity' ? props.context.plan.activities[row.index]!.name : ''
}
const pick = (id: string, event: MouseEvent): void =>
  ui.select(id, { add: event.ctrlKey || event.metaKey || event.shiftKey })

const drags = useGroundDrags(props, shapes, offset)
const { pull, rope, activityAt } = drags
/** What would follow from what is being drawn, if it were let go here. */
const foreseen = useForesight(() => (pull.value ?? rope.value)?.change ?? null)
const SAID_WIDTH = 270
/** What is being drawn, in words, below where it is; above, where the window ends. */
const said = computed(() => {
  const drawn = pull.value
    ? { words: pull.value.words, at: x(pull.value.start), y: pull.value.y }
    : rope.value && { words: rope.value.words, at: rope.value.x2, y: rope.value.y2 - ROW_HEIGHT / 2 }
  if (!drawn) return null
  const isLow = drawn.y > offset.value + groundHeight.value - 4 * ROW_HEIGHT
  return {
    words: drawn.words,
    x: Math.max(4, Math.min(drawn.at, props.scale.width.value - SAID_WIDTH)),
    y: drawn.y + (isLow ? -3 : 1) * ROW_HEIGHT,
    isLow,
  }
})
/** One click on the mark of a limit takes it away. */
const dropLimit = (s: Shape, edge: 'start' | 'finish'): void => {
  const found = activityAt(s)
  if (found)
    attempt(() =>
      plans.edit({
        kind: 'set',
        list: 'activities',
        key: s.id,
        set: { constraints: found.activity.constraints.filter((c) => c.edge !== edge) },
      }),
    )
}
</script>

<template>
  <svg
    class="ground"
    :style="{ top: `${offset}px` }"
    :width="scale.width.value"
    :height="groundHeight"
    role="img"
    aria-label="Time drawing of the activities; the list beside it says the same"
  >
    <defs>
      <HatchPattern id="hatch" :gap="5" :thick="2.6" ground="var(--raised)" />
    </defs>
    <rect v-if="walked > 0" class="walked" x="0" y="0" :width="walked" height="100%" />
    <TimeBackdrop :scale="scale" :bands="bands" :pins="pins" :height="groundHeight" />
    <g :transform="`translate(0,${-offset})`">
      <GroundLinks :model="model" :window="window" :context="context" :scale="scale" :x="x" />
      <GroundReplay
        v-if="forecast.replay"
        :replay="forecast.replay.at"
        :model="model"
        :window="window"
        :x="x"
      />
      <GroundBrackets
        v-for="baseline in brackets"
        :key="baseline.id"
        :baseline="baseline"
        :model="model"
        :window="window"
        :x="x"
      />
      <GroundShape
        v-for="s in shapes"
        :key="s.id"
        v-memo="[
          s.x1,
          s.x2,
          s.y,
          s.ink,
          s.pocket,
          s.freePocket,
          s.onPath,
          s.limit?.start,
          s.limit?.finish,
          s.progress,
          s.label,
          s.kind,
          s.atStart,
          isSelected(s.id),
          ui.focus === s.id,
          nameOnBars,
        ]"
        :s="s"
        :is-selected="isSelected(s.id)"
        :is-focused="ui.focus === s.id"
        :name="nameOnBars ? name(s) : null"
        @pick="pick(s.id, $event)"
        @press="drags.press(s, $event)"
        @press-group="drags.pressGroup(s, $event)"
        @press-end="(atStart, event) => drags.pressEnd(s, atStart, event)"
        @drop-limit="dropLimit(s, $event)"
      />
      <GroundPromises :model="model" :window="window" :context="context" :x="x" />
      <g v-if="pull" class="pull">
        <rect
          :x="x(pull.start)"
          :y="pull.y + BAR_TOP"
          :width="Math.max(4, x(pull.finish) - x(pull.start))"
          :height="BAR"
          :rx="BAR / 2"
        />
      </g>
      <g v-if="rope" class="pull">
        <path :d="`M${rope.x1},${rope.y1}L${rope.x2},${rope.y2}`" />
      </g>
      <foreignObject
        v-if="said"
        class="said"
        :x="said.x"
        :y="said.y"
        :width="SAID_WIDTH"
        :height="3 * ROW_HEIGHT"
        data-test="said"
      >
        <div :class="{ low: said.isLow }">
          <p>
            {{ said.words }}<span v-if="foreseen" class="foreseen" data-test="foreseen">{{ foreseen }}</span>
          </p>
        </div>
      </foreignObject>
    </g>
  </svg>
</template>

<style scoped>
.ground {
  position: absolute;
  left: 0;
  display: block;
  overflow: visible;
}
.walked {
  fill: var(--stone);
  fill-opacity: 0.22;
}
.pull rect {
  fill: color-mix(in srgb, var(--signal) 60%, transparent);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.pull path {
  stroke: var(--signal-text);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.said {
  pointer-events: none;
}
.said div {
  display: flex;
  flex-direction: column;
  height: 100%;
  align-items: flex-start;
}
.said .low {
  justify-content: flex-end;
}
.said p {
  margin: 0;
  background: var(--ink);
  color: var(--paper);
  border-radius: 5px;
  padding: 2px 8px;
  font-size: 12px;
  line-height: 1.4;
}
.foreseen {
  display: block;
}
.pull {
  pointer-events: none;
}
</style>
