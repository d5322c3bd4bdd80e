<script setup lang="ts">
import ActButton from '../controls/ActButton.vue'
import { onKeyStroke } from '@vueuse/core'
import { useUiStore } from '../stores/uiStore.ts'
import { SHORTCUTS } from './useGlobalKeys.ts'
const ui = useUiStore()
onKeyStroke('Escape', () => (ui.shortcutsOpen = false))
</script>

<template>
  <aside v-if="ui.shortcutsOpen" class="sheet" aria-label="Shortcuts">
    <h2>Keys</h2>
    <dl>
      <template v-for="[keys, does] in SHORTCUTS" :key="keys">
        <dt class="code">{{ keys }}</dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
    <ActButton @click="ui.shortcutsOpen = false">Close</ActButton>
  </aside>
</template>

<style scoped>
.sheet {
  position: fixed;
  right: 18px;
  bottom: 44px;
  width: 440px;
  max-height: calc(100vh - 110px);
  overflow: auto;
  background: var(--raised);
  border: 1.5px solid var(--ink);
  border-radius: 10px;
  padding: 16px 18px;
  z-index: 20;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 10px;
  margin: 10px 0 12px;
}
dd {
  margin: 0;
}
</style>
