<script setup lang="ts">
import { Handle, Position } from '@vue-flow/core'
import type { BoxWords } from './mapNode.ts'

defineProps<{ data: BoxWords & { state: 'lit' | 'faded' | 'loop' | ''; isSelected: boolean } }>()
</script>

<template>
  <div
    class="box"
    :class="[data.ink, data.state, { selected: data.isSelected, group: data.count > 0, path: data.onPath }]"
    :title="`${data.code} ${data.name}`"
  >
    <Handle id="start" type="source" :position="Position.Left" title="Start: drag from or to here" />
    <i class="ink" aria-hidden="true" />
    <p class="head">
      <span class="code">{{ data.code }}</span><span
        class="float"
        :class="{ short: data.float.startsWith('−') || data.float.startsWith('≈−') }"
        >{{ data.float }}</span
      >
    </p>
    <p class="name">{{ data.name }}</p>
    <p class="foot">
      <span>{{ data.count > 0 ? `${data.count} activities` : data.duration }}</span><span>{{
        data.dates
      }}</span>
    </p>
    <Handle id="finish" type="source" :position="Position.Right" title="Finish: drag from or to here" />
  </div>
</template>

<style scoped>
.box {
  position: relative;
  width: 184px;
  height: 62px;
  padding: 4px 10px 4px 18px;
  background: var(--raised);
  border: 1.5px solid var(--line);
  border-radius: 9px;
  color: var(--ink);
  font-size: 12px;
  line-height: 17px;
}
.box.path {
  border-color: var(--ink);
  border-width: 2px;
  padding: 3.5px 9.5px 3.5px 17.5px;
}
.ink {
  position: absolute;
  left: 5px;
  top: 7px;
  bottom: 7px;
  width: 7px;
  border: 1.5px solid var(--ink);
  border-radius: 4px;
}
.solid .ink,
.short .ink {
  background: var(--ink);
}
.hatch .ink {
  background: repeating-linear-gradient(45deg, var(--ink) 0 2.5px, var(--raised) 2.5px 5px);
}
.stone .ink {
  background: var(--stone);
  border-color: var(--line);
}
.short .ink::after {
  content: '';
  position: absolute;
  left: -3px;
  top: 12px;
  border: 5px solid transparent;
  border-left: 8px solid var(--signal);
}
.box p {
  display: flex;
  justify-content: space-between;
  gap: 6px;
  margin: 0;
  white-space: nowrap;
}
.code {
  color: var(--soft-ink);
}
.name {
  font-weight: 600;
  font-size: 12.5px;
  overflow: hidden;
  text-overflow: ellipsis;
  display: block !important;
}
.foot {
  color: var(--soft-ink);
  font-size: 11.5px;
}
.float {
  font-weight: 600;
}
.float.short {
  color: var(--signal-text);
}
.box.group {
  box-shadow:
    3px 3px 0 -0.5px var(--raised),
    3px 3px 0 1px var(--line);
}
.box.selected {
  outline: 3px solid var(--signal);
  outline-offset: 2px;
}
.box.lit {
  border-color: var(--fjord);
}
/* Stands back without fading: what it says is still read. */
.box.faded {
  background: var(--paper);
  border-color: var(--hairline);
}
.box.faded .ink {
  opacity: 0.3;
}
.box.faded .name,
.box.faded .float {
  font-weight: 400;
}
.box.faded .name {
  color: var(--soft-ink);
}
.box.loop {
  border: 2.5px solid var(--brick);
}
.far .name,
.far .foot,
.far .float {
  display: none !important;
}
.far .head {
  height: 100%;
  align-items: center;
  justify-content: center;
}
.far .code {
  font-size: var(--word);
  color: var(--ink);
}
.box :deep(.vue-flow__handle) {
  width: 12px;
  height: 24px;
  background: transparent;
  border: 0;
  border-radius: 6px;
  min-width: 0;
  min-height: 0;
}
.box :deep(.vue-flow__handle::after) {
  content: '';
  position: absolute;
  left: 3px;
  top: 9px;
  width: 6px;
  height: 6px;
  border-radius: 50%;
  background: var(--ink);
  opacity: 0;
}
.box:hover :deep(.vue-flow__handle::after),
.box :deep(.vue-flow__handle.connecting::after) {
  opacity: 1;
}
</style>
