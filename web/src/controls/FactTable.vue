<script setup lang="ts">
import { NTable } from 'naive-ui'

/** A table of facts, its rows and heads written where it stands. */
</script>

<template>
  <NTable class="fact-table" size="small" :bordered="false" :single-line="true">
    <slot />
  </NTable>
</template>
