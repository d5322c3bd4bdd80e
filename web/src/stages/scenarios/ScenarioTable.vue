<script setup lang="ts">
import { computed } from 'vue'
import { sideBySide, type Plan } from '@geodrome/core'
import FactTable from '../../controls/FactTable.vue'
import type { Shown } from './shown.ts'

/** Everything that the plan and its alternatives are compared by, one column each. */
const props = defineProps<{ plan: Plan; shown: readonly Shown[]; chosen: string | null }>()
const rows = computed(() => sideBySide(props.plan, props.shown))
</script>

<template>
  <FactTable class="side-by-side" name="Scenarios side by side" data-test="side-by-side">
    <thead>
      <tr>
        <td />
        <th
          v-for="one in shown"
          :key="one.id ?? 'plan'"
          scope="col"
          :class="{ chosen: one.id !== null && one.id === chosen }"
        >
          <span :style="{ color: one.colour }" aria-hidden="true">{{ one.mark }}</span> {{ one.name }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.key">
        <th scope="row">{{ row.name }}</th>
        <td
          v-for="(one, k) in shown"
          :key="one.id ?? 'plan'"
          :class="{ chosen: one.id !== null && one.id === chosen }"
          :data-test="
            one.id === null ? `plan-${row.key}` : one.id === chosen ? `scenario-${row.key}` : undefined
          "
        >
          {{ one.undated ? (row.key === 'finish' ? 'no dates' : '') : row.words[k] }}
        </td>
      </tr>
    </tbody>
  </FactTable>
</template>

<style scoped>
.side-by-side {
  table-layout: fixed;
}
.side-by-side thead td {
  width: 205px;
}
.side-by-side th,
.side-by-side td {
  padding: 2px 10px;
  line-height: 1.3;
  text-align: right;
}
.side-by-side th[scope='row'] {
  text-align: left;
  font-weight: 400;
  color: var(--soft-ink);
  padding-left: 0;
  white-space: nowrap;
}
.side-by-side thead th {
  white-space: normal;
  vertical-align: bottom;
  border-bottom: 1.5px solid var(--ink);
}
.side-by-side .chosen {
  background: var(--wash);
}
.side-by-side td.chosen {
  font-weight: 600;
}
</style>
