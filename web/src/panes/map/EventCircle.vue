<script setup lang="ts">
import { Handle, Position } from '@vue-flow/core'

defineProps<{ data: { number: number; early: string; late: string; slack: string; critical: boolean; faded: boolean; title: string } }>()
</script>

<template>
  <div class="event" :class="{ critical: data.critical, faded: data.faded }" :title="data.title">
    <Handle id="in" type="target" :position="Position.Left" :connectable="false" />
    <strong class="code">{{ data.number }}</strong>
    <Handle id="out" type="source" :position="Position.Right" :connectable="false" />
    <p class="times"><span>{{ data.early }}</span><span>{{ data.late }}</span><em v-if="data.slack">{{ data.slack }}</em></p>
  </div>
</template>

<style scoped>
.event { position: relative; width: 40px; height: 40px; border: 1.5px solid var(--line); border-radius: 50%; background: var(--raised); color: var(--ink); display: flex; align-items: center; justify-content: center; font-size: 12px; }
.event.critical { border: 2.5px solid var(--ink); }
.event.faded { opacity: 0.4; }
.times { position: absolute; top: 42px; left: 50%; transform: translateX(-50%); display: flex; gap: 6px; font-size: 10.5px; color: var(--soft-ink); white-space: nowrap; background: color-mix(in srgb, var(--paper) 80%, transparent); border-radius: 4px; padding: 0 3px; }
.times em { font-style: normal; font-weight: 650; color: var(--ink); }
.event :deep(.vue-flow__handle) { opacity: 0; }
</style>
