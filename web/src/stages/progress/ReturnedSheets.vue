<script setup lang="ts">
import { computed, shallowRef } from 'vue'
import { cellsOf, counted, readReturned, type Answer, type ReturnedSheets } from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import FilePick from '../../controls/FilePick.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { returnedAnswers } from './returnedAnswers.ts'

/** Update sheets that were sent out and come back: read line by line, what is sound becomes answers of the update. */
const props = defineProps<{ status: number; calendars: CalendarLookup }>()
const emit = defineEmits<{ take: [answers: readonly { readonly id: string; readonly answer: Answer }[]] }>()
const plans = usePlanStore()
const found = shallowRef<ReturnedSheets | null>(null)
const name = shallowRef('')
const failure = shallowRef('')
const open = async (file: File): Promise<void> => {
  failure.value = ''
  found.value = null
  name.value = file.name
  try {
    const sheets = /\.xlsx$/i.test(file.name)
      ? await api.readWorkbook(file)
      : [{ name: file.name, rows: cellsOf(await file.text()).map((row) => [...row]) }]
    found.value = readReturned(sheets)
  } catch (error) {
    failure.value = (error as Error).message
  }
}
const read = computed(
  () =>
    found.value &&
    returnedAnswers(plans.viewPlan!, plans.view!, props.calendars, props.status, found.value.lines),
)
const take = (): void => {
  emit(
    'take',
    read.value!.taken.map(({ activity, answer }) => ({ id: activity.id, answer })),
  )
  found.value = null
}
defineExpose({ isOpen: computed(() => found.value !== null) })
</script>

<template>
  <div class="returned">
    <FilePick accept=".xlsx,.csv,.tsv,.txt" label="A sheet that came back" test="returned-file" @pick="open">
      <ActButton>Take in a sheet that came back</ActButton>
    </FilePick>
    <p v-if="failure" class="brick" role="alert">{{ name }}: {{ failure }}</p>
    <section v-if="found && read" aria-label="What came back" data-test="returned">
      <h3>
        {{ name }}: {{ counted(read.taken.length, 'line') }}
        {{ read.taken.length === 1 ? 'says' : 'say' }} something new<template v-if="read.silent > 0"
          >, {{ read.silent }} nothing</template
        >
      </h3>
      <FactTable v-if="read.taken.length > 0">
        <tbody>
          <tr v-for="one in read.taken" :key="one.activity.id">
            <td class="soft">{{ one.line.sheet }}, row {{ one.line.row }}</td>
            <td>
              <span class="code">{{ one.activity.code }}</span> {{ one.activity.name }}
            </td>
            <td>
              <strong>{{ one.words }}</strong>
            </td>
            <td class="signal">{{ one.since }}</td>
          </tr>
        </tbody>
      </FactTable>
      <template v-if="read.refused.length + found.unread.length > 0">
        <h3>Not understood</h3>
        <ul data-test="returned-problems">
          <li v-for="one in found.unread" :key="one.sheet">{{ one.sheet }}: {{ one.why }}</li>
          <li v-for="(one, k) in read.refused" :key="k">
            {{ one.line.sheet }}, row {{ one.line.row }}: {{ one.why }}
          </li>
        </ul>
      </template>
      <p class="acts">
        <ActButton kind="primary" :disabled="read.taken.length === 0" data-test="take-returned" @click="take">
          {{ read.taken.length === 1 ? 'Take this answer' : `Take these ${read.taken.length} answers` }}
        </ActButton>
        <ActButton @click="found = null">Leave it</ActButton>
      </p>
    </section>
  </div>
</template>

<style scoped>
.returned section {
  margin-top: 8px;
  padding: 10px 14px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--raised);
}
.acts {
  display: flex;
  gap: 10px;
  padding-top: 8px;
}
:deep(td) {
  padding: 3px 14px 3px 0;
  vertical-align: top;
}
</style>
