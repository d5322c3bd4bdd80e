<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import {
  fromEdge,
  linkPath,
  ROW_HEIGHT,
  toEdge,
  type Link,
  type LinkEnd,
  type RowModel,
} from '@geodrome/core'
import { linkIndex, reachOf, type Reach } from '../../composables/linkIndex.ts'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { CellContext } from '../rows/columns.ts'

/** The links between bars of the window: those that drive, those on the longest path, those of the selected activity. */
const props = defineProps<{
  model: RowModel
  window: readonly { index: number; start: number }[]
  context: CellContext
  scale: TimeScale
  x: (at: number) => number
}>()
const ui = useUiStore()
const y = (row: number): number => row * ROW_HEIGHT

/** Activities upstream and downstream of the selected one, to be lit while the rest fades; found once the selection rests: walking through the list does not wait for it. */
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
    return props.x(atStart ? view.start[shape.index]! : view.finish[shape.index]!)
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
</script>

<template>
  <g
    v-for="stroke in strokes"
    :key="`${stroke.kind}${stroke.isLit}`"
    :class="['link', stroke.kind, stroke.isLit ? 'lit' : { faded: lit !== null }]"
  >
    <path :d="stroke.d" />
    <path class="dots" :d="stroke.dots" />
  </g>
</template>

<style scoped>
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
</style>
