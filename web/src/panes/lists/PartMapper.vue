<script setup lang="ts">
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import { computed } from 'vue'
import type { Cells } from '@geodrome/core'

/** Says which column of a sheet holds which part, with the rows under it to look at. */
const props = defineProps<{
  cells: Cells
  headRow: number
  parts: readonly (readonly [part: string, title: string])[]
  chosen: Readonly<Record<string, number>>
}>()
const emit = defineEmits<{ choose: [part: string, column: number] }>()

const PREVIEW = 8
const head = computed(() => props.cells[props.headRow] ?? [])
const columnOptions = computed(() => [
  { value: -1, label: 'no column' },
  ...head.value.map((words, c) => ({ value: c, label: words || `column ${c + 1}` })),
])
const rows = computed(() => props.cells.slice(props.headRow + 1, props.headRow + 1 + PREVIEW))
const partOf = (c: number): string => props.parts.find(([part]) => props.chosen[part] === c)?.[0] ?? ''
</script>

<template>
  <div>
    <div class="parts">
      <div v-for="[part, title] in parts" :key="part" class="field">
        {{ title }}
        <ChoiceField
          :label="title"
          :model-value="chosen[part]!"
          :options="columnOptions"
          @update:model-value="emit('choose', part, $event)"
        />
      </div>
    </div>
    <div class="scroll" tabindex="0" role="region" aria-label="First rows of the sheet">
      <FactTable>
        <thead>
          <tr>
            <th v-for="(words, c) in head" :key="c" :class="{ out: partOf(c) === '' }">
              {{ words || `column ${c + 1}` }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, k) in rows" :key="k">
            <td v-for="(_, c) in head" :key="c" :class="{ out: partOf(c) === '' }">{{ row[c] }}</td>
          </tr>
        </tbody>
      </FactTable>
      <p v-if="cells.length - headRow - 1 > PREVIEW" class="soft">
        and {{ cells.length - headRow - 1 - PREVIEW }} more rows
      </p>
    </div>
  </div>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  margin-bottom: 10px;
}
.parts .field {
  display: flex;
  flex-direction: column;
  font-weight: 600;
}
.scroll {
  border: 1px solid var(--hairline);
  border-radius: 8px;
  background: var(--raised);
  overflow: auto;
  max-height: 280px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 4px 10px;
  border-bottom: 1px solid var(--hairline);
  white-space: nowrap;
  max-width: 320px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.out {
  color: var(--soft-ink);
  font-weight: 400;
}
.scroll p {
  padding: 6px 10px;
}
</style>
