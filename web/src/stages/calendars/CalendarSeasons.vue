<script setup lang="ts">
import { ref, watch } from 'vue'
import { daysWords, instantOf, readDate, type Item, type PlanCalendar, type Week } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'

/** Which hours are painted, the ordinary week or those of a season; and the days of that season. */
const props = defineProps<{
  calendar: PlanCalendar
  /** The year that is shown: days that are typed without one lie in it. */
  year: number
  /** The hours that are painted: a new season begins with them. */
  week: Week
}>()
const emit = defineEmits<{ set: [fields: Item] }>()
/** Its place in the calendar; null for the ordinary week. */
const season = defineModel<number | null>('season', { required: true })

/** What is wrong with a season that is being written. */
const problem = ref('')
watch([season, () => props.calendar.id], () => (problem.value = ''))

const add = (): void => {
  const { seasons } = props.calendar
  emit('set', {
    seasons: [...seasons, { name: 'Season', from: '05-01', to: '09-30', yearly: true, week: props.week }],
  })
  season.value = seasons.length
}
/** A season's days are kept as MM-DD for every year, else with the year. */
const set = (fields: Item): void => {
  const { seasons } = props.calendar
  const next = { ...seasons[season.value!]!, ...fields }
  for (const end of ['from', 'to'] as const)
    if (next.yearly) next[end] = next[end].slice(-5)
    else if (/^\d\d-\d\d$/.test(next[end])) next[end] = `${props.year}-${next[end]}`
  problem.value =
    !next.yearly && next.to < next.from
      ? `the season would end on ${daysWords(next.to, next.to)}, before it begins on ${daysWords(next.from, next.from)}`
      : ''
  if (problem.value === '') emit('set', { seasons: seasons.with(season.value!, next) })
}
/** A first or last day in words, or as MM-DD; in the year that is shown where none is said. */
const setDay = (end: 'from' | 'to', text: string): void => {
  const typed = text.trim()
  const read = readDate(
    /^\d\d-\d\d$/.test(typed) ? `${props.year}-${typed}` : typed,
    instantOf(`${props.year}-07-01`, 'start'),
  )
  if (read.ok) set({ [end]: read.date.slice(0, 10) })
  else problem.value = read.why
}
const remove = (): void => {
  emit('set', { seasons: props.calendar.seasons.toSpliced(season.value!, 1) })
  season.value = null
}
</script>

<template>
  <p class="seasons">
    <ActButton :aria-pressed="season === null" @click="season = null">Ordinary week</ActButton>
    <ActButton v-for="(s, k) in calendar.seasons" :key="k" :aria-pressed="season === k" @click="season = k">
      {{ s.name || 'Season' }}, {{ daysWords(s.from, s.to) }}
    </ActButton>
    <ActButton kind="noun" @click="add">Add a season</ActButton>
  </p>
  <template v-for="(shown, k) in calendar.seasons" :key="`${calendar.id} ${k}`">
    <form v-if="k === season" class="season" @submit.prevent>
      <TextField
        :kept="shown.name"
        label="Name of the season"
        style="width: 24ch"
        @keep="set({ name: $event })"
      />
      <label
        >from
        <TextField
          :kept="daysWords(shown.from, shown.from)"
          style="width: 15ch"
          @keep="setDay('from', $event)"
      /></label>
      <label
        >to <TextField :kept="daysWords(shown.to, shown.to)" style="width: 15ch" @keep="setDay('to', $event)"
      /></label>
      <TickBox :model-value="shown.yearly" @update:model-value="set({ yearly: $event })"> every year</TickBox>
      <ActButton kind="noun" type="button" @click="remove">Remove the season</ActButton>
      <span v-if="problem" class="brick" role="alert">{{ problem }}</span>
    </form>
  </template>
</template>

<style scoped>
.seasons {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  margin: 10px 0;
}
.season {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 8px;
}
</style>
