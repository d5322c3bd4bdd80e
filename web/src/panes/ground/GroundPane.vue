<script setup lang="ts">
import HatchPattern from '../../controls/HatchPattern.vue'
import { watchDebounced } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import {
  formatInstant,
  freshId,
  instantWords,
  type Change,
  type Link,
  type LinkType,
  fromEdge,
  toEdge,
  newLink,
  ROW_HEIGHT,
  type RowModel,
  shapeOf,
  type Shape,
  BAR,
  BAR_TOP,
  barWidth,
  limitPath,
  shapeParts,
  linkPath,
  type LinkEnd,
  nonWorkingBands,
  type Pin,
} from '@geodrome/core'
import { linkIndex, reachOf, type Reach } from '../../composables/linkIndex.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useListCommands } from '../rows/useListCommands.ts'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import { useListStore } from '../rows/listStore.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { CellContext } from '../rows/columns.ts'
import { pullFinish, pullStart, snapStart, type Pull } from './dragBar.ts'
import GroundBrackets from './GroundBrackets.vue'
import GroundPromises from './GroundPromises.vue'
import GroundReplay from './GroundReplay.vue'

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
const list = useListStore()
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

/** Activities upstream and downstream of the selected one, to be lit while the rest fades. */
/** Found once the selection rests: walking through the list does not wait for it. */
const lit = shallowRef<Reach | null>(null)
watchDebounced(
  () => [ui.focus, props.context.plan.links] as const,
  ([focus, links]) => (lit.value = focus === null ? null : reachOf(links, focus)),
  { debounce: 60, immediate: true },
)
const isLit = (link: Link): boolean =>
  lit.value !== null &&
  ((lit.value.up.has(link.to) && lit.value.up.has(link.from)) ||
    (lit.value.down.has(link.from) && lit.value.down.has(link.to)))

/** Links with an end in the window, with the rows of both. */
const located = computed(() => {
  const { into, out } = linkIndex(props.context.plan.links)
  const found = new Map<string, { link: Link; a: number; b: number }>()
  for (const { index } of props.window) {
    const row = props.model.rows[index]
    if (row?.kind !== 'activity') continue
    for (const list of [into.get(row.id), out.get(row.id)])
      for (const link of list ?? []) {
        const [a, b] = [props.model.position.get(link.from), props.model.position.get(link.to)]
        if (a !== undefined && b !== undefined) found.set(link.id, { link, a, b })
      }
  }
  return [...found.values()]
})
const MAX_DRAWN = 600
/** The links as a few strokes, one for each manner of drawing: an element for each link took longer to paint than all bars. */
const strokes = computed(() => {
  const { view } = props.context
  const endX = (row: number, atStart: boolean): number => {
    const shape = props.model.rows[row] as { index: number }
    return x(atStart ? view.start[shape.index]! : view.finish[shape.index]!)
  }
  const isOnPath = (row: number): boolean =>
    view.onLongestPath[(props.model.rows[row] as { index: number }).index] === 1
  const within = props.scale.width.value
  const made = (['pale', 'drives', 'path'] as const).flatMap((kind) =>
    [false, true].map((isLit) => ({ kind, isLit, d: '', dots: '' })),
  )
  for (const { link, a, b } of located.value.slice(0, MAX_DRAWN)) {
    const from: LinkEnd = {
      x: endX(a, fromEdge(link.type) === 'start'),
      y: y(a) + ROW_HEIGHT / 2,
      atStart: fromEdge(link.type) === 'start',
    }
    const to: LinkEnd = {
      x: endX(b, toEdge(link.type) === 'start'),
      y: y(b) + ROW_HEIGHT / 2,
      atStart: toEdge(link.type) === 'start',
    }
    if (Math.max(from.x, to.x) < -40 || Math.min(from.x, to.x) > within + 40) continue
    const drives = props.context.drives(link)
    const stroke = made[(drives ? (isOnPath(a) && isOnPath(b) ? 4 : 2) : 0) + (isLit(link) ? 1 : 0)]!
    stroke.d += linkPath(from, to, ROW_HEIGHT)
    if (drives) stroke.dots += `M${to.x},${to.y}h0`
  }
  return made.sort((p, q) => Number(p.isLit) - Number(q.isLit))
})

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
const shade = computed(() =>
  bands.value.map((band) => `M${band.x},0h${band.width}V${groundHeight.value}h${-band.width}z`).join(''),
)

const name = (s: Shape): string => {
  const row = props.model.rows[s.row]
  return row?.kind === 'activity' ? props.context.plan.activities[row.index]!.name : ''
}
const pick = (id: string, event: MouseEvent): void =>
  ui.select(id, { add: event.ctrlKey || event.metaKey || event.shiftKey })

