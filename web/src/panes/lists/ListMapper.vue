<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import {
  counted,
  FIELD_WORDS,
  guessMapping,
  headsOf,
  type Cells,
  type ListField,
  type ListMapping,
  type SheetReading,
} from '@geodrome/core'
import { useSheetMappings } from '../../stores/sheetMappings.ts'
import type { SheetManner } from './useListReading.ts'

/** What each column of a sheet holds, said by looking; `reading` is what was understood of it that way. */
const props = defineProps<{ cells: Cells; reading: SheetReading | null; isReading: boolean }>()
const emit = defineEmits<{ manner: [manner: SheetManner] }>()

const mappings = useSheetMappings()
const mapping = ref<ListMapping>(guessMapping(props.cells))
/** Whose list was read in the way that this one is; null where it was looked at alone. */
const rememberedOf = ref<string | null>(null)
const badRows = ref<'leave-out' | 'without-cell'>('leave-out')

/** Once a column was said by hand, nothing that comes in later is put over it. */
let isSaid = false
const recall = (): void => {
  const guess = guessMapping(props.cells)
  const known = mappings.of(headsOf(props.cells, guess))
  const kept = known?.mapping as unknown as ListMapping | undefined
  const fits = Array.isArray(kept?.fields) && kept.fields.length === guess.fields.length
  rememberedOf.value = fits ? known!.sender : null
  mapping.value = fits ? kept! : guess
}
watch(
  () => props.cells,
  () => {
    isSaid = false
    recall()
  },
  { immediate: true },
)
/** Columns said before the sender was are that sender’s from then on. */
watch(
  () => mappings.sender,
  () => (isSaid ? mappings.keep(headsOf(props.cells, mapping.value), { ...mapping.value }) : recall()),
)
void mappings.load().then(() => {
  if (!isSaid) recall()
})
const NOTHING: SheetReading = { added: 0, updated: 0, links: 0, groups: 0, problems: [] }
const reading = computed(() => props.reading ?? NOTHING)
watch(
  [mapping, badRows],
  () =>
    emit('manner', {
      mapping: { ...mapping.value, fields: [...mapping.value.fields] },
      badRows: badRows.value,
    }),
  { immediate: true },
)

const set = (fields: Partial<ListMapping>): void => {
  mapping.value = { ...mapping.value, ...fields }
  isSaid = true
  mappings.keep(headsOf(props.cells, mapping.value), { ...mapping.value })
}
/** A field belongs to one column, but for tags. */
const setField = (column: number, field: ListField): void =>
  set({
    fields: mapping.value.fields.map((old, c) =>
      c === column ? field : field !== 'tag' && field !== 'leave-out' && old === field ? 'leave-out' : old,
    ),
  })

const PREVIEW = 40
const head = computed(() => (mapping.value.headRow >= 0 ? props.cells[mapping.value.headRow]! : []))
const body = computed(() => props.cells.slice(mapping.value.headRow + 1, mapping.value.headRow + 1 + PREVIEW))
const badCells = computed(() => new Map(reading.value.problems.map((p) => [`${p.row}|${p.column}`, p.why])))
const badRow = computed(() => new Set(reading.value.problems.map((p) => p.row)))
const leftOut = computed(() =>
  mapping.value.fields.flatMap((field, c) =>
    field === 'leave-out' ? [head.value[c] || `column ${c + 1}`] : [],
  ),
)
const rowNumber = (k: number): number => mapping.value.headRow + 2 + k
const FIELDS = Object.entries(FIELD_WORDS) as [ListField, string][]
</script>

