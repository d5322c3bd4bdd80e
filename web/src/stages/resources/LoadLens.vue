<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import {
  counted,
  hoursWords,
  instantWords,
  newScenario,
  shortDay,
  type Change,
  type Dates,
  type WayOut,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { LoadView } from '../../workers/questions.ts'
import ResourceFields from './ResourceFields.vue'
import { wayWords } from './wayWords.ts'

/** All about one resource that works: what is asked for beyond what there is, the ways out, and what it is. */
const props = defineProps<{ load: LoadView; calendars: CalendarLookup; dates: Dates }>()
const emit = defineEmits<{ show: [activity: string]; scenario: [id: string] }>()
/** Number of the day that is looked at closely. */
const day = defineModel<number | null>('day', { required: true })
const plans = usePlanStore()
const ui = useUiStore()
const { problem, attempt } = useAttempt()

const plan = computed(() => plans.viewPlan!)
const name = computed(() => props.load.resource.name || props.load.resource.code)
const codeOf = (i: number): string => plan.value.activities[i]!.code
const chosenAt = ref<number | null>(null)
const overload = computed(
  () => props.load.overloads.find(({ from }) => from === chosenAt.value) ?? props.load.overloads[0] ?? null,
)
/** More of them are a list to choose from. */
const MOST_APART = 8
const overloadOptions = computed(() =>
  props.load.overloads.map(({ from, load, available, activities }) => ({
    value: from,
    label: `${instantWords(from, 'start')}: ${load} of ${available}, ${activities.map(codeOf).join(', ')}`,
  })),
)
const title = computed(() => {
  const one = overload.value
  if (!one) return `${name.value}: as many as there are, or fewer`
  return `${name.value}: ${one.load} asked for, ${one.available} there, on ${counted(one.days, 'day')}`
})
const { answer: ways, problem: waysProblem } = useQuestion('ways', () =>
  overload.value && props.dates === 'placed'
    ? { resource: props.load.resource.id, from: overload.value.from }
    : null,
)
/** Ways belong to the overload that they were asked for; while others are looked for, there are none. */
const shownWays = shallowRef<readonly WayOut[]>([])
watch(ways, (found) => (shownWays.value = found ?? []))
watch(
  () => [props.load.resource.id, overload.value?.from],
  () => (shownWays.value = []),
)
const chosenWay = ref(0)
watch(shownWays, () => (chosenWay.value = 0))
const options = computed(() =>
  shownWays.value.map((way, k) => ({
    value: k,
    ...wayWords(plan.value, name.value, way, plans.view!.projectFinish, props.calendars),
  })),
)
const way = computed(() => shownWays.value[chosenWay.value] ?? null)
const apply = (): void => {
  if (way.value) attempt(() => plans.edit(way.value!.change))
}
const asScenario = (): void => {
  const found = way.value
  if (!found) return
  const words = options.value[chosenWay.value]!
  const changes: readonly Change[] = found.change.kind === 'all' ? found.change.changes : [found.change]
  const { change, id } = newScenario(
    plans.base!,
    { name: words.title, by: authorName.value, why: title.value, holdsIf: '' },
    changes,
    Math.random,
  )
  if (attempt(() => plans.editPlan(change))) emit('scenario', id)
}
/** The first day that is worth a look: of the overload, else of the first use. */
const firstDay = computed(() => {
  const at =
    overload.value?.from ?? Math.min(...props.load.uses.map(({ activity }) => plans.view!.start[activity]!))
  return Math.floor(at / 1440)
})
const { answer: onDay } = useQuestion('dayLoad', () =>
  day.value === null ? null : { dates: props.dates, resource: props.load.resource.id, day: day.value },
)
const dayTitle = computed(() => {
  const found = onDay.value
  if (!found) return ''
  const date = shortDay(found.day * 1440)
  if (found.asked.length === 0) return `${date}: nobody asks for it`
  const there = Number.isFinite(found.available) ? `, ${found.available} there` : ''
  return `${date}: ${found.load} asked for at once${there}`
})
const selectThese = (): void => {
  ui.selection = (onDay.value?.asked ?? []).map(({ activity }) => plan.value.activities[activity]!.id)
  ui.group = null
}
const users = computed(() => props.load.uses.map(({ activity }) => codeOf(activity)))
</script>

<template>
  <aside class="side-pane scroll" aria-label="The resource">
    <p class="soft">
      <span class="code">{{ load.resource.code }}</span> · {{ load.resource.kind
      }}<template v-if="load.resource.calendar"> · {{ calendars.name(load.resource.calendar) }}</template>
    </p>
    <h2 data-test="resource-title">{{ title }}</h2>
    <template v-if="overload">
      <p class="soft">
        {{ instantWords(overload.from, 'start') }} to {{ instantWords(overload.to, 'finish') }},
        {{ hoursWords(overload.minutes) }} in all
      </p>
      <p>
        <template v-for="(i, k) in overload.activities" :key="i"
          ><template v-if="k > 0">{{ k === overload.activities.length - 1 ? ' and ' : ', ' }}</template
          ><ActButton kind="noun" @click="emit('show', plan.activities[i]!.id)"
            >{{ codeOf(i) }} {{ plan.activities[i]!.name }}</ActButton
          ></template
        >
        ask for it at once.
      </p>
      <ChoiceField
        v-if="load.overloads.length > MOST_APART"
        label="Overloads"
        :model-value="overload.from"
        :options="overloadOptions"
        @update:model-value="chosenAt = $event"
      />
      <div v-else-if="load.overloads.length > 1" class="others" role="group" aria-label="Overloads">
        <ActButton
          v-for="one in load.overloads"
          :key="one.from"
          :aria-pressed="one.from === overload.from"
          @click="chosenAt = one.from"
          >{{ shortDay(one.from) }}</ActButton
        >
      </div>
      <h3>Ways out, each tried</h3>
      <p v-if="waysProblem" class="brick" role="alert">{{ waysProblem }}</p>
      <p v-else-if="dates !== 'placed'" class="soft">
        Ways out are tried on planned dates; this is what
        {{ dates === 'early' ? 'earliest' : 'latest' }} dates would ask for.
      </p>
      <p v-else-if="options.length === 0 && ways === null" class="soft">Trying …</p>
      <p v-else-if="options.length === 0" class="soft">
        Nothing that was tried lessens it: what asks for it is under way, or more is asked for than there ever
        is.
      </p>
      <template v-else>
        <RadioChoice
          v-model="chosenWay"
          label="Ways out"
          :options="options.map(({ value, title: label }) => ({ value, label }))"
        >
          <template #option="{ option }">
            <span class="way" data-test="way">
              <span class="first"
                ><strong>{{ options[option.value]!.title }}</strong
                ><span>{{ options[option.value]!.finish }}</span></span
              >
              <small class="soft">{{ options[option.value]!.rest.join(', ') }}</small>
            </span>
          </template>
        </RadioChoice>
        <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
        <div class="actions">
          <ActButton kind="primary" data-test="apply-way" @click="apply">Apply</ActButton>
          <ActButton v-if="plans.whyNotPlan === ''" data-test="way-scenario" @click="asScenario"
            >As a scenario</ActButton
          >
        </div>
      </template>
    </template>
    <p v-else-if="load.uses.length === 0" class="soft">Nothing is assigned to it yet.</p>
    <template v-if="load.outside.length > 0">
      <h3>Outside its hours</h3>
      <ul>
        <li v-for="one in load.outside" :key="one.activity">
          <ActButton kind="noun" @click="emit('show', plan.activities[one.activity]!.id)">{{
            codeOf(one.activity)
          }}</ActButton>
          works {{ hoursWords(one.minutes) }} outside the hours of {{ name }}. That is neither load nor
          overload.
        </li>
      </ul>
    </template>
    <template v-if="day !== null && onDay">
      <h3 data-test="day-title">{{ dayTitle }}</h3>
      <ul class="users" data-test="day-asked">
        <li v-for="one in onDay.asked" :key="one.activity">
          <ActButton kind="noun" @click="emit('show', plan.activities[one.activity]!.id)">{{
            codeOf(one.activity)
          }}</ActButton>
          {{ plan.activities[one.activity]!.name }}<span class="soft"> · {{ one.amount }}</span>
        </li>
      </ul>
      <div class="actions">
        <ActButton @click="day = onDay.day - 1">Day before</ActButton>
        <ActButton @click="day = onDay.day + 1">Day after</ActButton>
        <ActButton v-if="onDay.asked.length > 0" data-test="select-asked" @click="selectThese"
          >Mark these</ActButton
        >
      </div>
    </template>
    <p v-else-if="load.uses.length > 0">
      <ActButton data-test="look-at-day" @click="day = firstDay">Look at a day</ActButton>
    </p>
    <h3>Who has it</h3>
    <p v-if="load.uses.length === 0" class="soft">
      Assign it in the Lens of an activity, or in the column Resources.
    </p>
    <ul v-else class="users">
      <li v-for="use in load.uses" :key="use.activity">
        <ActButton kind="noun" @click="emit('show', plan.activities[use.activity]!.id)">{{
          codeOf(use.activity)
        }}</ActButton>
        {{ plan.activities[use.activity]!.name }}<span class="soft"> · {{ use.amount }}</span>
      </li>
    </ul>
    <h3>What it is</h3>
    <ResourceFields :key="load.resource.id" :resource="load.resource" :users="users" />
  </aside>
</template>

<style scoped>
h3 {
  margin-top: 6px;
}
ul {
  margin: 0;
  padding-left: 16px;
}
.users {
  list-style: none;
  padding: 0;
}
.others,
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.way {
  display: flex;
  flex-direction: column;
  padding-bottom: 4px;
}
.first > span {
  white-space: nowrap;
}
.first {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
</style>
