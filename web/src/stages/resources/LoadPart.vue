<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { counted, type Dates, type LoadPart, type Resource } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import SaveAs from '../../controls/SaveAs.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { LoadsView } from '../../workers/questions.ts'
import LoadLens from './LoadLens.vue'
import LoadStrips from './LoadStrips.vue'
import ResourceFields from './ResourceFields.vue'
import ResourcePaste from './ResourcePaste.vue'
import ResourceList from './ResourceList.vue'
import { partWords } from './partWords.ts'

/** Who is needed when, and where more is asked for than there is. */
const props = defineProps<{
  view: LoadsView
  calendars: CalendarLookup
  chosen: string | null
  dates: Dates
  /** Whose part is marked. */
  part: LoadPart | null
}>()
const emit = defineEmits<{
  choose: [id: string]
  add: [kind: Resource['kind']]
  show: [activity: string]
  scenario: [id: string]
}>()
const plans = usePlanStore()
/** A list is being taken in, in the place of the strips. */
const isPasting = ref(false)
/** Number of the day that is looked at closely. */
const day = ref<number | null>(null)
const pick = (resource: string, at: number): void => {
  emit('choose', resource)
  day.value = at
}
/** The part that is marked, and what there is to say if it asks for nothing. */
const marked = computed(() => {
  if (props.part === null) return null
  const words = partWords(plans.viewPlan!, props.part)
  const asks = props.view.loads.some(({ partByDay }) => partByDay?.some((amount) => amount > 0))
  return { words, asks }
})
const strips = useTemplateRef<InstanceType<typeof LoadStrips>>('strips')

const short = computed(() => props.view.loads.filter(({ overloads }) => overloads.length > 0))
const firstShort = computed(() => short.value[0]?.resource.id ?? props.view.loads[0]?.resource.id ?? null)
const chosenId = computed(() => props.chosen ?? firstShort.value)
const load = computed(() => props.view.loads.find(({ resource }) => resource.id === chosenId.value) ?? null)
/** Material and fees have no load, and their facts all the same. */
const other = computed(() =>
  load.value === null ? (plans.viewPlan!.resources.find(({ id }) => id === chosenId.value) ?? null) : null,
)
const users = computed(() => {
  const codes = new Map(plans.viewPlan!.activities.map((a) => [a.id, a.code]))
  return plans
    .viewPlan!.assignments.filter(({ resource }) => resource === chosenId.value)
    .map(({ activity }) => codes.get(activity)!)
})
const title = computed(() => {
  if (props.view.loads.length === 0) return 'Nobody is asked for yet.'
  if (props.view.loads.every(({ uses }) => uses.length === 0))
    return 'Nothing is assigned yet: assign people and plant where the work is.'
  if (short.value.length === 0) return 'There are as many people and as much plant as are asked for.'
  const named = short.value.slice(0, 3).map(({ resource, overloads }) => {
    const days = overloads.reduce((sum, one) => sum + one.days, 0)
    return `${resource.name || resource.code} on ${counted(days, 'day')}`
  })
  const rest = short.value.length - named.length
  return `More is asked for than there is: ${named.join(', ')}${rest > 0 ? ` and ${rest} more` : ''}.`
})
defineExpose({ zoom: (factor: number) => strips.value?.zoom(factor), fit: () => strips.value?.fit() })
</script>

