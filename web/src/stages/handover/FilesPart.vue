<script setup lang="ts">
import { computed } from 'vue'
import { counted, PLAN_FILES, type PlanFileName } from '@geodrome/core'
import { api } from '../../api/client.ts'
import { usePlanStore } from '../../stores/planStore.ts'

const plans = usePlanStore()
/** For other programs; the plan file stands by itself. */
const formats = (Object.keys(PLAN_FILES) as PlanFileName[]).filter((name) => name !== 'json')
const waiting = computed(() => plans.pending.length)
</script>

<template>
  <div class="files scroll">
    <h1>The plan as a file</h1>
    <section>
      <h2>The plan file</h2>
      <p class="soft">
        JSON with everything that is in the plan, its scenarios included. A colleague imports it into their
        own copy; other programs read it by the published schema.
      </p>
      <p v-if="waiting > 0" class="signal">
        {{ counted(waiting, 'change') }} {{ waiting === 1 ? 'is' : 'are' }} not stored yet and would be
        missing from the file.
      </p>
      <p>
        <a class="noun" :href="api.fileUrl(plans.planId!)" download data-test="export"
          >Export {{ plans.plan!.project.code || 'the plan' }}.geodrome.json</a
        >
      </p>
    </section>
    <section>
      <h2>For other programs</h2>
      <p class="soft">With the dates of {{ plans.meantWords }}.</p>
      <ul class="formats" data-test="formats">
        <li v-for="name in formats" :key="name">
          <a class="noun code" :href="api.fileUrl(plans.planId!, name, plans.meant)" download>{{
            PLAN_FILES[name].ending
          }}</a>
          {{ PLAN_FILES[name].words }}
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.files {
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
</style>
