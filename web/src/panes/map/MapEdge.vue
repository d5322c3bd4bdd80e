<script setup lang="ts">
import { EdgeLabelRenderer } from '@vue-flow/core'

/** A link of the Map on the way that was laid out for it, with its type and lag where it is no plain "after". */
defineProps<{ data: { path: string; at: readonly [number, number]; words: readonly string[] } }>()
</script>

<template>
  <path class="vue-flow__edge-path" :d="data.path" />
  <path class="hit" :d="data.path" />
  <EdgeLabelRenderer v-if="data.words.length > 0">
    <p
      class="words"
      :style="{ transform: `translate(-50%, -50%) translate(${data.at[0]}px, ${data.at[1]}px)` }"
    >
      <span v-for="(line, k) in data.words" :key="k">{{ line }}</span>
    </p>
  </EdgeLabelRenderer>
</template>

<style scoped>
.hit {
  fill: none;
  stroke: transparent;
  stroke-width: 14;
  cursor: pointer;
}
.words {
  position: absolute;
  display: flex;
  flex-direction: column;
  align-items: center;
  padding: 0 3px;
  border-radius: 4px;
  background: var(--paper);
  font-size: 11px;
  line-height: 12px;
  white-space: nowrap;
  pointer-events: none;
}
.far .words {
  display: none;
}
</style>
