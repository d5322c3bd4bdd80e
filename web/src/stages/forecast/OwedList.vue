<script setup lang="ts">
import { computed } from 'vue'
import { estimatesOf, stopWords, type Plan, type Sentence, type SimulationResult } from '@geodrome/core'
import { useQuestion } from '../../composables/useQuestion.ts'
import SentenceText from '../../panes/lens/SentenceText.vue'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'

/** What drives the finish: by how its duration goes with it, and, once asked, the days that the date at a confidence would come back without it. */
const props = defineProps<{ plan: Plan; run: SimulationRun; result: SimulationResult; percent: number }>()
const emit = defineEmits<{ show: [activity: string]; risk: [] }>()
const forecast = useForecastStore()

const owed = computed(() => forecast.owedOf(props.run, props.percent))
const isOwing = computed(
  () => forecast.owing !== null && forecast.owing.run.revision === props.run.revision && owed.value !== null,
)
const LISTED = 8
interface Driver {
  readonly kind: 'spread' | 'factor' | 'risk' | 'weather'
  readonly id: string
}
const named = ({ kind, id }: Driver): { code: string; name: string; note: string } => {
  const { plan, result } = props
  switch (kind) {
    case 'spread': {
      const activity = plan.activities.find((one) => one.id === id)
      const path = Math.round((result.activities[id]?.criticality ?? 0) * 100)
      return {
        code: activity?.code ?? '',
        name: activity?.name ?? 'removed since',
        note: `longest path in ${path}`,
      }
    }
    case 'risk': {
      const risk = plan.risks.find((one) => one.id === id)
      const share = result.happened[id]
      return {
        code: risk?.code ?? '',
        name: risk?.name ?? 'removed since',
        note: share === undefined ? '' : `happens in ${Math.round(share * 100)} of 100`,
      }
    }
    case 'factor':
      return {
        code: '',
        name: plan.factors.find((one) => one.id === id)?.name || 'a factor',
        note: 'on many at once',
      }
    case 'weather': {
      const calendar = plan.weather.find((one) => one.id === id)?.calendar
      const name = plan.calendars.find((one) => one.id === calendar)?.name
      return { code: '', name: `Weather${name ? ` of ${name}` : ''}`, note: 'days lost' }
    }
  }
}
/** What is drawn only because a risk may happen is named by its risk, which may touch others too. */
const driverOf = (id: string): Driver => {
  const { plan } = props
  const activity = plan.activities.find((one) => one.id === id)
  const risk = plan.risks.find(({ impacts }) => impacts.some((impact) => impact.activity === id))
  return activity && risk && held.value(activity).from === 'none'
    ? { kind: 'risk', id: risk.id }
    : { kind: 'spread', id }
}
const held = computed(() => estimatesOf(props.plan))
const rows = computed(() => {
  if (owed.value) {
    const most = Math.max(0.1, ...owed.value.map(({ days }) => Math.abs(days)))
    return owed.value
      .filter(({ days }) => Math.abs(days) >= 0.05)
      .slice(0, LISTED)
      .map(({ days, ...driver }) => ({
        driver,
        ...named(driver),
        width: Math.abs(days) / most,
        figure: `${(Math.round(days * 10) / 10).toLocaleString('en')} d`,
      }))
  }
  return Object.entries(props.result.activities)
    .filter(([, { sensitivity }]) => sensitivity > 0.02)
    .sort(([, a], [, b]) => b.sensitivity - a.sensitivity)
    .map(([id, { sensitivity }]) => ({ driver: driverOf(id), sensitivity }))
    .filter(({ driver }, k, all) => all.findIndex((one) => one.driver.id === driver.id) === k)
    .slice(0, LISTED)
    .map(({ driver, sensitivity }) => ({
      driver,
      ...named(driver),
      width: sensitivity,
      figure: sensitivity.toFixed(2),
    }))
})
/** Why a day longer than planned does not move the planned finish: what the finish follows over all iterations need not move it once. */
const { answer: nudged } = useQuestion('nudges', () => ({
  activities: rows.value.flatMap(({ driver }) => (driver.kind === 'spread' ? [driver.id] : [])),
}))
const whyNot = ({ kind, id }: Driver): Sentence | null => {
  if (kind !== 'spread') return null
  const stops = nudged.value?.find(({ activity }) => activity === id)?.stops ?? []
  return stops.length > 0 ? stopWords(props.plan, stops.slice(0, 1)) : null
}
const go = ({ kind, id }: Driver): void => (kind === 'spread' ? emit('show', id) : emit('risk'))
const drivers = computed(() => props.result.drivers.length)
</script>

<template>
  <div v-if="drivers > 0 || rows.length > 0" class="owed" data-test="owed">
    <h3>
      {{
        owed
          ? `What the ${percent} % date owes to each: days it would come back without it`
          : 'What the finish follows most: rank correlation of the duration with it'
      }}
    </h3>
    <p v-if="isOwing" class="soft" role="status">
      {{ forecast.owing!.done.toLocaleString('en') }} of
      {{ forecast.owing!.run.total.toLocaleString('en') }} iterations, each without each of {{ drivers }} …
      <ActButton kind="noun" @click="forecast.cancelOwed()">Stop</ActButton>
    </p>
    <p v-else-if="!owed && drivers > 0">
      <ActButton data-test="find-owed" @click="forecast.askOwed(run, percent)"
        >Find the days that each is worth</ActButton
      >
    </p>
    <FactTable class="drivers" :name="owed ? 'Days owed' : 'What the finish follows'">
      <thead class="sr">
        <tr>
          <th>Code</th>
          <th>Driver</th>
          <th class="right">{{ owed ? 'Days' : 'Correlation' }}</th>
          <th>Note</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="`${row.driver.kind} ${row.driver.id}`">
          <td class="code soft">{{ row.code }}</td>
          <td>
            <ActButton kind="noun" @click="go(row.driver)">{{ row.name }}</ActButton>
            <p v-if="whyNot(row.driver)" class="soft why">
              A day more alone does not move the plan: <SentenceText :sentence="whyNot(row.driver)!" />
            </p>
          </td>
          <td class="bar">
            <span :class="row.driver.kind" :style="{ width: `${row.width * 100}%` }" />{{ row.figure }}
          </td>
          <td class="soft right">{{ row.note }}</td>
        </tr>
      </tbody>
    </FactTable>
    <p v-if="owed && !isOwing && rows.length === 0" class="soft">
      None of them alone moves the {{ percent }} % date by a tenth of a day.
    </p>
  </div>
</template>

<style scoped>
.owed {
  margin-top: 10px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.drivers td {
  padding: 4px 8px;
  white-space: nowrap;
}
.why {
  font-size: 12px;
  white-space: normal;
}
.bar {
  width: 38%;
}
.bar span {
  display: inline-block;
  height: 10px;
  background: var(--fjord);
  border: 1.5px solid var(--fjord);
  border-radius: 2px;
  margin-right: 8px;
  max-width: 72%;
}
/* What may happen is open, what varies is full. */
.bar span.risk,
.bar span.weather {
  background: none;
}
@media (max-width: 1150px) {
  .drivers td:last-child {
    white-space: normal;
    min-width: 116px;
    font-size: 12px;
  }
  .drivers td {
    padding-inline: 4px;
  }
  .bar {
    width: 24%;
  }
}
</style>