/** A bar being moved, or its end pulled; shown where it would stand, with what that would do. */
const pull = shallowRef<(Pull & { readonly y: number }) | null>(null)
const activityAt = (s: Shape) => {
  const row = props.model.rows[s.row]
  return row?.kind === 'activity'
    ? { activity: props.context.plan.activities[row.index]!, index: row.index }
    : null
}
/** Follows the mouse until it is let go (dropped), or Escape gives up. */
const followPointer = (move: (e: PointerEvent) => void, end: (isDropped: boolean) => void): void => {
  const stop = (e: PointerEvent | KeyboardEvent): void => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', stop)
    window.removeEventListener('keydown', escape)
    end(e.type === 'pointerup')
  }
  const escape = (e: KeyboardEvent): void => {
    if (e.key === 'Escape') stop(e)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', stop)
  window.addEventListener('keydown', escape)
}
const press = (s: Shape, event: PointerEvent): void => {
  const found = activityAt(s)
  if (event.button !== 0 || !found || s.kind === 'hammock' || s.ink === 'stone') return
  const { activity, index } = found
  const { view, calendars } = props.context
  const calendar = calendars.of(activity)
  const svg = (event.currentTarget as Element).closest('svg')!
  const { left } = svg.getBoundingClientRect()
  const from = event.clientX
  const isEnd = s.kind === 'work' && from - left > s.x2 - 6 && view.state[index] === 0
  const scheduled = { start: view.start[index]!, finish: view.finish[index]! }
  let isPulling = false
  const move = (e: PointerEvent): void => {
    if (!isPulling && Math.abs(e.clientX - from) < 4) return
    isPulling = true
    const perDay = props.scale.perDay.value
    try {
      const next = isEnd
        ? pullFinish(
            activity,
            calendar,
            calendars.lengthsOf(activity),
            props.scale.at(e.clientX - left),
            perDay,
            scheduled.start,
          )
        : pullStart(activity, calendar, props.scale.at(s.x1 + e.clientX - from), perDay, scheduled)
      pull.value = { ...next, y: s.y }
    } catch {
      pull.value = null // dragged beyond the end of its calendar
    }
  }
  followPointer(move, (isDropped) => {
    const done = pull.value
    pull.value = null
    if (isPulling)
      window.addEventListener('click', (click) => click.stopPropagation(), { capture: true, once: true })
    if (isDropped && done?.change) {
      ui.select(s.id)
      attempt(() => plans.edit(done.change!))
    }
  })
}

/** A group moved by its span: where it was let go it is asked to start; how it gets there is chosen then. */
const pressGroup = (s: Shape, event: PointerEvent): void => {
  const row = props.model.rows[s.row]
  if (event.button !== 0 || row?.kind !== 'group' || !row.isOutline) return
  const { project } = props.context.calendars
  const from = event.clientX
  const spanAt = (e: PointerEvent) => {
    const start = snapStart(project, props.scale.at(s.x1 + e.clientX - from), props.scale.perDay.value)
    return { start, finish: start + props.scale.at(s.x2) - props.scale.at(s.x1) }
  }
  const move = (e: PointerEvent): void => {
    if (!pull.value && Math.abs(e.clientX - from) < 4) return
    try {
      const span = spanAt(e)
      pull.value = {
        ...span,
        words: `${row.name}: start ${instantWords(span.start, 'start')}`,
        change: null,
        y: s.y,
      }
    } catch {
      pull.value = null
    }
  }
  followPointer(move, (isDropped) => {
    const done = pull.value
    pull.value = null
    if (isDropped && done) list.groupMove = { group: s.id, date: formatInstant(done.start) }
  })
}

