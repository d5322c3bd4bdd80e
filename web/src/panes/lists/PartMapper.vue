<script setup lang="ts">
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
const rows = computed(() => props.cells.slice(props.headRow + 1, props.headRow + 1 + PREVIEW))
const partOf = (c: number): string => props.parts.find(([part]) => props.chosen[part] === c)?.[0] ?? ''
</script>

<template>
  <div>
    <p class="parts">
      <label v-for="[part, title] in parts" :key="part"
        >{{ title }}
        <select
          :aria-label="title"
          :value="chosen[part]"
          @change="emit('choose', part, Number(($event.target as HTMLSelectElement).value))"
        >
          <option :value="-1">no column</option>
          <option v-for="(words, c) in head" :key="c" :value="c">{{ words || `column ${c + 1}` }}</option>
        </select>
      </label>
    </p>
    <div class="scroll" tabindex="0" role="region" aria-label="First rows of the sheet">
      <table>
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
      </table>
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
.parts label {
  display: flex;
  flex-direction: column;
  font-weight: 600;
}
.parts select {
  border: 1.5px solid var(--line);
  border-radius: 6px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 400;
  height: 30px;
  min-width: 130px;
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
