<script setup lang="ts">
import { computed } from 'vue'
import type { Effect } from '@geodrome/core'

/** Filled: moves the answer; half filled: the finish stays, but a delay behind it would not show; open: does not. */
const { heavy, effect } = defineProps<{ heavy: boolean; effect?: Effect['kind'] }>()
const label = computed(() =>
  !heavy ? 'does not move the answer' : effect === 'hides' ? 'hides delays' : 'moves the answer',
)
</script>

<template>
  <svg class="mark" viewBox="0 0 14 14" role="img" :aria-label="label">
    <title>{{ label }}</title>
    <path
      v-if="heavy"
      :d="effect === 'hides' ? 'M4 7.4H10L13 12.5H1z' : 'M7 1.5 13 12.5H1z'"
      class="filled"
    />
    <path d="M7 1.5 13 12.5H1z" />
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
