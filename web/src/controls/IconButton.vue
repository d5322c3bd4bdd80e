<script setup lang="ts">
import { NButton } from 'naive-ui'
import type { Component } from 'vue'

/** A button with a sign: its label is said on hover and to who cannot see it. 24 px at the least. */
defineProps<{ icon: Component; label: string; disabled?: boolean }>()
</script>

<template>
  <NButton
    class="icon-button"
    quaternary
    circle
    size="tiny"
    attr-type="button"
    :disabled="disabled"
    :title="label"
    :aria-label="label"
    :native-focus-behavior="true"
  >
    <template #icon><component :is="icon" :size="15" aria-hidden="true" /></template>
  </NButton>
</template>

<style>
.n-button.icon-button {
  width: 24px;
  height: 24px;
}
.n-button.icon-button:focus-visible {
  outline: 2px solid var(--signal);
  outline-offset: 1px;
}
</style>
