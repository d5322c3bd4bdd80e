<script setup lang="ts">
import { computed, ref } from 'vue'
import { CLOCK_ID, calendarOf, durationWords, lengthsOf, readDuration, setDuration } from '@geodrome/core'
import ActButton from '../controls/ActButton.vue'
import ChoiceField from '../controls/ChoiceField.vue'
import TextField from '../controls/TextField.vue'
import { useAttempt } from '../composables/useAttempt.ts'
import { usePlanStore } from '../stores/planStore.ts'

/** In place of the stages of a plan that cannot be scheduled: what is wrong, and where it can be repaired. */
const plans = usePlanStore()
const { problem, attempt } = useAttempt()

const activity = computed(
  () => plans.plan?.activities.find(({ id }) => id === plans.unscheduled?.activity) ?? null,
)
const lengths = computed(() => lengthsOf(plans.plan!, calendarOf(plans.plan!.project, activity.value!)))
const calendars = computed(() => [
  ...plans.plan!.calendars.map(({ id, name }) => ({ value: id, label: name || id })),
  { value: CLOCK_ID, label: 'round the clock' },
])
const last = computed(() => {
  const entry = plans.log.at(-1)
  return plans.pending.at(-1)?.label ?? (entry ? plans.describe(entry) : null)
})
const misread = ref('')
const keepDuration = (text: string): void => {
  const read = readDuration(text, lengths.value)
  misread.value = read.ok ? '' : read.why
  if (read.ok) attempt(() => plans.edit(setDuration(activity.value!, read.minutes)))
}
const setCalendar = (calendar: string): void =>
  void attempt(() =>
    plans.edit({ kind: 'set', list: 'activities', key: activity.value!.id, set: { calendar } }),
  )
</script>

<template>
  <section class="unscheduled" data-test="unscheduled">
    <h1>This plan has no dates as it stands</h1>
    <p class="why" role="alert">{{ plans.unscheduled!.message }}.</p>
    <p class="soft">
      Nothing is lost: the plan is stored as it is, and has dates again as soon as this is repaired.
    </p>
    <div v-if="activity" class="fields">
      <p>
        <span class="code">{{ activity.code }}</span> {{ activity.name }}
      </p>
      <label v-if="activity.kind === 'work'"
        >Duration<TextField
          label="Duration"
          :kept="durationWords(activity.duration, lengths)"
          @keep="keepDuration"
      /></label>
      <label
        >Calendar<ChoiceField
          label="Calendar"
          :model-value="calendarOf(plans.plan!.project, activity)"
          :options="calendars"
          @update:model-value="setCalendar($event as string)"
      /></label>
    </div>
    <p v-if="misread || problem" class="brick" role="alert">{{ misread || problem }}</p>
    <p v-if="last">
      The last change was “{{ last }}”.
      <ActButton kind="noun" @click="plans.undo()">Take back your last change</ActButton>
    </p>
    <p v-if="plans.refusal" class="brick" role="alert">{{ plans.refusal }}</p>
  </section>
</template>

<style scoped>
.unscheduled {
  padding: 40px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  max-width: 720px;
}
.why {
  color: var(--brick);
  font-weight: 600;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 160px 220px;
  gap: 14px;
  align-items: end;
}
label {
  display: flex;
  flex-direction: column;
  gap: 2px;
  font-weight: 600;
}
</style>
