<script setup lang="ts">
import { computed } from 'vue'

/** The days without work behind a drawing over time. */
const props = defineProps<{
  bands: readonly { readonly x: number; readonly width: number }[]
  height: number
}>()
/** One stroke: an element for each band takes longer to paint. */
const shade = computed(() =>
  props.bands.map(({ x, width }) => `M${x},0h${width}V${props.height}h${-width}z`).join(''),
)
</script>

<template>
  <path class="band" :d="shade" />
</template>

<style scoped>
.band {
  fill: var(--shade);
  fill-opacity: 0.75;
}
</style>
