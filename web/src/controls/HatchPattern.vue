<script setup lang="ts">
/** Slanting lines that shapes are filled with, by `url(#id)`: within the defs of a drawing. */
withDefaults(
  defineProps<{
    id: string
    /** From line to line, and how thick one is (px). */
    gap: number
    thick: number
    /** Colours; without ground what lies below shows. */
    ink?: string
    ground?: string
    degrees?: number
  }>(),
  { ink: 'var(--ink)', degrees: 45 },
)
</script>

<template>
  <pattern
    :id="id"
    :width="gap"
    :height="gap"
    patternUnits="userSpaceOnUse"
    :patternTransform="`rotate(${degrees})`"
  >
    <rect v-if="ground" :width="gap" :height="gap" :fill="ground" />
    <rect :width="thick" :height="gap" :fill="ink" />
  </pattern>
</template>
