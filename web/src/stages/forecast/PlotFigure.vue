<script setup lang="ts">
import { type Tokens } from '@geodrome/core'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Data, Layout, PlotlyHTMLElement } from 'plotly.js-cartesian-dist-min'
import { textOf } from '../../saving/download.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { Figure } from './figureParts.ts'

/** A drawing by Plotly in our own style, drawn again whenever its room, its theme or what it shows changes. */
const props = defineProps<{
  draw: (tokens: Tokens, width: number, height: number) => Figure
  label: string
}>()
const emit = defineEmits<{ pin: [percent: number] }>()
const ui = useUiStore()
const box = ref<PlotlyHTMLElement | null>(null)
let plotly: {
  react(el: HTMLElement, data: Data[], layout: Partial<Layout>, config: object): Promise<unknown>
  purge(el: HTMLElement): void
  toImage(figure: object, options: object): Promise<string>
} | null = null
let drawing = false
let again = false

/** Draws the latest input; while one drawing runs, later ones wait and only the last is drawn. */
const redraw = async (): Promise<void> => {
  if (drawing) {
    again = true
    return
  }
  drawing = true
  plotly ??= (await import('plotly.js-cartesian-dist-min')).default as unknown as typeof plotly
  if (box.value && plotly) {
    const { data, layout } = props.draw(ui.tokens, box.value.clientWidth, box.value.clientHeight)
    await plotly.react(box.value, data, layout, {
      displayModeBar: false,
      responsive: false,
      scrollZoom: false,
      doubleClick: false,
    })
    bind()
  }
  drawing = false
  if (again) {
    again = false
    void redraw()
  }
}
let bound = false
const bind = (): void => {
  if (bound || !box.value) return
  bound = true
  box.value.on('plotly_click', ({ points }) => {
    const percent = points[0]?.customdata
    if (typeof percent === 'number') emit('pin', percent)
  })
}
const observer = new ResizeObserver(() => void redraw())
onMounted(() => {
  if (box.value) observer.observe(box.value)
  void redraw()
})
watch(
  () => [props.draw, ui.theme],
  () => void redraw(),
)
/** The drawing by itself (SVG), on paper, as wide as it stands. */
const svg = async (): Promise<string> => {
  const { clientWidth: width, clientHeight: height } = box.value!
  const { data, layout } = props.draw(ui.tokens, width, height)
  const url = await plotly!.toImage(
    { data, layout: { ...layout, paper_bgcolor: ui.tokens.paper } },
    { format: 'svg', width, height },
  )
  return textOf(url)
}
defineExpose({ svg })
onBeforeUnmount(() => {
  observer.disconnect()
  if (box.value && plotly) plotly.purge(box.value)
})
</script>

<template>
  <div ref="box" class="figure" role="img" :aria-label="label" />
</template>

<style scoped>
.figure {
  width: 100%;
  height: 100%;
  min-height: 300px;
}
</style>