<template>
  <div class="mapper">
    <p class="settings">
      <label
        >Heads in row
        <input
          type="number"
          min="0"
          :max="cells.length"
          :value="mapping.headRow + 1"
          @change="set({ headRow: Number(($event.target as HTMLInputElement).value) - 1 })"
      /></label>
      <label
        >A bare number is
        <select
          :value="mapping.unit"
          @change="set({ unit: ($event.target as HTMLSelectElement).value as 'day' })"
        >
          <option value="day">days</option>
          <option value="hour">hours</option>
          <option value="minute">minutes</option>
          <option value="week">weeks</option>
        </select>
      </label>
      <label
        >3/4/2027 is
        <select
          :value="mapping.dayFirst ? 'day' : 'month'"
          @change="set({ dayFirst: ($event.target as HTMLSelectElement).value === 'day' })"
        >
          <option value="day">3 April</option>
          <option value="month">4 March</option>
        </select>
      </label>
      <span v-if="rememberedOf !== null" class="soft"
        >Columns as the last list with these heads{{ rememberedOf ? ` from ${rememberedOf}` : '' }} was
        read.</span
      >
    </p>
    <div class="table scroll" tabindex="0" role="region" aria-label="Preview of the list">
      <table>
        <thead>
          <tr>
            <th scope="col">Row</th>
            <th
              v-for="(field, c) in mapping.fields"
              :key="c"
              scope="col"
              :class="{ out: field === 'leave-out' }"
            >
              <select
                :value="field"
                :aria-label="`What column ${c + 1} holds, ${head[c] ?? ''}`"
                @change="setField(c, ($event.target as HTMLSelectElement).value as ListField)"
              >
                <option v-for="[id, words] in FIELDS" :key="id" :value="id">{{ words }}</option>
              </select>
              <small>{{ head[c] }}</small>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, k) in body" :key="k" :class="{ bad: badRow.has(rowNumber(k)) }">
            <td class="soft">{{ rowNumber(k) }}</td>
            <td
              v-for="(field, c) in mapping.fields"
              :key="c"
              :class="{ out: field === 'leave-out', wrong: badCells.has(`${rowNumber(k)}|${c}`) }"
              :title="badCells.get(`${rowNumber(k)}|${c}`)"
            >
              {{ row[c] }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="cells.length - mapping.headRow - 1 > PREVIEW" class="soft more">
        and {{ cells.length - mapping.headRow - 1 - PREVIEW }} more rows, read in the same way
      </p>
    </div>
    <p class="sum" role="status" data-test="list-sum">
      <span v-if="isReading">Reading {{ cells.length }} rows …</span>
      <strong v-else
        >{{ reading.added }} new, {{ reading.updated }} changed, {{ counted(reading.links, 'link')
        }}<template v-if="reading.groups > 0">, {{ counted(reading.groups, 'group') }}</template
        >.</strong
      >
      <span v-if="leftOut.length > 0" class="soft"> Not taken: {{ leftOut.join(', ') }}.</span>
    </p>
    <section v-if="reading.problems.length > 0" class="problems" data-test="list-problems">
      <h3>
        {{ reading.problems.length }} {{ reading.problems.length === 1 ? 'thing is' : 'things are' }} not
        understood
      </h3>
      <p>
        <label><input v-model="badRows" type="radio" value="leave-out" /> leave these rows out</label>
        <label
          ><input v-model="badRows" type="radio" value="without-cell" /> take the rows without what is not
          understood</label
        >
      </p>
      <ol class="scroll" tabindex="0">
        <li v-for="(problem, k) in reading.problems.slice(0, 300)" :key="k">
          row {{ problem.row }}: {{ problem.why }}
        </li>
        <li v-if="reading.problems.length > 300">and {{ reading.problems.length - 300 }} more</li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.mapper {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  flex: 1;
}
.settings {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
}
.settings input {
  width: 56px;
}
.settings select,
.settings input {
  border: 1.5px solid var(--line);
  border-radius: 6px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  padding: 2px 6px;
  height: 28px;
}
.table {
  flex: 1;
  min-height: 120px;
  border: 1px solid var(--hairline);
  border-radius: 8px;
  background: var(--raised);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  position: sticky;
  top: 0;
  background: var(--paper);
  text-align: left;
  padding: 4px;
  vertical-align: top;
  border-bottom: 1px solid var(--line);
  font-weight: 400;
}
th select {
  width: 100%;
  min-width: 92px;
  border: 1.5px solid var(--ink);
  border-radius: 6px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 600;
  height: 28px;
}
th.out select {
  border-color: var(--hairline);
  color: var(--soft-ink);
  font-weight: 400;
}
th small {
  display: block;
  color: var(--soft-ink);
  padding: 1px 4px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 160px;
}
td {
  padding: 3px 8px;
  border-bottom: 1px solid var(--hairline);
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
td.out {
  color: var(--soft-ink);
}
tr.bad td {
  background: var(--wash);
}
td.wrong {
  color: var(--brick);
  font-weight: 650;
  text-decoration: underline wavy;
  text-underline-offset: 3px;
}
.more {
  padding: 6px 10px;
}
.problems ol {
  max-height: 130px;
  margin: 6px 0 0;
  padding-left: 24px;
}
.problems label {
  margin-right: 18px;
}
.problems h3 {
  color: var(--signal-text);
}
</style>
