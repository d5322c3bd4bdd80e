<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed } from 'vue'
import { offeredCommands, type CommandPlace } from '../commands/registry.ts'
import ActButton from '../controls/ActButton.vue'
import { useUiStore } from '../stores/uiStore.ts'

const ui = useUiStore()
onKeyStroke('Escape', () => (ui.shortcutsOpen = false))
/** What can be done by keys where one is now, by place. */
const places = computed(() => {
  const by = new Map<CommandPlace, { keys: string; does: string }[]>()
  if (!ui.shortcutsOpen) return by
  for (const { keys, label, place } of offeredCommands()) {
    if (keys.length === 0) continue
    const lines = by.get(place) ?? []
    lines.push({ keys: keys[0]!, does: label })
    by.set(place, lines)
  }
  return by
})
</script>

<template>
  <aside v-if="ui.shortcutsOpen" class="sheet" aria-label="Shortcuts">
    <h2>Keys</h2>
    <div class="places">
      <section v-for="[place, lines] in places" :key="place">
        <h3>{{ place }}</h3>
        <dl>
          <template v-for="line in lines" :key="line.keys">
            <dt class="code">{{ line.keys }}</dt>
            <dd>{{ line.does }}</dd>
          </template>
        </dl>
      </section>
    </div>
    <ActButton @click="ui.shortcutsOpen = false">Close</ActButton>
  </aside>
</template>

<style scoped>
.sheet {
  position: fixed;
  right: 18px;
  bottom: 44px;
  width: min(820px, calc(100vw - 150px));
  max-height: calc(100vh - 110px);
  overflow: auto;
  background: var(--raised);
  border: 1.5px solid var(--ink);
  border-radius: 10px;
  padding: 16px 18px;
  z-index: 20;
}
.places {
  columns: 2;
  column-gap: 28px;
  margin-top: 6px;
}
h3 {
  margin: 4px 0;
  break-after: avoid;
}
dl {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 3px 10px;
  margin: 0 0 10px;
}
dd {
  margin: 0;
}
</style>
