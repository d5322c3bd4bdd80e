<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  counted,
  loadParts,
  roundMoneyWords,
  newResource,
  type Dates,
  type LoadPart as PartOfLoad,
  type Resource,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import { usePart } from '../../composables/usePart.ts'
import { useShowActivity } from '../../composables/useShowActivity.ts'
import PartedStage from '../../controls/PartedStage.vue'
import { optionsOf } from '../../controls/options.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import LevellingPart from './LevellingPart.vue'
import LoadPart from './LoadPart.vue'
import MoneyPart from './MoneyPart.vue'
import { partWords } from './partWords.ts'

const PARTS = [
  ['load', 'Load'],
  ['money', 'Money'],
  ['levelling', 'Levelling'],
] as const

const plans = usePlanStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.viewPlan)
const { part, go } = usePart('resources', PARTS, 'load')
const DATES = [
  ['placed', 'on planned dates'],
  ['early', 'on earliest dates'],
  ['late', 'on latest dates'],
] as const
/** The dates that load is looked at on. */
const dates = ref<Dates>('placed')
/** Whose part of the load is marked: what is selected, unless somebody else is chosen. */
const SELECTED = 'selected'
const chosenPart = ref<string>(SELECTED)
const parts = computed(() =>
  loadParts(plans.viewPlan!).map((one) => ({
    value: JSON.stringify(one),
    label: partWords(plans.viewPlan!, one),
  })),
)
const partOptions = computed(() => [
  { value: SELECTED, label: 'mark what is selected' },
  ...parts.value.map(({ value, label }) => ({ value, label: `mark ${label}` })),
])
const marked = computed((): PartOfLoad | null => {
  // What was chosen can be gone: another took the activity over, or the group was dissolved.
  const one = parts.value.find(({ value }) => value === chosenPart.value)
  if (one) return JSON.parse(one.value) as PartOfLoad
  return ui.selection.length > 0 ? { by: 'activities', ids: [...ui.selection] } : null
})
const { answer: loads, problem: loadsProblem } = useQuestion('loads', () => ({
  // Whoever is short is short on planned dates; the others are looked at in the load alone.
  dates: part.value === 'load' ? dates.value : 'placed',
  part: part.value === 'load' ? marked.value : null,
}))
const { answer: money, problem: moneyProblem } = useQuestion('money', () => ({}))

const chosen = ref<string | null>(null)
const drawing = useTemplateRef<{ zoom(factor: number): void; fit(): void }>('drawing')

const add = (kind: Resource['kind']): void => {
  const change = newResource(plans.plan!, kind, Math.random)
  plans.edit(change)
  if (change.kind === 'add') chosen.value = String(change.item.id)
}
const show = useShowActivity()
const toScenario = (id: string): void =>
  void router.push({ name: 'scenarios', params: { id: route.params.id as string }, query: { of: id } })
const shortDays = computed(() =>
  (loads.value?.loads ?? []).reduce(
    (sum, { overloads }) => sum + overloads.reduce((days, one) => days + one.days, 0),
    0,
  ),
)
/** What is on the screen as a table; a workbook has them all. */
const table = computed(() => (part.value === 'money' ? 'Cost' : 'Load'))
const fileOf = (kind: 'xlsx' | 'csv'): string =>
  api.recordUrl(plans.planId!, 'resources', kind, {
    of: plans.meant,
    ...(kind === 'csv' ? { table: table.value } : {}),
  })
const shortCount = computed(() => (loads.value?.loads ?? []).filter((one) => one.overloads.length > 0).length)
</script>

<template>
  <PartedStage label="Parts of resources" :part="part" :parts="PARTS" @go="go">
    <template #beside>
      <div v-if="part === 'load'" class="choices">
        <ChoiceField
          :model-value="parts.some(({ value }) => value === chosenPart) ? chosenPart : SELECTED"
          class="marks"
          label="Part of the load"
          :options="partOptions"
          @update:model-value="chosenPart = $event"
        />
        <ChoiceField v-model="dates" class="dates" label="Load" :options="optionsOf(DATES)" />
      </div>
    </template>
    <p v-if="loadsProblem || moneyProblem" class="brick problem" role="alert">
      {{ loadsProblem || moneyProblem }}
    </p>
    <template v-if="calendars && plans.view">
      <LoadPart
        v-if="part === 'load' && loads"
        ref="drawing"
        :view="loads"
        :calendars="calendars"
        :chosen="chosen"
        :dates="dates"
        :part="marked"
        @choose="chosen = $event"
        @add="add"
        @show="show"
        @scenario="toScenario"
      />
      <MoneyPart
        v-else-if="part === 'money' && money"
        ref="drawing"
        :money="money"
        :calendars="calendars"
        @show="show"
      />
      <LevellingPart
        v-else-if="part === 'levelling'"
        :calendars="calendars"
        :short-days="shortDays"
        @show="show"
        @scenario="toScenario"
      />
      <p v-else class="soft problem">Working it out …</p>
    </template>
  </PartedStage>
  <FootLine>
    <span
      >{{ counted(plans.viewPlan?.resources.length ?? 0, 'resource')
      }}<template v-if="shortCount > 0">, {{ shortCount }} short</template></span
    >
    <span v-if="money"
      >{{ roundMoneyWords(money.total.atCompletion, plans.viewPlan!.project.currency) }} at completion</span
    >
    <span v-if="part !== 'levelling' && plans.viewPlan!.resources.length > 0"
      ><a class="noun" :href="fileOf('csv')" download data-test="resources-csv">{{ table }} as CSV</a> ·
      <a class="noun" :href="fileOf('xlsx')" download data-test="resources-xlsx">all as XLSX</a></span
    >
    <span v-if="part !== 'levelling'" class="zoom">
      <ActButton kind="bare" aria-label="Zoom out" @click="drawing?.zoom(1 / 1.4)">−</ActButton>
      <ActButton kind="bare" @click="drawing?.fit()">Fit</ActButton>
      <ActButton kind="bare" aria-label="Zoom in" @click="drawing?.zoom(1.4)">+</ActButton>
    </span>
  </FootLine>
</template>

<style scoped>
.choices {
  display: flex;
  gap: 8px;
}
.marks {
  width: 230px;
}
.dates {
  width: 170px;
}
.problem {
  padding: 10px 18px;
}
.zoom {
  margin-left: auto;
  display: inline-flex;
  gap: 4px;
}
.zoom .act-button {
  min-width: 24px;
  min-height: 24px;
}
</style>
