<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import {
  counted,
  durationWords,
  estimateMoments,
  estimatesOf,
  estimateWords,
  factorsWords,
  readEstimate,
  readFactors,
  scopeWords,
  type Activity,
  type Change,
  type HeldEstimate,
  type ThreePoint,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import TextField from '../../controls/TextField.vue'
import { optionsOf } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import EstimateCurve from './EstimateCurve.vue'
import RangeList from './RangeList.vue'
import ThreePanes from './ThreePanes.vue'
import WeatherList from './WeatherList.vue'
import { WAY_CHOICES, wayNamed, wayOf } from './shapes.ts'

/** What may vary, by how much, on whose word: points of activities, spreads, factors, weather; and what came of earlier words. */
const props = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const plan = computed(() => plans.viewPlan!)
/** Why what was typed is not taken, by activity. */
const { why, refuse, accept } = useRefusals()

interface Row {
  readonly activity: Activity
  readonly held: HeldEstimate
}
/** Work that is still to be done: of finished work nothing varies. */
const all = computed((): Row[] => {
  const held = estimatesOf(plan.value)
  return plan.value.activities
    .filter(({ kind, progress }) => kind === 'work' && progress.actualFinish === null)
    .map((activity) => ({ activity, held: held(activity) }))
})
type From = HeldEstimate['from'] | 'all'
const from = ref<From>('all')
const froms = computed(() => {
  const count = (of: From): number => all.value.filter(({ held }) => held.from === of).length
  return optionsOf<From>([
    ['all', `all ${counted(all.value.length, 'activity')}`],
    ['own', `${count('own')} with points of their own`],
    ['spread', `${count('spread')} by a spread`],
    ['none', `${count('none')} fixed, without any`],
  ])
})
const sought = ref('')
const rows = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  return all.value.filter(
    ({ activity, held }) =>
      (from.value === 'all' || held.from === from.value) &&
      words.every((word) =>
        `${activity.code} ${activity.name} ${activity.owner ?? ''}`.toLowerCase().includes(word),
      ),
  )
})

const lengths = (activity: Activity) => props.calendars.lengthsOf(activity)
const set = (activity: Activity, estimate: ThreePoint | null): void => {
  accept(activity.id)
  attempt(() => plans.edit({ kind: 'set', list: 'activities', key: activity.id, set: { estimate } }))
}
const NEW = { shape: 'pert', ends: 'extremes' } as const
/** As the last edits left them, which the dates that are shown may be behind: their shapes and ends are kept. */
const now = computed(() => new Map(plans.plan!.activities.map((activity) => [activity.id, activity])))
const wayNow = ({ id }: Activity): Pick<ThreePoint, 'shape' | 'ends'> => now.value.get(id)?.estimate ?? NEW
const keep = (activity: Activity, text: string): void => {
  if (text.trim() === '') {
    accept(activity.id)
    if (activity.estimate) set(activity, null)
    return
  }
  const read = readEstimate(text, lengths(activity))
  if (read.ok) set(activity, { ...wayNow(activity), ...read.range })
  else refuse(activity.id, read.why)
}
const heldWords = ({ activity, held }: Row): string =>
  held.from === 'none' ? 'fixed' : estimateWords(rounded(held.estimate), lengths(activity))
const rounded = ({ low, likely, high }: ThreePoint) => ({
  low: Math.round(low),
  likely: Math.round(likely),
  high: Math.round(high),
})
const expectedWords = ({ activity, held }: Row): string => {
  if (held.from === 'none') return ''
  const { mean, variance } = estimateMoments(held.estimate)
  const { dayMinutes } = lengths(activity)
  const days = (minutes: number): string => (minutes / dayMinutes).toFixed(1)
  return `${days(mean)} ± ${days(Math.sqrt(variance))} d`
}
const whyWords = ({ held }: Row): string => {
  if (held.from === 'none') return 'no points, no spread holds'
  const names = held.alsoInScope.map((one) => one.name || scopeWords(plan.value, one.scope))
  const others = names.length === 0 ? '' : `; not ${names.join(', ')}`
  return held.from === 'own'
    ? `its own${others}`
    : `spread ${held.spread.name || scopeWords(plan.value, held.spread.scope)}${others === '' ? '' : `, the narrowest${others}`}`
}