/** A link being drawn from an end of the selected bar; the half of the bar where it lands says which end it ties. */
const rope = shallowRef<{
  readonly x1: number
  readonly y1: number
  readonly x2: number
  readonly y2: number
  readonly words: string
  readonly change: Change | null
} | null>(null)
const pressEnd = (s: Shape, atStart: boolean, event: PointerEvent): void => {
  if (event.button !== 0) return
  const svg = (event.currentTarget as Element).closest('svg')!
  const box = svg.getBoundingClientRect()
  const id = freshId(props.context.plan.links, 'l', Math.random)
  const landing = (e: PointerEvent): { to: Shape; type: LinkType } | null => {
    const [px, py] = [e.clientX - box.left, e.clientY - box.top + offset.value]
    const to = shapes.value.find(
      (t) =>
        t.kind !== 'group' &&
        t.id !== s.id &&
        py >= t.y &&
        py < t.y + ROW_HEIGHT &&
        px > t.x1 - 14 &&
        px < t.x2 + 14,
    )
    if (!to) return null
    const ontoStart = px < (to.x1 + to.x2) / 2
    return { to, type: atStart ? (ontoStart ? 'SS' : 'SF') : ontoStart ? 'FS' : 'FF' }
  }
  const codeOf = (shape: Shape): string => activityAt(shape)?.activity.code ?? ''
  const move = (e: PointerEvent): void => {
    const to = landing(e)
    const ends = {
      x1: atStart ? s.x1 : s.x2,
      y1: s.y + ROW_HEIGHT / 2,
      x2: e.clientX - box.left,
      y2: e.clientY - box.top + offset.value,
    }
    rope.value = to
      ? {
          ...ends,
          words: `${codeOf(to.to)} ${to.type} ${codeOf(s)}`,
          change: {
            kind: 'add',
            list: 'links',
            before: null,
            item: newLink({
              id,
              from: s.id,
              to: to.to.id,
              type: to.type,
              lag: 0,
            }),
          },
        }
      : { ...ends, words: 'onto another bar', change: null }
  }
  followPointer(move, (isDropped) => {
    const done = rope.value
    rope.value = null
    if (isDropped && done?.change) attempt(() => plans.edit(done.change!))
  })
}
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
    <path class="band" :d="shade" />
    <line
      v-for="pin in pins"
      :key="pin.id"
      :class="['pin', pin.tone]"
      :x1="x(pin.at)"
      :x2="x(pin.at)"
      y1="0"
      y2="100%"
    />
    <g :transform="`translate(0,${-offset})`">
      <g
        v-for="stroke in strokes"
        :key="`${stroke.kind}${stroke.isLit}`"
        :class="['link', stroke.kind, stroke.isLit ? 'lit' : { faded: lit !== null }]"
      >
        <path :d="stroke.d" />
        <path class="dots" :d="stroke.dots" />
      </g>
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
      <g
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
        class="shape"
        :class="[s.ink, s.kind]"
        @click="s.kind !== 'group' && pick(s.id, $event)"
      >
        <title>{{ s.label }}</title>
        <rect
          v-if="s.kind === 'group'"
          class="hit work"
          :x="s.x1 - 3"
          :y="s.y + 6"
          :width="Math.max(12, s.x2 - s.x1 + 6)"
          height="17"
          @pointerdown="pressGroup(s, $event)"
        />
        <template v-else>
          <rect
            class="hit"
            :class="{ work: s.kind === 'work' }"
            :x="s.x1 - 6"
            :y="s.y + 2"
            :width="Math.max(24, s.x2 - s.x1 + 12)"
            :height="ROW_HEIGHT - 4"
            @pointerdown="press(s, $event)"
          />
          <rect
            v-if="s.kind === 'work' && s.ink !== 'stone'"
            class="hit end"
            :x="s.x2 - 6"
            :y="s.y + 2"
            width="12"
            :height="ROW_HEIGHT - 4"
            @pointerdown="press(s, $event)"
          />
          <rect
            v-if="isSelected(s.id) && s.kind === 'work'"
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
            v-if="isSelected(s.id) && s.kind !== 'work' && s.kind !== 'hammock'"
            class="halo"
            :cx="s.x1"
            :cy="s.y + ROW_HEIGHT / 2"
            r="14"
          />
          <g
            v-if="s.limit?.start"
            class="limit"
            role="button"
            @click.stop="dropLimit(s, 'start')"
            @pointerdown.stop
          >
            <title>A date holds its start; click to take the constraint away</title>
            <rect :x="s.x1 - 13" :y="s.y + 2" width="12" :height="ROW_HEIGHT - 4" />
            <path :d="limitPath(s, 'start')" />
          </g>
          <g
            v-if="s.limit?.finish"
            class="limit"
            role="button"
            @click.stop="dropLimit(s, 'finish')"
            @pointerdown.stop
          >
            <title>A date holds its finish; click to take the constraint away</title>
            <rect :x="s.x2 + 1" :y="s.y + 2" width="12" :height="ROW_HEIGHT - 4" />
            <path :d="limitPath(s, 'finish')" />
          </g>
          <template v-if="ui.focus === s.id && s.kind !== 'hammock'">
            <circle
              class="tie"
              :cx="s.x2 + 13"
              :cy="s.y + ROW_HEIGHT / 2"
              r="5"
              @pointerdown.stop="pressEnd(s, false, $event)"
            >
              <title>Drag onto another bar: it then waits for this finish</title>
            </circle>
            <circle
              class="tie"
              :cx="s.x1 - 13"
              :cy="s.y + ROW_HEIGHT / 2"
              r="5"
              @pointerdown.stop="pressEnd(s, true, $event)"
            >
              <title>Drag onto another bar: it then waits for this start</title>
            </circle>
          </template>
          <text v-if="nameOnBars" class="name" :x="Math.max(s.x2, s.pocket ?? 0) + 8" :y="s.y + 19">
            {{ name(s) }}
          </text>
        </template>
      </g>
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
.band {
  fill: var(--shade);
  fill-opacity: 0.75;
}
.pin {
  stroke-width: 1.5;
}
.pin.ink {
  stroke: var(--ink);
}
.pin.brick {
  stroke: var(--brick);
  stroke-dasharray: 2 3;
}
.pin.fjord {
  stroke: var(--fjord);
  stroke-dasharray: 6 3;
}
.pin.soft {
  stroke: var(--soft-ink);
}
.link path {
  fill: none;
  stroke: var(--line);
  stroke-width: 1;
}
.link.drives path {
  stroke: var(--ink);
  stroke-width: 1.1;
}
.link.path path {
  stroke: var(--ink);
  stroke-width: 1.6;
}
.link.lit.pale path {
  stroke: var(--fjord);
}
.link.drives .dots,
.link.path .dots {
  stroke-width: 5.2;
  stroke-linecap: round;
}
.link.faded {
  opacity: 0.35;
}
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
.name {
  font-size: 12px;
  fill: var(--soft-ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
  pointer-events: none;
}
</style>
