<script setup lang="ts">
import { NConfigProvider } from 'naive-ui'
import { computed, watchEffect } from 'vue'
import { naiveTheme } from './theme/naiveTheme.ts'
import { cssVariables } from './theme/tokens.ts'
import { useUiStore } from './stores/uiStore.ts'

const ui = useUiStore()
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
    <RouterView />
  </NConfigProvider>
</template>
