<script setup lang="ts">
import { NTable } from 'naive-ui'
import { useTemplateRef } from 'vue'
import { shownTable, type TableRows } from '../saving/shownTable.ts'
import SaveAs from './SaveAs.vue'

/** A table of facts, its rows and heads written where it stands; one with a name can be saved as a file, as it stands. */
const props = defineProps<{
  /** What it is called, on its file too. */
  name?: string
  /** All of its rows, where only a part is shown. */
  whole?: () => TableRows
}>()
const table = useTemplateRef<InstanceType<typeof NTable>>('table')
const rows = (): TableRows => props.whole?.() ?? shownTable(table.value!.$el as HTMLTableElement)
</script>

<template>
  <NTable
    ref="table"
    class="fact-table"
    size="small"
    :bordered="false"
    :single-line="true"
    :aria-label="name"
  >
    <caption v-if="name">
      <SaveAs :name="name" :table="rows" />
    </caption>
    <slot />
  </NTable>
</template>

<style scoped>
caption {
  caption-side: bottom;
  text-align: left;
  padding: 4px 8px;
}
</style>
