<script setup lang="ts">
import { computed } from 'vue'
import { instantOf, instantWords, type Plan } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import { useLook } from '../../composables/useLook.ts'
import type { SimulationRun } from '../../stores/forecastStore.ts'

/** Where ways come together in a run: by how much the mean start is later than the latest of the ways' own means, and who decides it. */
const props = defineProps<{ run: SimulationRun; plan: Plan }>()
const emit = defineEmits<{ show: [activity: string] }>()
const { answer: merges, problem } = useLook('merges', () => ({ run: props.run, question: {} }))
const SHOWN = 5
const day = (date: string): string => instantWords(instantOf(date, 'start'), 'start', { time: false })
const codes = computed(() => new Map(props.plan.activities.map(({ id, code }) => [id, code])))
const rows = computed(() =>
  (merges.value ?? [])
    .filter(({ activity }) => codes.value.has(activity))
    .slice(0, SHOWN)
    .map((one) => ({
      ...one,
      name: props.plan.activities.find(({ id }) => id === one.activity)!.name,
      decides: one.decides
        .filter(({ share }) => share >= 0.005)
        .map(({ activity, share }) => `${codes.value.get(activity) ?? '?'} in ${Math.round(share * 100)}`)
        .join(', '),
    })),
)
</script>

<template>
  <section class="merges" data-test="merges">
    <h3>Where ways come together</h3>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p v-else-if="merges === null" class="soft">Looking at every merge of the run …</p>
    <p v-else-if="rows.length === 0" class="soft">One way decides at every merge: there is no merge bias.</p>
    <ul v-else>
      <li v-for="row in rows" :key="row.activity">
        <p>
          <ActButton kind="noun" class="code" @click="emit('show', row.activity)">{{
            codes.get(row.activity)
          }}</ActButton>
          {{ row.name }}: <strong>{{ (Math.round(row.days * 10) / 10).toLocaleString('en') }} d</strong>
        </p>
        <p class="soft">
          mean start {{ day(row.start) }}, its latest way alone {{ day(row.alone) }}, PERT
          {{ day(row.expected) }}. Decided by {{ row.decides || 'its own dates' }} of 100.
        </p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
</style>
