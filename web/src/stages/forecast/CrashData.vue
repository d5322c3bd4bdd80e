<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  amountWords,
  crashableOf,
  durationWords,
  readAmount,
  readDuration,
  type Activity,
} from '@geodrome/core'
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What each activity takes and costs at its shortest, typed where it stands. */
const props = defineProps<{ calendars: CalendarLookup }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const onlyPath = ref(true)
/** Why what was typed is not taken, by activity. */
const { why, refuse, accept } = useRefusals()

const rows = computed(() =>
  plans
    .viewPlan!.activities.map((activity, i) => ({ activity, i }))
    .filter(
      ({ activity, i }) =>
        activity.kind === 'work' &&
        activity.progress.actualFinish === null &&
        (!onlyPath.value || activity.crash !== null || plans.view!.onLongestPath[i] === 1),
    )
    .map(({ activity, i }) => ({ activity, found: crashableOf(activity, i) })),
)
type Crash = NonNullable<Activity['crash']>
const words = (activity: Activity, minutes: number): string =>
  durationWords(minutes, props.calendars.lengthsOf(activity))
/** As the last edit left it, which the dates that are shown may be behind: what was typed a field before is kept. */
const crashNow = ({ id }: Activity): Crash | null =>
  plans.plan!.activities.find((a) => a.id === id)?.crash ?? null
const keep = (activity: Activity, crash: Crash | null): void => {
  accept(activity.id)
  attempt(() => plans.edit({ kind: 'set', list: 'activities', key: activity.id, set: { crash } }))
}
const keepShortest = (activity: Activity, text: string): void => {
  if (text.trim() === '') {
    if (activity.crash) keep(activity, null)
    return
  }
  const read = readDuration(text, props.calendars.lengthsOf(activity))
  if (!read.ok) {
    refuse(activity.id, read.why)
    return
  }
  if (read.minutes > activity.duration) {
    refuse(activity.id, `longer than its ${words(activity, activity.duration)}; type a shorter one`)
    return
  }
  keep(activity, { normalCost: 0, cost: 0, ...crashNow(activity), duration: read.minutes })
}
const keepCost = (activity: Activity, field: 'normalCost' | 'cost', text: string): void => {
  const amount = text.trim() === '' ? 0 : readAmount(text)
  if (amount === null || amount < 0) {
    refuse(activity.id, `“${text}” is no amount of money; type a number such as 12500`)
    return
  }
  const crash = crashNow(activity)
  if (crash) keep(activity, { ...crash, [field]: amount })
}
</script>

<template>
  <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  <TickBox v-model="onlyPath">only the longest path and what has crash data</TickBox>
  <FactTable name="Crash data" data-test="crash-data">
    <thead>
      <tr>
        <th>Activity</th>
        <th class="right">Normal</th>
        <th>Shortest</th>
        <th>Cost, normal</th>
        <th>Cost, shortest</th>
        <th class="right">A day saved</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="{ activity, found } in rows" :key="activity.id">
        <td>
          <span class="code soft">{{ activity.code }}</span> {{ activity.name }}
          <span v-for="option in activity.crash?.options ?? []" :key="option.name" class="option soft"
            >{{ option.name }}: {{ words(activity, option.duration) }} for
            {{ amountWords(option.cost) }}</span
          >
          <span v-if="why.get(activity.id)" class="brick option" role="alert">{{
            why.get(activity.id)
          }}</span>
          <span v-else-if="found && 'message' in found" class="brick option" role="alert">{{
            found.message
          }}</span>
        </td>
        <td class="right">{{ words(activity, activity.duration) }}</td>
        <td>
          <span v-if="activity.crash?.options?.length">{{ words(activity, activity.crash.duration) }}</span>
          <TextField
            v-else
            class="short"
            :label="`Shortest duration of ${activity.code}`"
            :kept="activity.crash ? words(activity, activity.crash.duration) : ''"
            :invalid="why.has(activity.id)"
            placeholder="cannot"
            @keep="keepShortest(activity, $event)"
          />
        </td>
        <td>
          <TextField
            v-if="activity.crash"
            class="short"
            :label="`Normal cost of ${activity.code}`"
            :kept="String(activity.crash.normalCost)"
            @keep="keepCost(activity, 'normalCost', $event)"
          />
        </td>
        <td>
          <TextField
            v-if="activity.crash && !activity.crash.options?.length"
            class="short"
            :label="`Cost of ${activity.code} at its shortest`"
            :kept="String(activity.crash.cost)"
            @keep="keepCost(activity, 'cost', $event)"
          />
        </td>
        <td class="right">
          <template v-if="found && !('message' in found) && Number.isFinite(found.slope)">{{
            amountWords(Math.round(found.slope * calendars.lengthsOf(activity).dayMinutes))
          }}</template>
        </td>
      </tr>
    </tbody>
  </FactTable>
</template>

<style scoped>
.short {
  width: 96px;
}
.option {
  display: block;
}
.right {
  text-align: right;
}
</style>
