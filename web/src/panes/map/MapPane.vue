<script setup lang="ts">
import { X } from '@lucide/vue'
import IconButton from '../../controls/IconButton.vue'
import '@vue-flow/core/dist/style.css'
import {
  ConnectionMode,
  useVueFlow,
  VueFlow,
  type Connection,
  type Edge,
  type EdgeMouseEvent,
  type Node,
  type NodeMouseEvent,
} from '@vue-flow/core'
import { computed, markRaw, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import {
  counted,
  freshId,
  PlanError,
  type LinkType,
  type RoutedLayout,
  fromEdge,
  lagCalendarOf,
  lagPhrase,
  linkTypeOf,
  toEdge,
  newLink,
} from '@geodrome/core'
import { reachOf } from '../../composables/linkIndex.ts'
import { useListStore } from '../rows/listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { LayoutClient } from '../../workers/layoutClient.ts'
import type { CellContext } from '../rows/columns.ts'
import DiagramFrame from './DiagramFrame.vue'
import { diagramSvg } from './diagramSvg.ts'
import { mapGraph, type MapEdgeData } from './mapGraph.ts'
import MapBox from './MapBox.vue'
import MapEdge from './MapEdge.vue'
import { useNearWindow } from './useNearWindow.ts'
import { FAR, READABLE } from './wordsFromAfar.ts'
import MapOverview from './MapOverview.vue'
import { boxAt, mapWay, type MapWay } from './mapWay.ts'
import { boxWords, LAYER_GAP, NODE_HEIGHT, NODE_WIDTH, ROW_GAP } from './mapNode.ts'

const props = defineProps<{ context: CellContext; keeps: ((index: number) => boolean) | null }>()
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const { setCenter, setViewport, getViewport, viewport, dimensions, zoomIn, zoomOut, onPaneReady } =
  useVueFlow('map')

const graph = computed(() => mapGraph(props.context.plan, ui.collapsed, props.keeps))
const client = new LayoutClient()
onBeforeUnmount(() => client.stop())
const layout = shallowRef<RoutedLayout | null>(null)
/** The graph that the layout belongs to, with the plan that it is of: positions of activities belong to one plan. */
const laid = shallowRef<(typeof graph.value & { readonly context: CellContext }) | null>(null)
const context = computed(() => laid.value?.context ?? props.context)
let shape = ''
watch(
  graph,
  async (now) => {
    // Dates move without the shape; then the boxes stay where they are.
    const key = `${now.nodes.map((n) => n.id).join(',')}/${now.edges.map((e) => `${e.from}>${e.to}`).join(',')}`
    const drawn = { ...now, context: props.context }
    if (key === shape && laid.value) return void (laid.value = drawn)
    shape = key
    const found = await client.layout(
      now.nodes.length,
      now.edges.map((e) => [e.from, e.to] as const),
    )
    if (!found) return
    layout.value = found
    laid.value = drawn
  },
  { immediate: true },
)
/** Zoom at which all of it is seen, and the viewport for it. */
const whole = (): { x: number; y: number; zoom: number } => {
  const { layers, height } = layout.value!
  const { width: w, height: h } = dimensions.value
  const [across, down] = [
    layers * (NODE_WIDTH + LAYER_GAP) - LAYER_GAP,
    height * (NODE_HEIGHT + ROW_GAP) - ROW_GAP,
  ]
  const zoom = Math.min(1, (w - 40) / across, (h - 24) / down)
  return { x: (w - across * zoom) / 2, y: (h - down * zoom) / 2, zoom: Math.max(0.012, zoom) }
}
const fit = (): void => void (layout.value && setViewport(whole()))
const centreOn = (k: number, zoom: number, duration: number): void => {
  const { x, y } = place(k)
  void setCenter(x + NODE_WIDTH / 2, y + NODE_HEIGHT / 2, { zoom, duration })
}
/** What fits is shown whole; of more, what is selected, or else the beginning, is shown large enough to be read. */
const begin = (): void => {
  if (whole().zoom > READABLE) return fit()
  const chosen = ui.focus === null ? undefined : laid.value?.nodeOf.get(ui.focus)
  if (chosen !== undefined) return centreOn(chosen, 0.7, 0)
  const { x, y } = place(Math.max(0, layout.value!.layer.indexOf(0)))
  void setViewport({
    x: 24 - x * 0.7,
    y: dimensions.value.height / 2 - (y + NODE_HEIGHT / 2) * 0.7,
    zoom: 0.7,
  })
}
const isFar = computed(() => viewport.value.zoom < FAR)
const isReady = ref(false)
onPaneReady(() => (isReady.value = true))
/** Nothing can be shown before both the pane and a layout are there. Then each new network is shown from its beginning, unless it is an edit of what is seen. */
const hasBegun = ref(false)
let seen = 0
watch([isReady, layout, () => dimensions.value.width > 0], ([ready, found, isSized]) => {
  if (!ready || !found || !isSized) return
  const isEdit = hasBegun.value && Math.abs(found.layer.length - seen) <= 1
  seen = found.layer.length
  hasBegun.value = true
  if (!isEdit) begin()
})

/** From afar many boxes are ink on one canvas; Vue Flow then only pans and zooms. */
const isOverview = computed(() => (laid.value?.nodes.length ?? 0) > 250 && viewport.value.zoom < 0.34)

/** Activities of a loop that was refused, shown until the next command. */
const loop = ref<ReadonlySet<string>>(new Set())
const lit = computed(() => (ui.focus === null ? null : reachOf(props.context.plan.links, ui.focus)))
const place = (k: number): { x: number; y: number } => boxAt(layout.value!, k)
/** The kind of link that an edge is drawn as: several between folded groups as a plain one. */
const typeOf = (edge: MapEdgeData): LinkType => (edge.links.length === 1 ? edge.links[0]!.type : 'FS')
/** The way of each edge, found when it is drawn for the first time. */
const ways = computed(() => {
  const [laidOut, found] = [layout.value, new Map<MapEdgeData, MapWay>()]
  const at = new Map(laid.value?.edges.map((edge, k) => [edge, k]))
  return (edge: MapEdgeData): MapWay => {
    const known = found.get(edge)
    if (known) return known
    const way = mapWay(laidOut!, { at: at.get(edge)!, from: edge.from, to: edge.to }, typeOf(edge))
    found.set(edge, way)
    return way
  }
})
/** What stands on a link: how many it stands for, or its type and lag where it is no plain "after". */
const wordsOn = ({ links }: MapEdgeData): string[] => {
  if (links.length > 1) return [String(links.length)]
  const [link] = links
  const { plan, calendars, activity } = context.value
  const lengths = calendars.lengths(
    lagCalendarOf(plan.project, link!, activity(link!.from), activity(link!.to)),
  )
  const lag = lagPhrase(link!.lag, lengths).replace(/^, /, '')
  return [...(link!.type === 'FS' ? [] : [link!.type]), ...(lag ? [lag] : [])]
}
const chosen = computed(() => new Set(ui.selection))

/** Boxes near what is seen, for a graph of many: Vue Flow is given these alone, with the links among them; the canvas behind draws the other links. */
const MANY = 250
const isLarge = computed(() => (laid.value?.nodes.length ?? 0) > MANY)
const nearWindow = useNearWindow({ viewport, dimensions, getViewport })
const near = computed((): ReadonlySet<number> | null => {
  if (!isLarge.value || !laid.value || !layout.value) return null
  const { left, top, right, bottom } = nearWindow.value
  const found = new Set<number>()
  for (let k = 0; k < laid.value.nodes.length; k++) {
    const at = place(k)
    if (at.x + NODE_WIDTH > left && at.x < right && at.y + NODE_HEIGHT > top && at.y < bottom) found.add(k)
  }
  return found
})

const nodes = computed((): Node[] => {
  if (!laid.value || !layout.value || isOverview.value) return []
  return laid.value.nodes.flatMap((node, k): Node[] => {
    if (near.value && !near.value.has(k)) return []
    const ids = node.members.map((i) => context.value.plan.activities[i]!.id)
    const isLit = lit.value === null || ids.some((id) => lit.value!.up.has(id) || lit.value!.down.has(id))
    const state = ids.some((id) => loop.value.has(id))
      ? 'loop'
      : lit.value === null
        ? ''
        : isLit
          ? 'lit'
          : 'faded'
    return [
      {
        id: node.id,
        type: 'box',
        position: place(k),
        draggable: false,
        connectable: node.kind === 'activity',
        width: NODE_WIDTH,
        height: NODE_HEIGHT,
        ariaLabel: `${context.value.plan.activities[node.members[0]!]!.code}`,
        data: { ...boxWords(context.value, node), state, isSelected: ids.some((id) => chosen.value.has(id)) },
      },
    ]
  })
})
const edges = computed((): Edge[] => {
  if (!laid.value || !layout.value || isOverview.value) return []
  return laid.value.edges.flatMap((edge): Edge[] => {
    if (near.value && !(near.value.has(edge.from) && near.value.has(edge.to))) return []
    const drives = edge.links.some((l) => context.value.drives(l))
    const isLit =
      lit.value !== null &&
      edge.links.some(
        (l) =>
          (lit.value!.up.has(l.from) && lit.value!.up.has(l.to)) ||
          (lit.value!.down.has(l.from) && lit.value!.down.has(l.to)),
      )
    const type = typeOf(edge)
    return [
      {
        id: edge.id,
        type: 'way',
        source: laid.value!.nodes[edge.from]!.id,
        target: laid.value!.nodes[edge.to]!.id,
        sourceHandle: fromEdge(type),
        targetHandle: toEdge(type),
        class: [drives ? 'drives' : '', isLit ? 'lit' : lit.value ? 'faded' : ''].join(' '),
        selectable: true,
        focusable: false,
        data: { ...ways.value(edge), words: wordsOn(edge) },
      },
    ]
  })
})

const overview = computed(() => {
  if (!isLarge.value || !laid.value || !layout.value) return null
  const { view, plan } = context.value
  return {
    far: isOverview.value,
    boxes: laid.value.nodes.map((node, k) => {
      const ids = node.members.map((i) => plan.activities[i]!.id)
      const tone = ids.some((id) => chosen.value.has(id))
        ? ('signal' as const)
        : node.members.some((i) => view.onLongestPath[i] === 1)
          ? ('ink' as const)
          : lit.value && ids.some((id) => lit.value!.up.has(id) || lit.value!.down.has(id))
            ? ('fjord' as const)
            : ('line' as const)
      return { ...place(k), tone }
    }),
    edges: laid.value.edges.flatMap((e) =>
      !isOverview.value && near.value && near.value.has(e.from) && near.value.has(e.to)
        ? []
        : [
            {
              from: e.from,
              to: e.to,
              drives: e.links.some((l) => context.value.drives(l)),
              path: () => ways.value(e).path,
            },
          ],
    ),
  }
})
/** A click from afar takes the box under it. */
const pickFromAfar = (event: MouseEvent): void => {
  if (!overview.value?.far) return
  const { left, top } = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const { x, y, zoom } = viewport.value
  const [px, py] = [(event.clientX - left - x) / zoom, (event.clientY - top - y) / zoom]
  const at = overview.value.boxes.findIndex(
    (b) => px >= b.x && px <= b.x + NODE_WIDTH && py >= b.y && py <= b.y + NODE_HEIGHT,
  )
  const node = laid.value!.nodes[at]
  if (node?.kind === 'activity') ui.select(node.id)
}

/** From which edge to which one drags says what kind of link it is. */
const connect = ({ source, sourceHandle, target, targetHandle }: Connection): void => {
  const type = linkTypeOf(
    sourceHandle === 'start' ? 'start' : 'finish',
    targetHandle === 'finish' ? 'finish' : 'start',
  )
  try {
    loop.value = new Set()
    plans.edit({
      kind: 'add',
      list: 'links',
      before: null,
      item: newLink({
        id: freshId(props.context.plan.links, 'l', Math.random),
        from: source,
        to: target,
        type,
        lag: 0,
      }),
    })
    list.problem = ''
  } catch (error) {
    if (!(error instanceof PlanError)) throw error
    const [issue] = error.issues
    list.problem = issue!.message
    if (issue!.code === 'loop') loop.value = new Set(issue!.ids)
  }
}
const pick = ({ node, event }: NodeMouseEvent): void => {
  loop.value = new Set()
  const data = laid.value!.nodes.find((n) => n.id === node.id)!
  const add = event.ctrlKey || event.metaKey || event.shiftKey
  if (data.kind === 'activity') ui.select(data.id, { add })
  else {
    ui.selection = []
    ui.group = data.id
  }
}
/** Enter on a box that has the keyboard selects it, or opens the group that it is. */
const pickByKey = (event: KeyboardEvent): void => {
  const id = (event.target as Element).closest('.vue-flow__node')?.getAttribute('data-id')
  const data = laid.value?.nodes.find((n) => n.id === id)
  if (!data) return
  event.preventDefault()
  if (data.kind === 'group') ui.toggleGroup(data.id)
  else ui.select(data.id, { add: event.shiftKey })
}
const open = ({ node }: NodeMouseEvent): void => {
  if (ui.collapsed.has(node.id)) ui.toggleGroup(node.id)
}
const pickEdge = ({ edge }: EdgeMouseEvent): void => {
  const [link] = laid.value!.edges.find((e) => e.id === edge.id)!.links
  ui.select(link!.to, { show: true })
}
/** What is selected elsewhere comes into view. */
watch(
  () => [ui.focus, ui.reveal, laid.value] as const,
  async ([focus], before) => {
    if (
      focus === null ||
      !laid.value ||
      !layout.value ||
      (before && before[0] === focus && before[1] === ui.reveal)
    )
      return
    const k = laid.value.nodeOf.get(focus)
    if (k === undefined) return
    await nextTick()
    const { x, y } = place(k)
    const { x: dx, y: dy, zoom } = getViewport()
    const [left, top] = [x * zoom + dx, y * zoom + dy]
    const isSeen =
      left >= 0 &&
      top >= 0 &&
      left + NODE_WIDTH * zoom <= dimensions.value.width &&
      top + NODE_HEIGHT * zoom <= dimensions.value.height
    // What is in view already, a box that was clicked above all, stays where it is.
    if (isSeen && (!isOverview.value || before?.[1] === ui.reveal)) return
    centreOn(k, Math.max(zoom, 0.55), 200)
  },
)
const asSvg = (): string | null => {
  if (!laid.value || !layout.value) return null
  const boxes = laid.value.nodes.map((node, k) => {
    const w = boxWords(context.value, node)
    return {
      ...place(k),
      width: NODE_WIDTH,
      height: NODE_HEIGHT,
      strong: w.onPath,
      round: false,
      lines: [
        [w.code, w.float],
        [w.name, ''],
        [w.count > 0 ? `${w.count} activities` : w.duration, w.dates],
      ] as const,
    }
  })
  const lines = laid.value.edges.map((edge) => {
    const { path, at } = ways.value(edge)
    const drives = edge.links.some((l) => context.value.drives(l))
    return { path, at, strong: drives, dash: '', label: wordsOn(edge) }
  })
  return diagramSvg(boxes, lines, ui.tokens, `${props.context.plan.project.name}: map`)
}
const types = { box: markRaw(MapBox) }
const edgeTypes = { way: markRaw(MapEdge) }
const putProblemAway = (): void => {
  list.problem = ''
  loop.value = new Set()
}
</script>

<template>
  <DiagramFrame
    name="Map"
    data-test="map"
    :context="props.context"
    :zoom="viewport.zoom"
    :can-fit="hasBegun"
    @zoom-in="zoomIn()"
    @zoom-out="zoomOut()"
    @fit="fit"
    :drawing="asSvg"
  >
    <template #status
      >{{ graph.nodes.length }} boxes in {{ layout?.layers ?? 0 }} steps<template v-if="graph.leftOut > 0"
        >, {{ counted(graph.leftOut, 'link') }} back between folded groups not drawn</template
      ><template v-if="isOverview">, seen from afar: zoom in to read</template></template
    >
    <div class="map" :class="{ far: isFar }" @click="pickFromAfar" @keydown.enter="pickByKey">
      <MapOverview
        v-if="overview"
        :far="overview.far"
        :boxes="overview.boxes"
        :edges="overview.edges"
        :width="NODE_WIDTH"
        :height="NODE_HEIGHT"
        :viewport="viewport"
      />
      <VueFlow
        id="map"
        :nodes="nodes"
        :edges="edges"
        :node-types="types as never"
        :edge-types="edgeTypes as never"
        :connection-mode="ConnectionMode.Loose"
        :min-zoom="0.012"
        :max-zoom="1.6"
        :nodes-draggable="false"
        :elements-selectable="true"
        :select-nodes-on-drag="false"
        :delete-key-code="null"
        only-render-visible-elements
        @connect="connect"
        @node-click="pick"
        @node-double-click="open"
        @edge-click="pickEdge"
      />
      <p v-if="list.problem" class="problem" role="alert">
        {{ list.problem }}
        <IconButton :icon="X" label="Put this away" @click="putProblemAway" />
      </p>
      <p v-if="graph.nodes.length === 0" class="empty">
        Nothing is shown: the filter leaves nothing, or the plan has no activities yet.
      </p>
    </div>
    <template #help
      >Drag from one edge of a box to an edge of another: right to left is “after”, left to left “with the
      start of”, right to right “ends with”.</template
    >
  </DiagramFrame>
</template>

<style scoped>
.map {
  position: relative;
  height: 100%;
  background: var(--paper);
}
.problem {
  position: absolute;
  left: 12px;
  right: 12px;
  top: 0;
  padding: 6px 12px;
  background: var(--wash);
  color: var(--brick);
  font-weight: 600;
  border-radius: 6px;
  z-index: 5;
}
.empty {
  position: absolute;
  top: 60px;
  left: 20px;
}
.map :deep(.vue-flow__edge-path) {
  stroke: var(--line);
  stroke-width: 1.3;
}
.map :deep(.drives .vue-flow__edge-path) {
  stroke: var(--ink);
  stroke-width: 2;
}
.map :deep(.vue-flow__edge.faded) {
  opacity: 0.3;
}
.map :deep(.lit .vue-flow__edge-path) {
  stroke: var(--fjord);
  stroke-width: 2;
}
.map :deep(.lit.drives .vue-flow__edge-path) {
  stroke: var(--ink);
  stroke-width: 2.4;
}
.map :deep(.vue-flow__connection-path) {
  stroke: var(--signal);
  stroke-width: 2.4;
}
.map :deep(.vue-flow__node) {
  cursor: pointer;
}
.map :deep(.vue-flow__node:focus-visible) {
  outline: 2px solid var(--signal);
  outline-offset: 3px;
  border-radius: 10px;
}
</style>
