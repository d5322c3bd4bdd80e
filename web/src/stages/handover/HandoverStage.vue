<script setup lang="ts">
import FactTable from '../../controls/FactTable.vue'
import { computed } from 'vue'
import { applyUnchecked, describeChange, PLAN_FILES, type PlanFileName } from '@geodrome/core'
import { api } from '../../api/client.ts'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'

const plans = usePlanStore()
/** For other programs; the plan file stands by itself. */
const formats = (Object.keys(PLAN_FILES) as PlanFileName[]).filter((name) => name !== 'json')
const waiting = computed(() => plans.pending.length)
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
  <div class="handover scroll">
    <h1>Hand the plan over</h1>
    <section>
      <h2>The plan file</h2>
      <p class="soft">
        JSON with everything that is in the plan, its scenarios included. A colleague imports it into their
        own copy; other programs read it by the published schema.
      </p>
      <p v-if="waiting > 0" class="signal">
        {{ waiting }} change{{ waiting === 1 ? ' is' : 's are' }} not stored yet and would be missing from the
        file.
      </p>
      <p>
        <a class="noun" :href="api.fileUrl(plans.planId!)" download data-test="export"
          >Export {{ plans.plan!.project.code || 'the plan' }}.geodrome.json</a
        >
      </p>
    </section>
    <section>
      <h2>For other programs</h2>
      <p class="soft">
        With the dates of {{ plans.scenarioId === null ? 'the plan' : 'the scenario in view' }} as it is
        stored now.
      </p>
      <ul class="formats" data-test="formats">
        <li v-for="name in formats" :key="name">
          <a class="noun code" :href="api.fileUrl(plans.planId!, name, plans.scenarioId)" download>{{
            PLAN_FILES[name].ending
          }}</a>
          {{ PLAN_FILES[name].words }}
        </li>
      </ul>
    </section>
    <section>
      <h2>Changes, latest first</h2>
      <FactTable v-if="latest.length > 0">
        <tbody>
          <tr v-for="entry in latest" :key="entry.uid">
            <td class="soft">{{ entry.revision }}</td>
            <td>{{ entry.author }}</td>
            <td>{{ entry.undoes ? 'took back: ' : '' }}{{ entry.words }}</td>
            <td class="soft right">{{ when(entry.at) }}</td>
          </tr>
        </tbody>
      </FactTable>
      <p v-else class="soft">No change was made since the plan was imported.</p>
    </section>
  </div>
  <FootLine
    ><span>Revision {{ plans.revision }}</span></FootLine
  >
</template>

<style scoped>
.handover {
  flex: 1;
  padding: 24px 32px;
  display: flex;
  flex-direction: column;
  gap: 22px;
}
section {
  max-width: 760px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.formats {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.formats a {
  display: inline-block;
  min-width: 76px;
  margin-right: 8px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
td {
  padding: 4px 8px;
  border-bottom: 1px solid var(--hairline);
}
</style>
