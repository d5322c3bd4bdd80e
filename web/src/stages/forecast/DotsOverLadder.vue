<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Data, Layout, PlotlyHTMLElement } from 'plotly.js-cartesian-dist-min'
import { useUiStore } from '../../stores/uiStore.ts'
import { figure, type FigureInput } from './figure.ts'

const props = defineProps<{ input: FigureInput; label: string }>()
const emit = defineEmits<{ pin: [percent: number] }>()
const ui = useUiStore()
const box = ref<PlotlyHTMLElement | null>(null)
let plotly: {
  react(el: HTMLElement, data: Data[], layout: Partial<Layout>, config: object): Promise<unknown>
  purge(el: HTMLElement): void
} | null = null
let drawing = false
let again = false

/** Draws the latest input; while one drawing runs, later ones wait and only the last is drawn. */
const draw = async (): Promise<void> => {
  if (drawing) {
    again = true
    return
  }
  drawing = true
  plotly ??= (await import('plotly.js-cartesian-dist-min')).default as unknown as typeof plotly
  if (box.value && plotly) {
    const { data, layout } = figure(props.input, ui.tokens, box.value.clientWidth, box.value.clientHeight)
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
    void draw()
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
const observer = new ResizeObserver(() => void draw())
onMounted(() => {
  if (box.value) observer.observe(box.value)
  void draw()
})
watch(
  () => [props.input, ui.theme],
  () => void draw(),
)
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
