<script setup lang="ts">
/** Filled: moves the answer; open: does not. */
defineProps<{ heavy: boolean }>()
</script>

<template>
  <svg
    class="mark"
    viewBox="0 0 14 14"
    role="img"
    :aria-label="heavy ? 'moves the answer' : 'does not move the answer'"
  >
    <path d="M7 1.5 13 12.5H1z" :class="{ filled: heavy }" />
  </svg>
</template>

<style scoped>
.mark {
  width: 14px;
  height: 14px;
  vertical-align: -2px;
}
.mark path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-linejoin: round;
}
.mark .filled {
  fill: var(--ink);
}
</style>
