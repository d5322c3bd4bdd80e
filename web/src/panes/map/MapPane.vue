<script setup lang="ts">
import '@vue-flow/core/dist/style.css'
import { ConnectionMode, useVueFlow, VueFlow, type Connection, type Edge, type EdgeMouseEvent, type Node, type NodeMouseEvent } from '@vue-flow/core'
import { computed, markRaw, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { freshId, PlanError, type LayeredLayout, type LinkType } from '@geodrome/core'
import { useListStore } from '../../stores/listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { LayoutClient } from '../../workers/layoutClient.ts'
import { reachOf } from '../ground/reach.ts'
import type { CellContext } from '../rows/columns.ts'
import { diagramSvg, download } from './diagramSvg.ts'
import { mapGraph } from './mapGraph.ts'
import MapBox from './MapBox.vue'
import { boxWords, LAYER_GAP, NODE_HEIGHT, NODE_WIDTH, ROW_GAP } from './mapNode.ts'

const props = defineProps<{ context: CellContext; keeps: ((index: number) => boolean) | null }>()
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const { fitView, setCenter, setViewport, getViewport, dimensions, zoomIn, zoomOut } = useVueFlow('map')

const graph = computed(() => mapGraph(props.context.plan, ui.collapsed, props.keeps))
const client = new LayoutClient()
onBeforeUnmount(() => client.stop())
const layout = shallowRef<LayeredLayout | null>(null)
/** The graph that the layout belongs to. */
const laid = shallowRef<typeof graph.value | null>(null)
const tookMs = ref(0)
let shape = ''
watch(
  graph,
  async (now) => {
    // Dates move without the shape; then the boxes stay where they are.
    const key = `${now.nodes.map((n) => n.id).join(',')}/${now.edges.map((e) => `${e.from}>${e.to}`).join(',')}`
    if (key === shape && laid.value) return void (laid.value = now)
    shape = key
    const began = performance.now()
    const found = await client.layout(now.nodes.length, now.edges.map((e) => [e.from, e.to] as const))
    if (!found) return
    tookMs.value = performance.now() - began
    const isFirst = layout.value === null
    layout.value = found
    laid.value = now
    if (isFirst) {
      await nextTick()
      setTimeout(begin, 60)
    }
  },
  { immediate: true },
)
const fit = (): Promise<boolean> => fitView({ padding: 0.06, maxZoom: 1 })
/** What fits is shown whole; of more, the beginning is shown large enough to be read. */
const begin = (): void => {
  const { layers, height } = layout.value!
  const { width: w, height: h } = dimensions.value
  const whole = Math.min(w / (layers * (NODE_WIDTH + LAYER_GAP)), h / (height * (NODE_HEIGHT + ROW_GAP)))
  if (whole > 0.5) return void fit()
  const first = layout.value!.layer.findIndex((l) => l === 0)
  const { x, y } = place(Math.max(0, first))
  void setViewport({ x: 24 - x * 0.7, y: h / 2 - (y + NODE_HEIGHT / 2) * 0.7, zoom: 0.7 })
}

/** Activities of a loop that was refused, shown until the next deed. */
const loop = ref<ReadonlySet<string>>(new Set())
const lit = computed(() => (ui.focus === null ? null : reachOf(props.context.plan.links, ui.focus)))
const place = (k: number): { x: number; y: number } => ({ x: layout.value!.layer[k]! * (NODE_WIDTH + LAYER_GAP), y: layout.value!.row[k]! * (NODE_HEIGHT + ROW_GAP) })
const chosen = computed(() => new Set(ui.selection))

const nodes = computed((): Node[] => {
  if (!laid.value || !layout.value) return []
  return laid.value.nodes.map((node, k): Node => {
    const ids = node.members.map((i) => props.context.plan.activities[i]!.id)
    const isLit = lit.value === null || ids.some((id) => lit.value!.up.has(id) || lit.value!.down.has(id))
    const state = ids.some((id) => loop.value.has(id)) ? 'loop' : lit.value === null ? '' : isLit ? 'lit' : 'faded'
    return {
      id: node.id,
      type: 'box',
      position: place(k),
      draggable: false,
      connectable: node.kind === 'activity',
      width: NODE_WIDTH,
      height: NODE_HEIGHT,
      ariaLabel: `${props.context.plan.activities[node.members[0]!]!.code}`,
      data: { ...boxWords(props.context, node), state, isSelected: ids.some((id) => chosen.value.has(id)) },
    }
  })
})
const edges = computed((): Edge[] => {
  if (!laid.value || !layout.value) return []
  const { view } = props.context
  return laid.value.edges.map((edge): Edge => {
    const [link] = edge.links
    const drives = edge.links.some((l) => view.driving.has(l.id))
    const isLit = lit.value !== null && edge.links.some((l) => (lit.value!.up.has(l.from) && lit.value!.up.has(l.to)) || (lit.value!.down.has(l.from) && lit.value!.down.has(l.to)))
    const type = link!.type
    return {
      id: edge.id,
      source: laid.value!.nodes[edge.from]!.id,
      target: laid.value!.nodes[edge.to]!.id,
      sourceHandle: edge.links.length === 1 && (type === 'SS' || type === 'SF') ? 'start' : 'finish',
      targetHandle: edge.links.length === 1 && (type === 'FF' || type === 'SF') ? 'finish' : 'start',
      class: [drives ? 'drives' : '', isLit ? 'lit' : lit.value ? 'faded' : ''].join(' '),
      selectable: true,
      focusable: false,
      ...(edge.links.length > 1 ? { label: String(edge.links.length) } : type !== 'FS' ? { label: type } : {}),
      labelShowBg: true,
      labelBgPadding: [4, 1],
    }
  })
})

/** From which edge to which one drags says what kind of link it is. */
const TYPES: Readonly<Record<string, LinkType>> = { 'finish|start': 'FS', 'start|start': 'SS', 'finish|finish': 'FF', 'start|finish': 'SF' }
const connect = ({ source, sourceHandle, target, targetHandle }: Connection): void => {
  const type = TYPES[`${sourceHandle ?? 'finish'}|${targetHandle ?? 'start'}`]!
  try {
    loop.value = new Set()
    plans.edit({ kind: 'add', list: 'links', before: null, item: { id: freshId(props.context.plan.links, 'l', Math.random), from: source, to: target, type, lag: 0, lagOn: null, nature: 'hard', reason: '' } })
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
    if (focus === null || !laid.value || !layout.value || (before && before[0] === focus && before[1] === ui.reveal)) return
    const k = laid.value.nodeOf.get(focus)
    if (k === undefined) return
    await nextTick()
    const { x, y } = place(k)
    const { zoom } = getViewport()
    void setCenter(x + NODE_WIDTH / 2, y + NODE_HEIGHT / 2, { zoom: Math.max(zoom, 0.55), duration: 200 })
  },
)
const groupsOpen = computed(() => props.context.plan.groups.filter((g) => !ui.collapsed.has(g.id)).length)
const foldAll = (): void => void (ui.collapsed = groupsOpen.value > 0 ? new Set(props.context.plan.groups.map((g) => g.id)) : new Set())

const exportSvg = (): void => {
  if (!laid.value || !layout.value) return
  const boxes = laid.value.nodes.map((node, k) => {
    const w = boxWords(props.context, node)
    return { ...place(k), width: NODE_WIDTH, height: NODE_HEIGHT, strong: w.onPath, round: false, lines: [[w.code, w.float], [w.name, ''], [w.count > 0 ? `${w.count} activities` : w.duration, w.dates]] as const }
  })
  const lines = laid.value.edges.map((edge) => {
    const type = edge.links.length === 1 ? edge.links[0]!.type : 'FS'
    const [a, b] = [place(edge.from), place(edge.to)]
    const fromStart = type === 'SS' || type === 'SF'
    const toFinish = type === 'FF' || type === 'SF'
    const x1 = a.x + (fromStart ? 0 : NODE_WIDTH)
    const x2 = b.x + (toFinish ? NODE_WIDTH : 0)
    const [y1, y2] = [a.y + NODE_HEIGHT / 2, b.y + NODE_HEIGHT / 2]
    const bend = Math.max(24, Math.abs(x2 - x1) / 2)
    return {
      path: `M${x1},${y1}C${x1 + (fromStart ? -bend : bend)},${y1} ${x2 + (toFinish ? bend : -bend)},${y2} ${x2},${y2}`,
      strong: edge.links.some((l) => props.context.view.driving.has(l.id)),
      dash: '',
      label: type === 'FS' ? [] : [type],
      at: [(x1 + x2) / 2, (y1 + y2) / 2] as const,
    }
  })
  const { code, name } = props.context.plan.project
  download(diagramSvg(boxes, lines, ui.tokens, `${name}: map`), `${code || 'plan'}-map.svg`, 'image/svg+xml')
}
const types = { box: markRaw(MapBox) }
</script>

<template>
  <div class="map" data-test="map">
    <VueFlow
      id="map"
      :nodes="nodes"
      :edges="edges"
      :node-types="types as never"
      :connection-mode="ConnectionMode.Loose"
      :min-zoom="0.04"
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
    <p class="bar">
      <span class="soft" role="status">{{ graph.nodes.length }} boxes in {{ layout?.layers ?? 0 }} steps<template v-if="tookMs > 300">, laid out in {{ (tookMs / 1000).toFixed(1) }} s</template></span>
      <button class="chip" @click="foldAll">{{ groupsOpen > 0 ? 'Fold all groups' : 'Open all groups' }}</button>
      <button class="chip" aria-label="Zoom the Map out" @click="zoomOut()">⊖</button>
      <button class="chip" @click="fit">Fit</button>
      <button class="chip" aria-label="Zoom the Map in" @click="zoomIn()">⊕</button>
      <button class="chip" @click="exportSvg">Save as SVG</button>
    </p>
    <p class="help soft">Drag from one edge of a box to an edge of another: right to left is “after”, left to left “with the start of”, right to right “ends with”.</p>
    <p v-if="list.problem" class="problem" role="alert">{{ list.problem }} <button class="plain" aria-label="Put this away" @click="list.problem = ''; loop = new Set()">×</button></p>
    <p v-if="graph.nodes.length === 0" class="empty">Nothing is shown: the filter leaves nothing, or the plan has no activities yet.</p>
  </div>
</template>

<style scoped>
.map { position: relative; height: 100%; background: var(--paper); }
.bar { position: absolute; left: 12px; right: 12px; top: 10px; display: flex; gap: 8px; align-items: center; z-index: 5; }
.bar span { margin-right: auto; background: color-mix(in srgb, var(--paper) 85%, transparent); border-radius: 6px; padding: 1px 6px; font-size: 12.5px; }
.bar .chip { background: var(--raised); flex: none; }
.problem { position: absolute; left: 12px; right: 12px; top: 44px; padding: 6px 12px; background: var(--wash); color: var(--brick); font-weight: 600; border-radius: 6px; z-index: 5; }
.help { position: absolute; left: 12px; right: 12px; bottom: 6px; font-size: 12px; background: color-mix(in srgb, var(--paper) 85%, transparent); width: fit-content; padding: 1px 6px; border-radius: 6px; z-index: 5; }
.empty { position: absolute; top: 60px; left: 20px; }
.map :deep(.vue-flow__edge-path) { stroke: var(--line); stroke-width: 1.3; }
.map :deep(.drives .vue-flow__edge-path) { stroke: var(--ink); stroke-width: 2; }
.map :deep(.faded) { opacity: 0.3; }
.map :deep(.lit .vue-flow__edge-path) { stroke: var(--fjord); stroke-width: 2; }
.map :deep(.lit.drives .vue-flow__edge-path) { stroke: var(--ink); stroke-width: 2.4; }
.map :deep(.vue-flow__edge-textbg) { fill: var(--paper); }
.map :deep(.vue-flow__edge-text) { fill: var(--ink); font-size: 11px; }
.map :deep(.vue-flow__connection-path) { stroke: var(--signal); stroke-width: 2.4; }
.map :deep(.vue-flow__node) { cursor: pointer; }
.map :deep(.vue-flow__node:focus-visible) { outline: 2px solid var(--signal); outline-offset: 3px; border-radius: 10px; }
</style>