/** All rows, those out of view among them, for a file: durations in days of each activity's calendar. */
const allRows = () => ({
  head: ['code', 'activity', 'planned', 'low', 'likely', 'high', 'expected', 'deviation', 'rule that holds'],
  rows: rows.value.map((row) => {
    const { activity, held } = row
    const days = (minutes: number): number =>
      Math.round((minutes / lengths(activity).dayMinutes) * 1000) / 1000
    const { mean, variance } =
      held.from === 'none' ? { mean: 0, variance: 0 } : estimateMoments(held.estimate)
    return [
      activity.code,
      activity.name,
      days(activity.duration),
      ...(held.from === 'none'
        ? ['', '', '', '', '']
        : [held.estimate.low, held.estimate.likely, held.estimate.high, mean, Math.sqrt(variance)].map(days)),
      whyWords(row),
    ]
  }),
})

/** Points for all that is shown, as factors on their durations. */
const many = ref('')
const manyProblem = ref('')
const giveMany = (): void => {
  const read = readFactors(many.value)
  manyProblem.value = read.ok ? '' : read.why
  if (!read.ok) return
  const { low, likely, high } = read.range
  const changes = rows.value.map(({ activity }): Change => {
    const of = (factor: number): number => Math.round(factor * activity.duration)
    const estimate = { ...wayNow(activity), low: of(low), likely: of(likely), high: of(high) }
    return { kind: 'set', list: 'activities', key: activity.id, set: { estimate } }
  })
  if (attempt(() => plans.edit({ kind: 'all', changes }))) many.value = ''
}

const scroller = useTemplateRef<HTMLElement>('scroller')
const ROW = 56
const virtualizer = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW,
    overscan: 12,
  })),
)
const shown = computed(() =>
  virtualizer.value
    .getVirtualItems()
    .map(({ index }) => rows.value[index]!)
    .filter(Boolean),
)
const above = computed(() => virtualizer.value.getVirtualItems()[0]?.start ?? 0)
const below = computed(
  () => virtualizer.value.getTotalSize() - (virtualizer.value.getVirtualItems().at(-1)?.end ?? 0),
)

const { answer: said, problem: saidProblem } = useQuestion('said', () => ({}))
const outcome = computed(() => {
  const found = said.value ?? []
  const of = (lies: string): number => found.filter((one) => one.lies === lies).length
  const longer = found.filter(({ actual, estimate }) => actual > estimate.likely).length
  return { count: found.length, inside: of('inside'), above: of('above'), below: of('below'), longer }
})
const saidRows = computed(() =>
  (said.value ?? []).flatMap((one) => {
    const activity = plan.value.activities[one.activity]
    return activity ? [{ ...one, activity }] : []
  }),
)
const title = computed(() => {
  const without = all.value.filter(({ held }) => held.from === 'none').length
  if (all.value.length === 0) return 'Nothing is left that could vary.'
  if (without === all.value.length) return 'No activity says how long it may take.'
  return without === 0
    ? 'Every activity says how long it may take.'
    : `${all.value.length - without} of ${counted(all.value.length, 'activity')} may vary; ${without} count as fixed.`
})
</script>

