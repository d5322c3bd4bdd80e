<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useUiStore } from '../../stores/uiStore.ts'

/**
 * Ink behind a large Map, on one canvas: links that run out of view, and from afar, where single boxes could not be read, the boxes too.
 */
const props = defineProps<{
  far: boolean
  boxes: readonly {
    readonly x: number
    readonly y: number
    readonly tone: 'ink' | 'line' | 'signal' | 'fjord'
  }[]
  /** Positions of the boxes at both ends. */
  edges: readonly {
    readonly from: number
    readonly to: number
    readonly drives: boolean
    /** Its way past the boxes, as an SVG path. */
    readonly path: () => string
  }[]
  width: number
  height: number
  viewport: { readonly x: number; readonly y: number; readonly zoom: number }
}>()
const ui = useUiStore()
const canvas = ref<HTMLCanvasElement | null>(null)
const { width: shownWidth, height: shownHeight } = useElementSize(canvas)
const colours = computed(() => ({
  ink: ui.tokens.ink,
  line: ui.tokens.line,
  signal: ui.tokens.signal,
  fjord: ui.tokens.fjord,
}))

const draw = (): void => {
  const context = canvas.value?.getContext('2d')
  if (!canvas.value || !context || shownWidth.value === 0) return
  const ratio = Math.min(2, window.devicePixelRatio)
  canvas.value.width = shownWidth.value * ratio
  canvas.value.height = shownHeight.value * ratio
  const { x, y, zoom } = props.viewport
  context.setTransform(ratio * zoom, 0, 0, ratio * zoom, ratio * x, ratio * y)
  const [left, right] = [-x / zoom, (shownWidth.value - x) / zoom]
  const [top, bottom] = [-y / zoom, (shownHeight.value - y) / zoom]
  for (const drives of [false, true]) {
    const ink = new Path2D()
    for (const edge of props.edges) {
      if (edge.drives !== drives) continue
      const [a, b] = [props.boxes[edge.from]!, props.boxes[edge.to]!]
      if (
        Math.max(a.x, b.x) < left ||
        Math.min(a.x, b.x) > right ||
        Math.max(a.y, b.y) < top ||
        Math.min(a.y, b.y) > bottom
      )
        continue
      if (!props.far) {
        ink.addPath(new Path2D(edge.path()))
        continue
      }
      ink.moveTo(a.x + props.width, a.y + props.height / 2)
      ink.lineTo(b.x, b.y + props.height / 2)
    }
    context.strokeStyle = drives ? colours.value.ink : colours.value.line
    context.globalAlpha = drives ? 0.7 : 0.3
    context.lineWidth = (drives ? 1 : 0.6) / zoom
    context.stroke(ink)
  }
  context.globalAlpha = 1
  if (!props.far) return
  for (const box of props.boxes) {
    if (box.x > right || box.x + props.width < left || box.y > bottom || box.y + props.height < top) continue
    context.fillStyle = colours.value[box.tone]
    context.fillRect(box.x, box.y, props.width, props.height)
  }
}
let frame = 0
watch(
  [
    () => props.viewport.x,
    () => props.viewport.y,
    () => props.viewport.zoom,
    () => props.boxes,
    () => props.edges,
    shownWidth,
    shownHeight,
    colours,
  ],
  () => {
    cancelAnimationFrame(frame)
    frame = requestAnimationFrame(draw)
  },
)
onBeforeUnmount(() => cancelAnimationFrame(frame))
</script>

<template>
  <canvas
    ref="canvas"
    class="overview"
    role="img"
    aria-label="The whole Map from afar; zoom in to read its boxes"
  />
</template>

<style scoped>
.overview {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
</style>
