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
  /** Whether its heads stand over a line and its rows between hairlines, across the whole sheet. */
  ruled?: boolean
}>()
const table = useTemplateRef<InstanceType<typeof NTable>>('table')
const rows = (): TableRows => props.whole?.() ?? shownTable(table.value!.$el as HTMLTableElement)
</script>

<template>
  <NTable
    ref="table"
    class="fact-table"
    :class="{ ruled }"
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
.ruled {
  width: 100%;
  margin-top: 10px;
}
:slotted(th.right) {
  text-align: right;
}
:where(.ruled) :slotted(th) {
  text-align: left;
  font-weight: 400;
  font-size: 12px;
  color: var(--soft-ink);
  border-bottom: 1.5px solid var(--ink);
  padding: 6px 8px;
}
:where(.ruled) :slotted(th.right) {
  text-align: right;
}
:where(.ruled) :slotted(td) {
  padding: 4px 8px;
  border-bottom: 1px solid var(--hairline);
  vertical-align: baseline;
}
:where(.ruled) :slotted(td.right) {
  white-space: nowrap;
}
</style>
