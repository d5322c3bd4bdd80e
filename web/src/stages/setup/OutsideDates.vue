<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import {
  constraintWords,
  counted,
  dateWords,
  formatInstant,
  fromUnixTime,
  instantOf,
  MINUTES_PER_DAY,
  outsideDates,
  outsideTaken,
  type OutsideDate,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useOtherPlan, type OtherPlan } from '../../composables/useOtherPlan.ts'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import FilePick from '../../controls/FilePick.vue'
import { usePlanStore } from '../../stores/planStore.ts'

/** Dates that were taken from other plans: how old each is, what it is there now, and what taking it anew would do. */
const plans = usePlanStore()
const other = useOtherPlan()
const { problem, attempt } = useAttempt()
const dates = computed(() => (plans.plan ? outsideDates(plans.plan) : []))

/** What was found when it was looked at again, by plan; why not where it could not be. Files go by the name of their plan. */
const found = shallowRef<ReadonlyMap<string, OtherPlan | string>>(new Map())
const keyOf = ({ source }: OutsideDate): string => source.plan ?? `file ${source.name}`
const isLooking = ref(false)
const lookedAt = ref('')
const keep = (key: string, what: OtherPlan | string): void => {
  found.value = new Map(found.value).set(key, what)
  lookedAt.value = formatInstant(fromUnixTime(Date.now()))
}
const look = async (): Promise<void> => {
  isLooking.value = true
  try {
    for (const id of new Set(dates.value.flatMap(({ source }) => source.plan ?? [])))
      keep(id, await other.ofServer(id).catch((error: unknown) => (error as Error).message))
  } finally {
    isLooking.value = false
  }
}
const fromFile = async (file: File): Promise<void> => {
  problem.value = ''
  try {
    const read = await other.ofFile(file)
    const key = `file ${read.name}`
    if (dates.value.some((one) => keyOf(one) === key)) keep(key, read)
    else problem.value = `${file.name} is “${read.name}”: no date was taken from a file of that plan`
  } catch (error) {
    problem.value = `${file.name} cannot be read: ${(error as Error).message}`
  }
}

/** The date there now, or why it is not known; null where nobody looked yet. */
const nowOf = (one: OutsideDate): { readonly date: string } | { readonly why: string } | null => {
  const there = found.value.get(keyOf(one))
  if (there === undefined) return null
  if (typeof there === 'string') return { why: there }
  const at = there.dates.find(({ id }) => id === one.source.activity)
  return at ? { date: at[one.source.edge] } : { why: 'it is not in that plan any more' }
}
const rows = computed(() =>
  dates.value.map((one) => ({ one, now: nowOf(one), key: `${one.activity.id} ${one.at}` })),
)
const seen = computed(() => rows.value.filter(({ now }) => now !== null && 'date' in now).length)
const moved = computed(
  () => rows.value.filter(({ one, now }) => now && 'date' in now && now.date !== one.constraint.date).length,
)
const change = computed(() =>
  seen.value === 0
    ? null
    : outsideTaken(
        plans.plan!,
        (one) => {
          const now = nowOf(one)
          return now && 'date' in now ? now.date : null
        },
        lookedAt.value,
      ),
)
const foreseen = useForesight(() => (moved.value === 0 ? null : change.value))
const take = (): void => {
  if (change.value && attempt(() => plans.edit(change.value!))) found.value = new Map()
}
const age = ({ source }: OutsideDate): string => {
  const days = Math.floor((fromUnixTime(Date.now()) - instantOf(source.taken, 'start')) / MINUTES_PER_DAY)
  return days <= 0 ? 'today' : days === 1 ? 'a day ago' : `${days} days ago`
}
const day = (date: string, edge: 'start' | 'finish'): string => dateWords(date, edge, { year: true })
const hasFiles = computed(() => dates.value.some(({ source }) => source.plan === null))
</script>

<template>
  <section v-if="dates.length > 0" class="outside-dates" data-test="outside-dates">
    <h2>Dates from other plans</h2>
    <FactTable name="Dates from other plans">
      <thead>
        <tr>
          <th>Activity</th>
          <th>Limit</th>
          <th>Taken from</th>
          <th>Looked at</th>
          <th>There now</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ one, now, key } in rows" :key="key">
          <td>
            <span class="code soft">{{ one.activity.code }}</span> {{ one.activity.name }}
          </td>
          <td>{{ constraintWords(one.constraint) }}</td>
          <td>{{ one.source.name }}: {{ one.source.edge }} of {{ one.source.code }}</td>
          <td>{{ age(one) }}</td>
          <td>
            <span v-if="now === null" class="soft">not looked yet</span>
            <span v-else-if="'why' in now" class="signal">not known: {{ now.why }}</span>
            <strong v-else-if="now.date !== one.constraint.date">{{ day(now.date, one.source.edge) }}</strong>
            <span v-else>the same</span>
          </td>
        </tr>
      </tbody>
    </FactTable>
    <p class="acts">
      <ActButton data-test="look-outside" :disabled="isLooking" @click="look">{{
        isLooking ? 'Looking …' : 'Look there again'
      }}</ActButton>
      <FilePick v-if="hasFiles" accept=".json,application/json" label="The file again" @pick="fromFile">
        <ActButton>The file again</ActButton>
      </FilePick>
      <ActButton
        v-if="seen > 0"
        :kind="moved > 0 ? 'primary' : 'chip'"
        data-test="take-outside"
        @click="take"
        >{{ moved === 0 ? 'Note that they are the same' : `Take ${counted(moved, 'new date')}` }}</ActButton
      >
      <span v-if="foreseen" role="status" data-test="outside-effect">{{ foreseen }}</span>
    </p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.outside-dates {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
}
td {
  vertical-align: baseline;
}
</style>