<template>
  <ThreePanes :left="196" :right="256">
    <template #left>
      <h3>Show</h3>
      <RadioChoice v-model="from" label="Which activities" :options="froms" />
      <TextField v-model="sought" label="Search code, name or owner" placeholder="code, name or owner" />
      <h3>Many at once</h3>
      <p class="soft">Points for {{ counted(rows.length, 'activity') }} shown, as factors on the duration.</p>
      <TextField
        v-model="many"
        label="Factors for all shown"
        placeholder="-10% / +40%"
        :invalid="manyProblem !== ''"
        @keydown.enter="giveMany"
      />
      <p v-if="manyProblem" class="brick" role="alert">{{ manyProblem }}</p>
      <ActButton :disabled="rows.length === 0 || many.trim() === ''" data-test="give-many" @click="giveMany"
        >Give them to {{ rows.length }}</ActButton
      >
      <p class="soft">
        Points of an activity win; without, the narrowest spread that holds it; without either it is fixed.
      </p>
    </template>
    <template #whole>
      <section ref="scroller" class="sheet scroll">
        <h1 data-test="estimates-title">{{ title }}</h1>
        <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
        <FactTable v-if="rows.length > 0" name="Estimates" :whole="allRows" data-test="estimates">
          <thead>
            <tr>
              <th>Activity</th>
              <th class="of-points">Low / likely / high</th>
              <th class="of-curve">How it lies</th>
              <th class="of-shape">Shape</th>
              <th class="right of-mean">Expected</th>
            </tr>
          </thead>
          <tbody>
            <tr v-if="above > 0" aria-hidden="true">
              <td colspan="5" :style="{ height: `${above}px` }" />
            </tr>
            <tr v-for="row in shown" :key="row.activity.id">
              <td class="name">
                <div class="line">
                  <ActButton kind="noun" class="code" @click="emit('show', row.activity.id)">{{
                    row.activity.code
                  }}</ActButton>
                  <span :title="row.activity.name">{{ row.activity.name }}</span>
                </div>
                <small v-if="why.get(row.activity.id)" class="brick" role="alert">{{
                  why.get(row.activity.id)
                }}</small>
                <small v-else class="soft" :title="whyWords(row)"
                  >{{ durationWords(row.activity.duration, lengths(row.activity)) }} planned,
                  {{ whyWords(row) }}</small
                >
              </td>
              <td>
                <TextField
                  :label="`Low, likely and high of ${row.activity.code}`"
                  :kept="row.held.from === 'own' ? heldWords(row) : ''"
                  :placeholder="heldWords(row)"
                  :invalid="why.has(row.activity.id)"
                  @keep="keep(row.activity, $event)"
                />
              </td>
              <td>
                <EstimateCurve
                  v-if="row.held.from !== 'none'"
                  :estimate="row.held.estimate"
                  :planned="row.activity.duration"
                />
              </td>
              <td class="shape">
                <ChoiceField
                  v-if="row.activity.estimate"
                  :label="`Shape of ${row.activity.code}`"
                  :model-value="wayOf(row.activity.estimate)"
                  :options="WAY_CHOICES"
                  @update:model-value="set(row.activity, { ...row.activity.estimate, ...wayNamed($event) })"
                />
                <span v-else-if="row.held.from === 'spread'" class="soft"
                  >× {{ factorsWords(row.held.spread) }}</span
                >
              </td>
              <td class="right nowrap">{{ expectedWords(row) }}</td>
            </tr>
            <tr v-if="below > 0" aria-hidden="true">
              <td colspan="5" :style="{ height: `${below}px` }" />
            </tr>
          </tbody>
        </FactTable>
        <p v-else class="soft">No activity is like that. Choose another kind, or empty the search.</p>
      </section>
    </template>
    <template #right>
      <h3>Spreads: for many at once</h3>
      <RangeList list="spreads" />
      <h3>Factors: what moves many together</h3>
      <p class="soft">One draw an iteration multiplies all that a factor holds for.</p>
      <RangeList list="factors" />
      <h3>Weather: days that are lost</h3>
      <WeatherList />
      <h3>What was said, and what happened</h3>
      <p v-if="saidProblem" class="brick" role="alert">{{ saidProblem }}</p>
      <p v-else-if="outcome.count === 0" class="soft">No finished work has had an estimate yet.</p>
      <template v-else>
        <p data-test="said">
          Of {{ counted(outcome.count, 'activity') }} finished that had an estimate
          <strong>{{ outcome.inside }}</strong> ended inside it, {{ outcome.above }} above,
          {{ outcome.below }} below; {{ outcome.longer }} took longer than likely.
        </p>
        <FactTable name="What was said and what it took">
          <thead>
            <tr>
              <th>Work</th>
              <th class="right">Said</th>
              <th class="right">Took</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="{ activity, estimate, actual, lies } in saidRows" :key="activity.id">
              <td>
                <ActButton kind="noun" class="code" @click="emit('show', activity.id)">{{
                  activity.code
                }}</ActButton>
              </td>
              <td class="right">{{ estimateWords(rounded(estimate), lengths(activity)) }}</td>
              <td class="right">
                {{ durationWords(actual, lengths(activity)) }}{{ lies === 'inside' ? '' : `, ${lies}` }}
              </td>
            </tr>
          </tbody>
        </FactTable>
      </template>
    </template>
  </ThreePanes>
  <FootLine
    ><span>{{ rows.length }} of {{ counted(all.length, 'activity') }} shown</span
    ><span>Finished work, milestones and hammocks draw nothing</span></FootLine
  >
</template>

<style scoped>
.sheet {
  padding: 16px 18px 24px;
}
.sheet :deep(table.n-table) {
  table-layout: fixed;
}
.line,
.name > small.soft {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.of-points {
  width: 164px;
}
.of-curve {
  width: 112px;
}
.of-shape {
  width: 142px;
}
.of-mean {
  width: 92px;
}
.right {
  text-align: right;
}
.nowrap {
  white-space: nowrap;
}
</style>
