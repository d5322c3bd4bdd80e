<script setup lang="ts">
import { computed } from 'vue'
import { applyUnchecked, describeChange } from '@geodrome/core'
import FactTable from '../../controls/FactTable.vue'
import { usePlanStore } from '../../stores/planStore.ts'

/** Who changed what, latest first. */
const plans = usePlanStore()
/** The latest changes in words: walking back through the log by the inverses, each is described on the plan as it was before. */
const latest = computed(() => {
  let at = plans.confirmed!
  return [...plans.log]
    .reverse()
    .slice(0, 60)
    .map((entry) => {
      at = applyUnchecked(at, entry.inverse).plan
      return { ...entry, words: describeChange(at, entry.change) }
    })
})
const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  })
</script>

<template>
  <section class="changes scroll">
    <h1>Changes, latest first</h1>
    <FactTable v-if="latest.length > 0" name="Changes">
      <thead>
        <tr>
          <th>Revision</th>
          <th>By</th>
          <th>Change</th>
          <th class="right">When</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="entry in latest" :key="entry.uid">
          <td class="soft">{{ entry.revision }}</td>
          <td>{{ entry.author }}</td>
          <td>{{ entry.undoes ? 'took back: ' : '' }}{{ entry.words }}</td>
          <td class="soft right" :data-iso="entry.at">{{ when(entry.at) }}</td>
        </tr>
      </tbody>
    </FactTable>
    <p v-else class="soft">No change was made since the plan was imported.</p>
  </section>
</template>

<style scoped>
.changes {
  flex: 1;
  padding: 24px 32px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  align-items: start;
}
.changes .right {
  white-space: nowrap;
}
</style>