<template>
  <div class="load" :class="{ empty: plans.viewPlan!.resources.length === 0 }">
    <ResourceList
      v-if="plans.viewPlan!.resources.length > 0"
      :loads="view.loads"
      :chosen="chosenId"
      :calendars="calendars"
      @choose="emit('choose', $event)"
      @add="emit('add', $event)"
      @paste="isPasting = true"
    />
    <section v-if="isPasting" class="scroll">
      <ResourcePaste @close="isPasting = false" />
    </section>
    <section v-else class="sheet scroll">
      <h1 data-test="load-title">{{ title }}</h1>
      <p v-if="view.loads.length > 0" class="signal">
        These dates do not wait for resources.
        <span class="soft">What would is tried beside it, and in Levelling.</span>
      </p>
      <LoadStrips
        v-if="view.loads.length > 0"
        ref="strips"
        :view="view"
        :calendars="calendars"
        :chosen="chosenId"
        :dates="dates"
        :day="day"
        @choose="emit('choose', $event)"
        @day="pick"
      />
      <div v-else class="nothing">
        <p class="soft">
          People and plant are at work while the activity is, material and fees are paid. Say what they cost
          and how many there are; then load, cost over time and levelling follow.
        </p>
        <p class="first">
          <ActButton kind="primary" @click="emit('add', 'people')">The first people</ActButton>
          <ActButton @click="emit('add', 'plant')">The first plant</ActButton>
          <ActButton @click="emit('add', 'material')">Material</ActButton>
          <ActButton @click="emit('add', 'fee')">A fee</ActButton>
          <ActButton data-test="paste-resources" @click="isPasting = true">Paste a list</ActButton>
        </p>
      </div>
      <ul v-if="view.loads.length > 0" class="legend soft" aria-label="How it is drawn">
        <li>
          <svg width="18" height="10"><rect class="ink" width="18" height="10" /></svg>
          {{ marked?.asks ? `asked for by ${marked.words}` : 'asked for' }}
        </li>
        <li v-if="marked?.asks">
          <svg width="18" height="10"><rect class="outline" x="1" y="1" width="16" height="8" /></svg> by
          others
        </li>
        <li v-else-if="marked" data-test="asks-nothing">{{ marked.words }}: no people, no plant</li>
        <li>
          <svg width="18" height="10"><path class="step" d="M0 8H9V2H18" /></svg> there
        </li>
        <li>
          <svg width="18" height="10"><rect class="beyond" width="18" height="10" /></svg> more than there is
        </li>
        <li>
          <svg width="18" height="10"><rect class="stone" width="18" height="10" /></svg> done
        </li>
        <li><SaveAs name="Load" :drawing="() => strips?.$el ?? null" /></li>
      </ul>
    </section>
    <LoadLens
      v-if="load"
      :key="load.resource.id"
      :load="load"
      :dates="dates"
      :calendars="calendars"
      v-model:day="day"
      @show="emit('show', $event)"
      @scenario="emit('scenario', $event)"
    />
    <aside v-else-if="other" class="side-pane scroll" aria-label="The resource">
      <p class="soft">
        <span class="code">{{ other.code }}</span> · {{ other.kind }}
      </p>
      <h2>{{ other.name || other.code }}</h2>
      <p class="soft">
        It is not at work for a time, so it has no load; {{ counted(users.length, 'activity') }}
        {{ users.length === 1 ? 'uses' : 'use' }} it.
      </p>
      <ResourceFields :key="other.id" :resource="other" :users="users" />
    </aside>
  </div>
</template>

<style scoped>
.load {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 206px minmax(0, 1fr) 304px;
}
.load.empty {
  grid-template-columns: minmax(0, 1fr);
}
.sheet > h1,
.sheet > p,
.nothing {
  padding: 12px 18px 0;
}
.sheet > p {
  padding-top: 4px;
  padding-bottom: 8px;
}
.nothing {
  max-width: 560px;
}
.first {
  display: flex;
  gap: 8px;
  padding-top: 12px;
}
.legend {
  list-style: none;
  display: flex;
  gap: 18px;
  padding: 10px 18px 20px;
  margin: 0;
}
.legend svg {
  vertical-align: -1px;
}
.ink {
  fill: var(--ink);
}
.outline {
  fill: none;
  stroke: var(--ink);
}
.stone {
  fill: var(--stone);
}
.beyond {
  fill: url(#load-beyond);
  stroke: var(--ink);
}
.step {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
@media (max-width: 1100px) {
  .load:not(.empty) {
    grid-template-columns: 170px minmax(0, 1fr) 270px;
  }
}
</style>
