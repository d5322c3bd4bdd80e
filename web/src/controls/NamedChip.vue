<script setup lang="ts">
import { X } from '@lucide/vue'
import IconButton from './IconButton.vue'

/** One of several that were named, with what takes it out again. */
defineProps<{
  /** What taking it out is called. */
  leave: string
}>()
const emit = defineEmits<{ leave: [] }>()
</script>

<template>
  <span class="named-chip"
    ><slot /><IconButton :icon="X" class="x" :label="leave" @click="emit('leave')"
  /></span>
</template>

<style scoped>
.named-chip {
  display: inline-flex;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 12px;
  padding-left: 10px;
  background: var(--raised);
}
.x {
  color: var(--soft-ink);
}
</style>
