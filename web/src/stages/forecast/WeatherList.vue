<script setup lang="ts">
import { computed } from 'vue'
import { freshId, monthChancesWords, readMonthChances, type Item, type Weather } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import TextField from '../../controls/TextField.vue'
import { optionsByName } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Of a calendar, month by month, the chance that a working day is lost. */
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const { why, take } = useRefusals()
const plan = computed(() => plans.plan!)
const calendars = computed(() => optionsByName(plan.value.calendars))
const set = (id: string, fields: Item): boolean =>
  attempt(() => plans.edit({ kind: 'set', list: 'weather', key: id, set: fields }))
const setMonths = ({ id }: Weather, text: string): void => {
  const read = readMonthChances(text)
  take(id, read, () => read.ok && set(id, { months: read.months }))
}
const add = (): void => {
  const item: Item = {
    id: freshId(plan.value.weather, 'w', Math.random),
    calendar: plan.value.project.calendar,
    months: {},
  }
  attempt(() => plans.edit({ kind: 'add', list: 'weather', item, before: null }))
}
const remove = (id: string): void =>
  void attempt(() => plans.edit({ kind: 'remove', list: 'weather', key: id }))
</script>

<template>
  <section class="weather" data-test="weather">
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <div v-for="one in plan.weather" :key="one.id" class="one">
      <ChoiceField
        label="Calendar whose days are lost"
        :model-value="one.calendar"
        :options="calendars"
        @update:model-value="set(one.id, { calendar: $event })"
      />
      <TextField
        label="Days lost, by month"
        :kept="monthChancesWords(one.months)"
        placeholder="may 6%, jun 5%"
        :invalid="why.has(one.id)"
        @keep="setMonths(one, $event)"
      />
      <small v-if="why.get(one.id)" class="brick" role="alert">{{ why.get(one.id) }}</small>
      <p><ActButton kind="noun" @click="remove(one.id)">Remove</ActButton></p>
    </div>
    <p><ActButton data-test="add-weather" @click="add">Add weather</ActButton></p>
  </section>
</template>

<style scoped>
.weather,
.one {
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.one {
  border-left: 2px solid var(--hairline);
  padding-left: 8px;
}
</style>
