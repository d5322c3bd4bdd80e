<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  availableWords,
  cellsOf,
  counted,
  priceWords,
  readResourceTable,
  type Resource,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** A list of resources from a sheet: pasted, understood row by row, and taken in as one change. */
const emit = defineEmits<{ close: [] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const text = ref('')
const table = computed(() =>
  text.value.trim() === '' ? null : readResourceTable(plans.plan!, cellsOf(text.value), Math.random),
)
const count = computed(() => (table.value?.change.kind === 'all' ? table.value.change.changes.length : 0))
const rows = computed(() =>
  (table.value?.rows ?? []).map(({ row, fields, known }) => {
    const now = {
      code: '',
      name: '',
      kind: 'people',
      price: 0,
      per: 'hour',
      available: [],
      ...known,
      ...fields,
    } as unknown as Resource
    return {
      row,
      name: [now.code, now.name].filter(Boolean).join(' '),
      kind: now.kind,
      price: priceWords(now, plans.plan!.project.currency),
      available: now.kind === 'people' || now.kind === 'plant' ? availableWords(now) : '',
      does: known === null ? 'new' : `changes ${known.code || known.name}`,
    }
  }),
)
const take = (): void => {
  if (table.value && attempt(() => plans.edit(table.value!.change))) emit('close')
}
</script>

<template>
  <section class="paste" aria-label="Resources from a sheet">
    <h1>Resources from a sheet</h1>
    <p class="soft">
      Copy the rows in the sheet and paste them here: names, kinds, prices, how many there are, in any order
      under their headings. Who is known by code or name is changed, the others are added.
    </p>
    <TextField
      v-model="text"
      :rows="7"
      label="Rows of the sheet"
      placeholder="Name	Rate	Available
Welders	52/h	4, 6 from 10 may"
      data-test="resource-rows"
    />
    <template v-if="table">
      <p v-if="table.unread.length > 0" class="soft">Not read: {{ table.unread.join(', ') }}</p>
      <ul v-if="table.problems.length > 0" class="brick" role="alert">
        <li v-for="one in table.problems.slice(0, 12)" :key="one.row">
          Row {{ one.row }} is left out: {{ one.why }}
        </li>
        <li v-if="table.problems.length > 12">and {{ table.problems.length - 12 }} more</li>
      </ul>
      <FactTable v-if="rows.length > 0" class="table">
        <thead>
          <tr>
            <th>Resource</th>
            <th>Kind</th>
            <th>Price</th>
            <th>There are</th>
            <th>What happens</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.row">
            <td>{{ row.name }}</td>
            <td>{{ row.kind }}</td>
            <td>{{ row.price }}</td>
            <td>{{ row.available }}</td>
            <td>{{ row.does }}</td>
          </tr>
        </tbody>
      </FactTable>
    </template>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p class="actions">
      <ActButton kind="primary" :disabled="count === 0" data-test="take-resources" @click="take">{{
        count === 0 ? 'Nothing to take' : `Take ${counted(count, 'resource')}`
      }}</ActButton>
      <ActButton @click="emit('close')">Leave it</ActButton>
    </p>
  </section>
</template>

<style scoped>
.paste {
  padding: 12px 18px 30px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  max-width: 820px;
}
.actions {
  display: flex;
  gap: 8px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
.table :is(th, td) {
  padding: 3px 12px 3px 0;
}
</style>
