<script setup lang="ts">
import { computed } from 'vue'
import { civilDate, MONTH, type Calendar } from '@geodrome/core'

/** The days around an activity on its own calendar: where it works, where it waits. */
const props = defineProps<{ calendar: Calendar; name: string; start: number; finish: number }>()
const MOST = 35
interface Day {
  readonly day: number
  readonly label: string
  readonly title: string
  readonly works: boolean
  readonly isIn: boolean
}
const days = computed((): Day[] => {
  const first = Math.floor(props.start / 1440) - 4
  const last = Math.min(Math.floor((props.finish - 1) / 1440) + 4, first + MOST - 1)
  const found: Day[] = []
  try {
    for (let day = first; day <= last; day++) {
      const { weekday, day: date, month } = civilDate(day)
      const worked = props.calendar.countBefore((day + 1) * 1440) - props.calendar.countBefore(day * 1440)
      const isIn =
        day >= Math.floor(props.start / 1440) &&
        day <= Math.floor((Math.max(props.finish, props.start + 1) - 1) / 1440)
      found.push({
        day,
        label: String(date),
        works: worked > 0,
        isIn,
        title: `${['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'][weekday]} ${date} ${MONTH[month - 1]}: ${worked > 0 ? `${(worked / 60).toFixed(1).replace('.0', '')} h` : 'no work'}`,
      })
    }
  } catch {
    return found // the calendar ends here
  }
  return found
})
</script>

<template>
  <section class="strip">
    <h3>Its days, {{ name }}</h3>
    <ol>
      <li v-for="day in days" :key="day.day" :class="{ works: day.works, in: day.isIn }" :title="day.title">
        {{ day.label }}
      </li>
    </ol>
  </section>
</template>

<style scoped>
.strip {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
}
ol {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  margin: 6px 0 0;
  padding: 0;
}
li {
  width: 22px;
  height: 20px;
  line-height: 20px;
  text-align: center;
  font-size: 11px;
  border-radius: 3px;
  color: var(--soft-ink);
  box-shadow: inset 0 0 0 1px var(--hairline);
}
li.in {
  box-shadow: inset 0 0 0 1.5px var(--ink);
  color: var(--ink);
}
li.in.works {
  background: var(--ink);
  color: var(--paper);
}
li.works:not(.in) {
  background: var(--shade);
  color: var(--ink);
}
</style>
