<script setup lang="ts">
import '@vue-flow/core/dist/style.css'
import { useVueFlow, VueFlow, type Edge, type EdgeMouseEvent, type Node } from '@vue-flow/core'
import { computed, markRaw, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { arrowMap, counted, durationWords, lagPhrase, lagCalendarOf, shortDay, shortDurationWords, type LayeredLayout } from '@geodrome/core'
import { nearestTo, reachOf } from '../../composables/linkIndex.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { LayoutClient } from '../../workers/layoutClient.ts'
import type { CellContext } from '../rows/columns.ts'
import ArrowEdge from './ArrowEdge.vue'
import { arrowTimes } from './arrowTimes.ts'
import { diagramSvg, download } from './diagramSvg.ts'
import EventCircle from './EventCircle.vue'

const props = defineProps<{ context: CellContext; keeps: ((index: number) => boolean) | null }>()
const ui = useUiStore()
const { fitView, setCenter, setViewport, getViewport, dimensions, zoomIn, zoomOut, onPaneReady } = useVueFlow('arrows')

const STEP = 196
const ROW = 128
/** Beyond this a drawing by arrows cannot be read, and finding its dummies takes long: a filter or a group is drawn instead. */
const MOST = 300
const shown = computed(() => props.context.plan.activities.flatMap((a, i) => (a.kind === 'hammock' || (props.keeps && !props.keeps(i)) ? [] : [a.id])))
const isTooMany = computed(() => shown.value.length > MOST)
/** Parts of a network that is too large, each a drawing that can be read. */
const NEAREST = 100
const parts = computed(() => {
  const { plan, view, activity } = props.context
  const path = plan.activities.flatMap((a, i) => (view.onLongestPath[i] === 1 ? [a.id] : []))
  const focus = ui.focus === null ? undefined : activity(ui.focus)
  return [
    ...(path.length <= MOST ? [{ label: `The longest path, ${counted(path.length, 'activity')}`, ids: path, reason: 'the longest path' }] : []),
    ...(focus ? [{ label: `The ${NEAREST} nearest to ${focus.code}`, ids: nearestTo(plan.links, focus.id, NEAREST), reason: `nearest to ${focus.code}` }] : []),
  ]
})
/** Only the shape of the network decides what is drawn; dates are put on it afterwards. */
const shape = computed(() => `${shown.value.join(',')}/${props.context.plan.links.map((l) => `${l.from}>${l.to}${l.type}${l.lag === 0 ? '' : '+'}`).join(',')}`)
const map = shallowRef(arrowMap([], []))
const layout = shallowRef<LayeredLayout | null>(null)
const client = new LayoutClient()
onBeforeUnmount(() => client.stop())
watch(
  shape,
  async () => {
    const made = isTooMany.value ? arrowMap([], []) : arrowMap(shown.value, props.context.plan.links)
    const found = await client.layout(made.events.length, made.arrows.map((a) => [a.from, a.to] as const))
    if (!found) return
    map.value = made
    layout.value = found
  },
  { immediate: true },
)
const fit = (): void => void fitView({ padding: 0.1, maxZoom: 1 })
/** What fits is shown whole; of more, the beginning is shown large enough to be read. */
const begin = (): void => {
  if (!layout.value || map.value.events.length === 0) return
  const { layers, height } = layout.value
  const { width: w, height: h } = dimensions.value
  if (Math.min(w / (layers * STEP), h / (height * ROW)) > 0.55) return fit()
  const { x, y } = place(0)
  void setViewport({ x: 40 - x * 0.8, y: h / 2 - y * 0.8, zoom: 0.8 })
}
const isReady = ref(false)
onPaneReady(() => (isReady.value = true))
/** Nothing can be shown before both the pane and a layout are there; each new shape is shown from its beginning. */
watch([isReady, layout, () => dimensions.value.width > 0], async ([ready, found, isSized]) => {
  if (!ready || !found || !isSized) return
  await nextTick()
  begin()
})
const times = computed(() => arrowTimes(map.value, props.context))
const lit = computed(() => (ui.focus === null ? null : reachOf(props.context.plan.links, ui.focus)))
const isFaded = (id: string): boolean => lit.value !== null && !lit.value.up.has(id) && !lit.value.down.has(id)
const place = (e: number): { x: number; y: number } => ({ x: layout.value!.layer[e]! * STEP, y: layout.value!.row[e]! * ROW })
const nameOf = (id: string): string => props.context.activity(id)?.code ?? id

const nodes = computed((): Node[] => {
  if (!layout.value) return []
  const lengths = props.context.calendars.projectLengths
  return map.value.events.map((event, e): Node => {
    const { earliest, latest, slack } = times.value[e]!
    const around = [...event.ends, ...event.begins]
    return {
      id: String(e),
      type: 'event',
      position: place(e),
      draggable: false,
      connectable: false,
      width: 40,
      height: 40,
      data: {
        number: event.number,
        early: shortDay(earliest, event.ends.length > 0 ? 'finish' : 'start'),
        late: shortDay(latest, event.begins.length > 0 ? 'start' : 'finish'),
        slack: slack === 0 ? '' : shortDurationWords(slack, lengths),
        critical: slack <= props.context.plan.project.criticalFloat,
        faded: lit.value !== null && around.every(isFaded),
        title: `Event ${event.number}: reached by ${shortDay(earliest, 'finish')}, at the latest ${shortDay(latest, 'finish')}; slack ${durationWords(slack, lengths)}. Ends ${event.ends.map(nameOf).join(', ') || 'nothing'}, begins ${event.begins.map(nameOf).join(', ') || 'nothing'}.`,
      },
    }
  })
})
const words = computed(() => {
  const { plan, calendars, view } = props.context
  const index = new Map(plan.activities.map((a, i) => [a.id, i]))
  const linkOf = new Map(plan.links.map((l) => [l.id, l]))
  return map.value.arrows.map((arrow) => {
    if (arrow.kind === 'work') {
      const i = index.get(arrow.activity!)
      const activity = i === undefined ? undefined : plan.activities[i]
      if (i === undefined || !activity) return { code: '', name: '', below: '', strong: false }
      const name = activity.name.length > 18 ? `${activity.name.slice(0, 17)}…` : activity.name
      return { code: activity.code, name, below: activity.kind === 'milestone' ? 'milestone' : shortDurationWords(activity.duration, calendars.lengthsOf(activity)), strong: view.onLongestPath[i] === 1 }
    }
    const link = arrow.link === null ? undefined : linkOf.get(arrow.link)
    if (!link) return { code: '', name: '', below: '', strong: false }
    const lengths = calendars.lengths(lagCalendarOf(plan.project, link, props.context.activity(link.from), props.context.activity(link.to)))
    return { code: link.type, name: '', below: lagPhrase(link.lag, lengths).replace(/^, /, ''), strong: false }
  })
})
const edges = computed((): Edge[] => {
  if (!layout.value) return []
  const pairs = new Map<string, number>()
  return map.value.arrows.map((arrow, k): Edge => {
    const key = `${arrow.from}|${arrow.to}`
    const nth = pairs.get(key) ?? 0
    pairs.set(key, nth + 1)
    const isLong = layout.value!.layer[arrow.to]! - layout.value!.layer[arrow.from]! > 1
    return {
      id: `${arrow.activity ?? arrow.link ?? key}:${k}`,
      source: String(arrow.from),
      target: String(arrow.to),
      sourceHandle: 'out',
      targetHandle: 'in',
      type: 'arrow',
      focusable: false,
      data: { kind: arrow.kind, ...words.value[k]!, bow: nth * 44 + (isLong ? 26 : 0), faded: arrow.activity !== null ? isFaded(arrow.activity) : lit.value !== null },
    }
  })
})
const pickEdge = ({ edge }: EdgeMouseEvent): void => {
  const arrow = map.value.arrows[Number(edge.id.split(':').at(-1))]!
  if (arrow.activity !== null) ui.select(arrow.activity)
}
watch(
  () => [ui.focus, ui.reveal] as const,
  ([focus]) => {
    const arrow = map.value.arrows.find((a) => a.activity === focus)
    if (!arrow || !layout.value) return
    const [a, b] = [place(arrow.from), place(arrow.to)]
    const { x: dx, y: dy, zoom } = getViewport()
    const [x, y] = [(a.x + b.x) / 2, (a.y + b.y) / 2]
    const isSeen = x * zoom + dx > 0 && y * zoom + dy > 0 && x * zoom + dx < dimensions.value.width && y * zoom + dy < dimensions.value.height
    if (!isSeen) void setCenter(x, y, { zoom: Math.max(zoom, 0.6), duration: 200 })
  },
)
const dummies = computed(() => map.value.arrows.filter((a) => a.kind === 'dummy').length)
const exportSvg = (): void => {
  if (!layout.value) return
  const boxes = map.value.events.map((event, e) => {
    const { early, late, slack } = nodes.value[e]!.data as { early: string; late: string; slack: string }
    return { ...place(e), width: 40, height: 40, strong: (nodes.value[e]!.data as { critical: boolean }).critical, round: true, lines: [[String(event.number), ''], [`${early} · ${late}${slack ? ` · ${slack}` : ''}`, '']] as const }
  })
  const lines = map.value.arrows.map((arrow, k) => {
    const [a, b] = [place(arrow.from), place(arrow.to)]
    const [x1, y1, x2, y2] = [a.x + 41, a.y + 20, b.x - 3, b.y + 20]
    const w = words.value[k]!
    return { path: `M${x1},${y1}L${x2},${y2}`, strong: w.strong, dash: arrow.kind === 'dummy' ? '6 4' : arrow.kind === 'wait' ? '2 4' : '', label: [`${w.code} ${w.name}`.trim(), w.below].filter(Boolean), at: [(x1 + x2) / 2, (y1 + y2) / 2] as const }
  })
  const { code, name } = props.context.plan.project
  download(diagramSvg(boxes, lines, ui.tokens, `${name}: arrow map`), `${code || 'plan'}-arrow-map.svg`, 'image/svg+xml')
}
const nodeTypes = { event: markRaw(EventCircle) }
const edgeTypes = { arrow: markRaw(ArrowEdge) }
</script>

<template>
  <div class="map" data-test="arrow-map">
    <svg class="defs" aria-hidden="true"><defs><marker id="arrow-head" viewBox="0 0 10 10" refX="8" refY="5" markerWidth="6" markerHeight="6" orient="auto-start-reverse"><path d="M0,0L10,5L0,10z" class="head" /></marker></defs></svg>
    <VueFlow v-if="!isTooMany" id="arrows" :nodes="nodes" :edges="edges" :node-types="nodeTypes as never" :edge-types="edgeTypes as never" :min-zoom="0.08" :max-zoom="1.8" :nodes-draggable="false" :nodes-connectable="false" :delete-key-code="null" @edge-click="pickEdge" />
    <p v-else class="empty">{{ counted(shown.length, 'activity') }} are too many to be read as arrows. Up to {{ MOST }} are drawn: filter the list, find a group in it, select an activity, or take a part.
      <span class="parts"><button v-for="part in parts" :key="part.label" class="chip" @click="ui.filter = { ids: new Set(part.ids), reason: part.reason }">{{ part.label }}</button></span>
    </p>
    <p v-if="!isTooMany" class="bar">
      <span class="soft" role="status">{{ counted(map.events.length, 'event') }}, {{ counted(dummies, 'dummy') }}</span>
      <button class="chip" aria-label="Zoom the Arrow map out" @click="zoomOut()">⊖</button>
      <button class="chip" @click="fit">Fit</button>
      <button class="chip" aria-label="Zoom the Arrow map in" @click="zoomIn()">⊕</button>
      <button class="chip" @click="exportSvg">Save as SVG</button>
    </p>
    <p class="help soft">Dashed: order alone. Dotted: a link that is not a plain “after”, with its lag. Under an event: earliest, latest, slack.</p>
  </div>
</template>

<style scoped>
.map { position: relative; height: 100%; background: var(--paper); }
.defs { position: absolute; width: 0; height: 0; }
.head { fill: var(--ink); }
.bar { position: absolute; left: 0; right: 0; top: 0; padding: 8px 12px; background: color-mix(in srgb, var(--paper) 88%, transparent); display: flex; flex-wrap: wrap; gap: 6px 8px; align-items: center; z-index: 5; }
.bar span { margin-right: auto; white-space: nowrap; background: color-mix(in srgb, var(--paper) 85%, transparent); border-radius: 6px; padding: 1px 6px; font-size: 12.5px; }
.bar .chip { background: var(--raised); flex: none; }
.help { position: absolute; left: 12px; right: 12px; bottom: 6px; font-size: 12px; background: color-mix(in srgb, var(--paper) 85%, transparent); width: fit-content; padding: 1px 6px; border-radius: 6px; z-index: 5; }
.empty { padding: 60px 24px; max-width: 520px; }
.parts { display: flex; gap: 8px; margin-top: 12px; }
</style>
