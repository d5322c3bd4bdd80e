<script setup lang="ts">
import { Handle, Position } from '@vue-flow/core'

defineProps<{
  data: {
    number: number
    name: string
    early: string
    late: string
    slack: string
    critical: boolean
    faded: boolean
    chosen: boolean
    title: string
    pick: () => void
    show: () => void
  }
}>()
</script>

<template>
  <div class="event" :class="{ critical: data.critical, faded: data.faded, chosen: data.chosen }">
    <Handle id="in" type="target" :position="Position.Left" :connectable="false" />
    <button
      class="plain code"
      :title="data.title"
      :aria-label="data.title"
      :aria-pressed="data.chosen"
      @click.stop="data.pick()"
      @focus="data.show()"
    >
      {{ data.number }}
    </button>
    <Handle id="out" type="source" :position="Position.Right" :connectable="false" />
    <p v-if="data.name" class="words name">{{ data.name }}</p>
    <p class="words times">
      <span>{{ data.early }}</span><span>{{ data.late }}</span
      ><em v-if="data.slack">{{ data.slack }}</em>
    </p>
  </div>
</template>

<style scoped>
.event {
  position: relative;
  width: 40px;
  height: 40px;
  border: 1.5px solid var(--line);
  border-radius: 50%;
  background: var(--raised);
  color: var(--ink);
}
.event button {
  width: 100%;
  height: 100%;
  border-radius: 50%;
  font-size: 12px;
  font-weight: 600;
  text-align: center;
  cursor: pointer;
}
.event.critical {
  border: 2.5px solid var(--ink);
}
.event.chosen {
  background: var(--wash);
  box-shadow: 0 0 0 3px var(--signal);
}
/* Stands back without fading: what it says is still read. */
.event.faded {
  background: var(--paper);
  border: 1.5px solid var(--hairline);
  color: var(--soft-ink);
}
.event.faded .name,
.event.faded em {
  color: var(--soft-ink);
  font-weight: 400;
}
.words {
  position: absolute;
  left: 50%;
  transform: translateX(-50%);
  white-space: nowrap;
  background: color-mix(in srgb, var(--paper) 80%, transparent);
  border-radius: 4px;
  padding: 0 3px;
}
.times {
  top: 42px;
  display: flex;
  gap: 6px;
  font-size: 10.5px;
  color: var(--soft-ink);
}
.times em {
  font-style: normal;
  font-weight: 650;
  color: var(--ink);
}
.name {
  bottom: 42px;
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 11.5px;
  font-weight: 600;
}
.far .times {
  display: none;
}
.far .name {
  font-size: var(--word);
  max-width: 420px;
}
.far .event button {
  font-size: min(var(--word), 19px);
}
.event :deep(.vue-flow__handle) {
  opacity: 0;
}
</style>
