<script setup lang="ts">
import { optionsOf } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import NumberField from '../../controls/NumberField.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import FactTable from '../../controls/FactTable.vue'
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
const NOTHING: SheetReading = {
  added: 0,
  updated: 0,
  links: 0,
  groups: 0,
  resources: [],
  assignments: 0,
  problems: [],
}
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
const fieldOptions = optionsOf(Object.entries(FIELD_WORDS) as [ListField, string][])
const UNITS = optionsOf<ListMapping['unit']>([
  ['day', 'days'],
  ['hour', 'hours'],
  ['minute', 'minutes'],
  ['week', 'weeks'],
])
const DAY_ORDERS = optionsOf<'day' | 'month'>([
  ['day', '3 April'],
  ['month', '4 March'],
])
const BAD_ROWS = optionsOf<'leave-out' | 'without-cell'>([
  ['leave-out', 'leave these rows out'],
  ['without-cell', 'take the rows without what is not understood'],
])
</script>

<template>
  <div class="mapper">
    <div class="settings">
      <div class="field">
        Headings in row
        <NumberField
          label="Heads in row"
          :min="0"
          :max="cells.length"
          :model-value="mapping.headRow + 1"
          @update:model-value="set({ headRow: $event - 1 })"
        />
      </div>
      <div class="field">
        A bare number is
        <ChoiceField
          label="A bare number is"
          :model-value="mapping.unit"
          :options="UNITS"
          @update:model-value="set({ unit: $event })"
        />
      </div>
      <div class="field">
        3/4/2027 is
        <ChoiceField
          label="3/4/2027 is"
          :model-value="mapping.dayFirst ? 'day' : 'month'"
          :options="DAY_ORDERS"
          @update:model-value="set({ dayFirst: $event === 'day' })"
        />
      </div>
      <span v-if="rememberedOf !== null" class="soft"
        >Columns as the last list with these headings{{ rememberedOf ? ` from ${rememberedOf}` : '' }} was
        read.</span
      >
    </div>
    <div class="table scroll" tabindex="0" role="region" aria-label="Preview of the list">
      <FactTable>
        <thead>
          <tr>
            <th scope="col">Row</th>
            <th
              v-for="(field, c) in mapping.fields"
              :key="c"
              scope="col"
              :class="{ out: field === 'leave-out' }"
            >
              <ChoiceField
                :label="`What column ${c + 1} holds, ${head[c] ?? ''}`"
                :model-value="field"
                :options="fieldOptions"
                @update:model-value="setField(c, $event)"
              />
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
      </FactTable>
      <p v-if="cells.length - mapping.headRow - 1 > PREVIEW" class="soft more">
        and {{ cells.length - mapping.headRow - 1 - PREVIEW }} more rows, read in the same way
      </p>
    </div>
    <p class="sum" role="status" data-test="list-sum">
      <span v-if="isReading">Reading {{ cells.length }} rows …</span>
      <strong v-else
        >{{ reading.added }} new, {{ reading.updated }} changed, {{ counted(reading.links, 'link')
        }}<template v-if="reading.groups > 0">, {{ counted(reading.groups, 'group') }}</template
        ><template v-if="reading.assignments > 0">, {{ counted(reading.assignments, 'assignment') }}</template
        >.</strong
      >
      <span v-if="reading.resources.length > 0" class="signal" data-test="list-resources">
        {{ reading.resources.length === 1 ? 'A new resource' : `${reading.resources.length} new resources` }},
        without a price: {{ reading.resources.slice(0, 12).join(', ')
        }}{{ reading.resources.length > 12 ? ' …' : '' }}.</span
      >
      <span v-if="leftOut.length > 0" class="soft"> Not taken: {{ leftOut.join(', ') }}.</span>
    </p>
    <section v-if="reading.problems.length > 0" class="problems" data-test="list-problems">
      <h3>
        {{ reading.problems.length }} {{ reading.problems.length === 1 ? 'thing is' : 'things are' }} not
        understood
      </h3>
      <RadioChoice v-model="badRows" label="Rows that are not understood" :options="BAD_ROWS" />
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
.settings .field {
  display: flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
.settings .choice-field {
  width: 110px;
}
.problems h3 {
  color: var(--signal-text);
}
.settings .number-field {
  width: 64px;
}
th .choice-field {
  min-width: 112px;
}
</style>
