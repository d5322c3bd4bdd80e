<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import '@vue-flow/core/dist/style.css'
import { useVueFlow, VueFlow, type Edge, type EdgeMouseEvent, type Node } from '@vue-flow/core'
import { computed, markRaw, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import {
  arrowMap,
  counted,
  durationWords,
  EVENT_RADIUS,
  shortDay,
  shortDurationWords,
  wayPath,
  type ArrowLayout,
} from '@geodrome/core'
import { nearestTo, reachOf } from '../../composables/linkIndex.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { LayoutClient } from '../../workers/layoutClient.ts'
import type { CellContext } from '../rows/columns.ts'
import ArrowEdge from './ArrowEdge.vue'
import { arrowRequest, arrowUnits, withIds } from './arrowNetwork.ts'
import { arrowTimes } from './arrowTimes.ts'
import { arrowWords } from './arrowWords.ts'
import DiagramFrame from './DiagramFrame.vue'
import { diagramSvg } from './diagramSvg.ts'
import EventCircle from './EventCircle.vue'
import type { MapNodeData } from './mapGraph.ts'
import { FAR, READABLE } from './wordsFromAfar.ts'
import { useEventLabels } from './useEventLabels.ts'
import { useNearWindow } from './useNearWindow.ts'

const props = defineProps<{ context: CellContext; keeps: ((index: number) => boolean) | null }>()
const ui = useUiStore()
const { setCenter, setViewport, getViewport, viewport, dimensions, zoomIn, zoomOut, onPaneReady } =
  useVueFlow('arrows')

/** Beyond this a drawing by arrows is tens of metres long: folded groups or a part are drawn instead. */
const MOST = 1000
const units = computed(() => arrowUnits(props.context.plan, ui.collapsed, props.keeps))
/** From here on only what is in view is on the page, and the whole is seen on paper alone: the file has all of it. */
const isLarge = computed(() => units.value.length > 200)
const isTooMany = computed(() => units.value.length > MOST)
/** Parts of a network that is too large, each a drawing that can be read. */
const NEAREST = 100
const parts = computed(() => {
  const { plan, view, activity } = props.context
  const path = plan.activities.flatMap((a, i) => (view.onLongestPath[i] === 1 ? [a.id] : []))
  const focus = ui.focus === null ? undefined : activity(ui.focus)
  return [
    ...(path.length <= MOST
      ? [
          {
            label: `The longest path, ${counted(path.length, 'activity')}`,
            ids: path,
            reason: 'the longest path',
          },
        ]
      : []),
    ...(focus
      ? [
          {
            label: `The ${NEAREST} nearest to ${focus.code}`,
            ids: nearestTo(plan.links, focus.id, NEAREST),
            reason: `nearest to ${focus.code}`,
          },
        ]
      : []),
  ]
})
/** Only the shape of the network decides what is drawn; dates are put on it afterwards. */
const shape = computed(() =>
  isTooMany.value
    ? ''
    : `${units.value.map((u) => `${u.id}:${u.members.length}`).join(',')}/${props.context.plan.links.map((l) => `${l.id}:${l.from}>${l.to}${l.type}${l.lag === 0 ? '' : '+'}`).join(',')}`,
)
const map = shallowRef(arrowMap([], []))
/** What `map` was drawn of. */
const drawn = shallowRef<{
  readonly shape: string
  readonly context: CellContext
  readonly units: readonly MapNodeData[]
} | null>(null)
/** Until an edit of the shape is drawn, what is seen is the plan before it: positions of activities belong to one plan. */
const isDrawn = computed(() => drawn.value === null || drawn.value.shape === shape.value)
const context = computed(() => (isDrawn.value ? props.context : drawn.value!.context))
const drawnUnits = computed(() => (isDrawn.value ? units.value : drawn.value!.units))
const layout = shallowRef<ArrowLayout | null>(null)
const leftOut = ref(0)
const client = new LayoutClient()
onBeforeUnmount(() => client.stop())
watch(
  shape,
  async () => {
    const { plan } = props.context
    const asked = { shape: shape.value, context: props.context, units: isTooMany.value ? [] : units.value }
    const { request, links } = arrowRequest(plan, asked.units)
    const found = await client.arrows(request)
    if (!found) return
    labelled.leave()
    drawn.value = asked
    map.value = withIds(plan, asked.units, links, found.map)
    layout.value = found.layout
    leftOut.value = found.leftOut
  },
  { immediate: true },
)
const labelled = useEventLabels(map)
const { labels, draft } = labelled

/** Zoom at which all of it is seen, and the viewport for it. */
const whole = (): { x: number; y: number; zoom: number } => {
  const { width, height } = layout.value!
  const { width: w, height: h } = dimensions.value
  const zoom = Math.min(1, (w - 24) / width, (h - 24) / height)
  return { x: (w - width * zoom) / 2, y: (h - height * zoom) / 2, zoom }
}
const fit = (): void => void (layout.value && setViewport(whole()))
const isFar = computed(() => viewport.value.zoom < FAR)
/** What fits is shown whole; of more, the beginning is shown large enough to be read. */
const begin = (): void => {
  if (!layout.value || map.value.events.length === 0) return
  if (whole().zoom > READABLE) return fit()
  const { height: h } = dimensions.value
  const [x, y] = layout.value.events[0]!
  void setViewport({ x: 40 - (x - EVENT_RADIUS) * 0.8, y: h / 2 - y * 0.8, zoom: 0.8 })
}
const isReady = ref(false)
onPaneReady(() => (isReady.value = true))
/** Nothing can be shown before both the pane and a layout are there; each new shape is shown from its beginning, unless it is an edit of what is seen. */
let seen = 0
watch([isReady, layout, () => dimensions.value.width > 0], async ([ready, found, isSized]) => {
  if (!ready || !found || !isSized) return
  const isEdit = seen > 0 && Math.abs(drawnUnits.value.length - seen) <= 1
  seen = drawnUnits.value.length
  await nextTick()
  if (!isEdit) begin()
})
const times = computed(() => arrowTimes(map.value, drawnUnits.value, context.value))
const unitOf = computed(() => new Map(drawnUnits.value.map((unit) => [unit.id, unit])))
const lit = computed(() => (ui.focus === null ? null : reachOf(context.value.plan.links, ui.focus)))
const isFaded = (id: string): boolean => {
  if (lit.value === null) return false
  const members = unitOf.value.get(id)?.members.map((i) => context.value.plan.activities[i]?.id ?? '') ?? [id]
  return !members.some((member) => lit.value!.up.has(member) || lit.value!.down.has(member))
}
/** Whether an event belongs to what leads to or from the selected activity. */
const isLit = (e: number): boolean =>
  [...map.value.events[e]!.ends, ...map.value.events[e]!.begins].some((id) => !isFaded(id))
const nameOf = (id: string): string =>
  (unitOf.value.get(id)?.kind === 'group'
    ? context.value.plan.groups.find((g) => g.id === id)?.code
    : context.value.activity(id)?.code) ?? id

/** Brings a place into view; one that is seen stays where it is. */
const showAt = (x: number, y: number): void => {
  const { x: dx, y: dy, zoom } = getViewport()
  const isSeen =
    x * zoom + dx > 0 &&
    y * zoom + dy > 0 &&
    x * zoom + dx < dimensions.value.width &&
    y * zoom + dy < dimensions.value.height
  if (!isSeen) void setCenter(x, y, { zoom: Math.max(zoom, 0.6), duration: 200 })
}

const nearWindow = useNearWindow({ viewport, dimensions, getViewport })
/** Arrows near what is seen, with the events at both their ends; null for all. */
const near = computed((): { arrows: ReadonlySet<number>; events: ReadonlySet<number> } | null => {
  if (!isLarge.value || !layout.value) return null
  const { left, top, right, bottom } = nearWindow.value
  const arrows = new Set<number>()
  const events = new Set<number>()
  layout.value.ways.forEach((way, k) => {
    const [xs, ys] = [way.map(([x]) => x), way.map(([, y]) => y)]
    if (
      Math.max(...xs) < left ||
      Math.min(...xs) > right ||
      Math.max(...ys) < top ||
      Math.min(...ys) > bottom
    )
      return
    arrows.add(k)
    events.add(map.value.arrows[k]!.from).add(map.value.arrows[k]!.to)
  })
  return { arrows, events }
})
const nodes = computed((): Node[] =>
  layout.value
    ? [...map.value.events.keys()].filter((e) => near.value?.events.has(e) ?? true).map(nodeOf)
    : [],
)
const nodeOf = (e: number): Node => {
  const lengths = context.value.calendars.projectLengths
  const event = map.value.events[e]!
  const { earliest, latest, slack } = times.value[e]!
  const { number, name } = labels.value[e]!
  const [x, y] = layout.value!.events[e]!
  return {
    id: String(e),
    type: 'event',
    position: { x: x - EVENT_RADIUS, y: y - EVENT_RADIUS },
    draggable: false,
    connectable: false,
    focusable: false,
    width: 2 * EVENT_RADIUS,
    height: 2 * EVENT_RADIUS,
    data: {
      number,
      name,
      early: shortDay(earliest, event.ends.length > 0 ? 'finish' : 'start'),
      late: shortDay(latest, event.begins.length > 0 ? 'start' : 'finish'),
      slack: slack === 0 ? '' : shortDurationWords(slack, lengths),
      critical: slack <= context.value.plan.project.criticalFloat,
      faded: lit.value !== null && !isLit(e),
      chosen: labelled.chosen.value === e,
      pick: () => labelled.choose(e),
      show: () => showAt(x, y),
      title: `Event ${number}${name ? ` ${name}` : ''}: reached by ${shortDay(earliest, 'finish')}, at the latest ${shortDay(latest, 'finish')}; slack ${durationWords(slack, lengths)}. Ends ${event.ends.map(nameOf).join(', ') || 'nothing'}, begins ${event.begins.map(nameOf).join(', ') || 'nothing'}.`,
    },
  }
}
const words = computed(() => arrowWords(map.value, unitOf.value, context.value))
const edges = computed((): Edge[] => {
  if (!layout.value) return []
  return map.value.arrows.flatMap((arrow, k): Edge[] =>
    near.value && !near.value.arrows.has(k)
      ? []
      : [
          {
            id: `${arrow.activity ?? arrow.link ?? 'dummy'}:${k}`,
            source: String(arrow.from),
            target: String(arrow.to),
            sourceHandle: 'out',
            targetHandle: 'in',
            type: 'arrow',
            focusable: false,
            data: {
              kind: arrow.kind,
              path: wayPath(layout.value!.ways[k]!),
              at: layout.value!.shafts[k]!,
              ...words.value[k]!,
              faded:
                arrow.activity !== null
                  ? isFaded(arrow.activity)
                  : lit.value !== null && !(isLit(arrow.from) && isLit(arrow.to)),
              chosen: arrow.activity !== null && (arrow.activity === ui.focus || arrow.activity === ui.group),
            },
          },
        ],
  )
})
const pickEdge = ({ edge, event }: EdgeMouseEvent): void => {
  const arrow = map.value.arrows[Number(edge.id.split(':').at(-1))]!
  if (arrow.activity === null) return
  if (unitOf.value.get(arrow.activity)?.kind !== 'group') return ui.select(arrow.activity)
  // A second click opens what the first one chose.
  if ('detail' in event && event.detail > 1) return ui.toggleGroup(arrow.activity)
  ui.selection = []
  ui.group = arrow.activity
}
watch(
  () => [ui.focus, ui.reveal] as const,
  ([focus]) => {
    const arrow = map.value.arrows.findIndex(
      (a) =>
        a.activity === focus ||
        (a.activity !== null &&
          focus !== null &&
          unitOf.value.get(a.activity)?.members.some((i) => context.value.plan.activities[i]?.id === focus)),
    )
    const at = layout.value?.shafts[arrow]
    if (!at) return
    showAt(...at)
  },
)
const dummies = computed(() => map.value.arrows.filter((a) => a.kind === 'dummy').length)
const asSvg = (): string | null => {
  if (!layout.value) return null
  const { events, ways, shafts } = layout.value
  const boxes = map.value.events.map((_, e) => {
    const { number, name, early, late, slack, critical } = nodeOf(e).data as {
      number: number
      name: string
      early: string
      late: string
      slack: string
      critical: boolean
    }
    const [x, y] = events[e]!
    return {
      x: x - EVENT_RADIUS,
      y: y - EVENT_RADIUS,
      width: 2 * EVENT_RADIUS,
      height: 2 * EVENT_RADIUS,
      strong: critical,
      round: true,
      above: name,
      lines: [
        [String(number), ''],
        [`${early} · ${late}${slack ? ` · ${slack}` : ''}`, ''],
      ] as const,
    }
  })
  const lines = map.value.arrows.map((arrow, k) => {
    const w = words.value[k]!
    return {
      path: wayPath(ways[k]!),
      strong: w.strong,
      dash: arrow.kind === 'dummy' ? '6 4' : arrow.kind === 'wait' ? '2 4' : '',
      label: shafts[k] ? [`${w.code} ${w.name}`.trim(), w.below] : [],
      at: shafts[k] ?? ([0, 0] as const),
      gap: 21,
    }
  })
  return diagramSvg(boxes, lines, ui.tokens, `${context.value.plan.project.name}: arrow map`)
}
const nodeTypes = { event: markRaw(EventCircle) }
const edgeTypes = { arrow: markRaw(ArrowEdge) }
</script>

<template>
  <DiagramFrame
    name="Arrow map"
    data-test="arrow-map"
    :context="props.context"
    :zoom="viewport.zoom"
    :is-drawn="!isTooMany"
    :fit-title="isLarge ? 'As much as can be drawn at once; saved as SVG it is all there' : 'All of it'"
    @zoom-in="zoomIn()"
    @zoom-out="zoomOut()"
    @fit="fit"
    :drawing="asSvg"
  >
    <template #status
      ><template v-if="layout"
        >{{ counted(map.events.length, 'event') }}, {{ counted(dummies, 'dummy')
        }}<template v-if="leftOut > 0">, {{ leftOut }} part links said by others</template></template
      ><template v-else>Being drawn …</template></template
    >
    <template #default="{ foldAll, groupsOpen }">
      <svg class="defs" aria-hidden="true">
        <defs>
          <marker
            id="arrow-head"
            viewBox="0 0 10 10"
            refX="8"
            refY="5"
            markerWidth="9"
            markerHeight="9"
            markerUnits="userSpaceOnUse"
            orient="auto-start-reverse"
          >
            <path d="M0,0L10,5L0,10z" class="head" />
          </marker>
        </defs>
      </svg>
      <VueFlow
        v-if="!isTooMany"
        id="arrows"
        :class="{ far: isFar }"
        :nodes="nodes"
        :edges="edges"
        :node-types="nodeTypes as never"
        :edge-types="edgeTypes as never"
        :min-zoom="isLarge ? 0.16 : 0.05"
        :max-zoom="1.8"
        :nodes-draggable="false"
        :nodes-connectable="false"
        :delete-key-code="null"
        @edge-click="pickEdge"
        @pane-click="labelled.leave"
      />
      <p v-else class="empty">
        {{ counted(units.length, 'activity') }} are too many to be read as arrows. Up to {{ MOST }} are drawn:
        fold groups, filter the list, find a group in it, select an activity, or take a part.
        <span class="parts"
          ><ActButton v-if="context.plan.groups.length > 0 && groupsOpen > 0" @click="foldAll">
            Fold all groups</ActButton
          ><ActButton
            v-for="part in parts"
            :key="part.label"
            @click="ui.filter = { ids: new Set(part.ids), reason: part.reason }"
          >
            {{ part.label }}
          </ActButton></span
        >
      </p>
      <form
        v-if="labelled.chosen.value !== null && !isTooMany"
        class="event-form"
        aria-label="The event"
        @submit.prevent="labelled.keep"
        @keydown.esc="labelled.leave"
      >
        <label
          >Event
          <TextField v-model="draft.number" class="number" inputmode="numeric" label="Number of the event"
        /></label>
        <label
          >is called
          <TextField
            v-model="draft.name"
            class="name"
            maxlength="80"
            placeholder="Hull dry, tanks free"
            label="Name of the event"
        /></label>
        <ActButton type="submit">Apply</ActButton>
        <ActButton kind="noun" type="button" @click="labelled.renumber">Number all anew by tens</ActButton>
        <span v-if="labelled.problem.value" class="brick" role="alert">{{ labelled.problem.value }}</span>
        <span v-else class="soft">{{
          labelled.isKept.value
            ? 'Its numbers are kept in the plan.'
            : 'With it, the numbers of all events drawn are kept in the plan.'
        }}</span>
      </form>
      <p v-if="units.length === 0" class="empty">
        Nothing is shown: the filter leaves nothing, or the plan has no activities yet.
      </p>
    </template>
    <template #help
      >Dashed: order alone. Dotted: a link that is not a plain “after”, with its lag<template
        v-if="ui.collapsed.size > 0"
        >, or part of a folded group</template
      >. Under an event: earliest, latest, slack.</template
    >
  </DiagramFrame>
</template>

<style scoped>
.defs {
  position: absolute;
  width: 0;
  height: 0;
}
.head {
  fill: var(--ink);
}
.event-form {
  position: absolute;
  left: 12px;
  right: 12px;
  bottom: 8px;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  padding: 8px 12px;
  background: var(--raised);
  border: 1.5px solid var(--ink);
  border-radius: 8px;
  z-index: 6;
  font-size: 13px;
}
.number {
  width: 76px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.name {
  width: 220px;
}
.empty {
  padding: 60px 24px;
  max-width: 520px;
}
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 12px;
}
</style>
