<script setup lang="ts">
import { X } from '@lucide/vue'
import ActButton from './controls/ActButton.vue'
import IconButton from './controls/IconButton.vue'
import { NConfigProvider } from 'naive-ui'
import { computed, watchEffect } from 'vue'
import { naiveTheme } from './theme/naiveTheme.ts'
import { cssVariables } from './theme/tokens.ts'
import { forgetTrouble, trouble } from './composables/trouble.ts'
import { useUiStore } from './stores/uiStore.ts'

const ui = useUiStore()
const reload = (): void => window.location.reload()
const overrides = computed(() => naiveTheme(ui.tokens))
watchEffect(() => {
  const { style, dataset } = document.documentElement
  for (const [name, value] of Object.entries(cssVariables(ui.tokens))) style.setProperty(name, value)
  style.colorScheme = ui.theme === 'dusk' ? 'dark' : 'light'
  dataset.theme = ui.theme
})
</script>

<template>
  <NConfigProvider :theme-overrides="overrides" style="height: 100%">
    <p v-if="trouble" class="trouble" role="alert">
      {{ trouble }} <ActButton kind="noun" @click="reload">Load the page anew</ActButton>
      <IconButton :icon="X" label="Put this away" @click="forgetTrouble" />
    </p>
    <RouterView />
  </NConfigProvider>
</template>

<style scoped>
.trouble {
  position: fixed;
  inset: 0 0 auto;
  z-index: 40;
  margin: 0;
  padding: 8px 18px;
  background: var(--wash);
  color: var(--brick);
  border-bottom: 1.5px solid var(--brick);
  font-weight: 600;
}
</style>
