<script setup lang="ts">
import ActButton from '../controls/ActButton.vue'
import { NDropdown, type DropdownOption } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  agreedFinishOf,
  baselineOf,
  dateWords,
  durationWords,
  instantOf,
  instantWords,
  roundMoneyWords,
  type Keeper,
} from '@geodrome/core'
import { useCalendars } from '../composables/useCalendars.ts'
import { useQuestion } from '../composables/useQuestion.ts'
import { useForecastStore } from '../stores/forecastStore.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'

const plans = usePlanStore()
const forecast = useForecastStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.plan)

/** Without activities there is a start, and no finish yet. */
const isEmpty = computed(() => plans.viewPlan?.activities.length === 0)
const plannedWords = computed(() =>
  isEmpty.value
    ? 'nothing planned yet'
    : plans.view
      ? instantWords(plans.view.projectFinish, 'finish')
      : plans.unscheduled
        ? 'no dates'
        : '…',
)
/** Working time of the project calendar between the planned and the required finish; negative when short. */
const margin = computed(() => {
  const required = plans.plan?.project.requiredFinish
  if (!required || !plans.view || !calendars.value || isEmpty.value) return null
  const calendar = calendars.value.project
  const minutes =
    calendar.countBefore(instantOf(required, 'finish')) - calendar.countBefore(plans.view.projectFinish)
  const words = durationWords(Math.abs(minutes), calendars.value.projectLengths)
  return {
    label: `Against the required ${dateWords(required, 'finish')}`,
    words: minutes < 0 ? `${words} short` : minutes === 0 ? 'just kept' : `${words} to spare`,
    isShort: minutes < 0,
  }
})
/** The finish against the baseline that the plan is compared with. */
const agreed = computed(() => {
  const { viewPlan, view } = plans
  const baseline = viewPlan && baselineOf(viewPlan)
  if (!baseline || !view || !calendars.value || isEmpty.value) return ''
  const name = baseline.name || 'the baseline'
  const then = agreedFinishOf(viewPlan, baseline)
  if (then === null) return ''
  const { project, projectLengths } = calendars.value
  const by = project.countBefore(view.projectFinish) - project.countBefore(then)
  const words = durationWords(Math.abs(by), projectLengths)
  return by === 0
    ? `As in ${name}`
    : `${words} ${by > 0 ? 'later' : 'earlier'} than ${name}, ${instantWords(then, 'finish')}`
})
const sure = computed(() => {
  const run = forecast.latest
  const p80 = forecast.latestResult?.percentiles['80']
  if (!run || !p80) return null
  return {
    words: instantWords(instantOf(p80, 'start'), 'finish', { time: false }),
    stale: forecast.isStale(run),
    risks: run.input.risks,
  }
})

/** What a late finish costs, where the plan says it: of all clauses together. */
const { answer: money } = useQuestion('money', () => ((plans.viewPlan?.damages.length ?? 0) > 0 ? {} : null))
const damages = computed(() => {
  if (!money.value || isEmpty.value) return null
  const amount = money.value.damages.reduce((sum, clause) => sum + clause.amount, 0)
  return amount === 0 ? 'none' : roundMoneyWords(amount, plans.viewPlan!.project.currency)
})

const inView = computed(() =>
  plans.kept !== null
    ? 'As it was'
    : (plans.plan?.scenarios.find((s) => s.id === plans.scenarioId)?.name ?? 'The plan'),
)
const keptOptions = (list: Keeper): { key: string; label: string }[] =>
  [...(plans.base?.[list] ?? [])].reverse().map(({ id, name }) => ({
    key: `${list}/${id}`,
    label: name || (list === 'baselines' ? 'A baseline without a name' : 'An update without a name'),
  }))
const group = (label: string, children: { key: string; label: string }[]): DropdownOption[] =>
  children.length === 0 ? [] : [{ type: 'group', key: label, label, children }]
const viewOptions = computed((): DropdownOption[] => [
  { key: '', label: 'The plan' },
  ...group(
    'Scenarios',
    (plans.base?.scenarios ?? []).map((s) => ({ key: `scenarios/${s.id}`, label: s.name })),
  ),
  ...group('As it was when frozen', keptOptions('baselines')),
  ...group('As it was after the update', keptOptions('periods')),
])
const bringIntoView = (key: string): void => {
  const [list, ...id] = key.split('/')
  if (list === 'baselines' || list === 'periods') void plans.viewKept(list, id.join('/'))
  else plans.viewScenario(id.join('/') || null)
}
/** How many changes wait, as far as they are in view: an edit, and that it is not stored yet, are seen in one frame. */
const waiting = ref(plans.pending.length)
const IN_VIEW_MS = 40
const count = (): void => void (waiting.value = plans.pending.length)
watch(
  () => plans.pending.length,
  (now) => {
    if (now <= waiting.value) return count()
    plans.whenScheduled(count)
    setTimeout(count, IN_VIEW_MS)
  },
  { flush: 'sync' },
)
const stored = computed(() => {
  if (waiting.value > 0)
    return plans.connection === 'offline'
      ? `${waiting.value} waiting here, not stored${plans.keepsOutbox ? '' : '; lost if this page is closed'}`
      : 'Storing …'
  if (plans.connection === 'offline') return 'Offline'
  if (plans.left > 0) return `Reading what was kept: ${plans.left} to go`
  return plans.storedAt ? `Stored ${plans.storedAt.toLocaleTimeString('en-GB')}` : 'All stored'
})

/** The activity that sets the finish: the last on the longest path. */
const showFinish = async (): Promise<void> => {
  const { view, viewPlan } = plans
  if (!view || !viewPlan) return
  const last = viewPlan.activities.findIndex(
    (_, i) => view.onLongestPath[i] === 1 && view.finish[i] === view.projectFinish,
  )
  await router.push({ name: 'network', params: route.params })
  if (last >= 0) ui.select(viewPlan.activities[last]!.id, { show: true })
}
const goToMoney = (): void =>
  void router.push({ name: 'resources', params: { ...route.params, part: 'money' } })
const goTo = (name: string): void => void router.push({ name, params: route.params })
</script>

<template>
  <header class="headline">
    <h1 class="name" :title="plans.plan?.project.name">{{ plans.plan?.project.name || 'Plan' }}</h1>
    <NDropdown trigger="click" :options="viewOptions" @select="bringIntoView">
      <ActButton class="which" :class="{ scenario: plans.whyNotPlan !== '' }" aria-haspopup="menu">
        {{ inView }} ▾
      </ActButton>
    </NDropdown>
    <dl class="answer">
      <div>
        <dt>Finish planned</dt>
        <dd>
          <ActButton
            kind="bare"
            class="figure"
            data-test="planned-finish"
            :title="agreed"
            @click="showFinish"
          >
            {{ plannedWords }}
          </ActButton>
        </dd>
      </div>
      <div v-if="margin">
        <dt>{{ margin.label }}</dt>
        <dd>
          <ActButton
            kind="bare"
            class="figure"
            data-test="margin"
            @click="goTo(margin.isShort ? 'review' : 'setup')"
          >
            {{ margin.words }}
          </ActButton>
        </dd>
      </div>
      <div>
        <dt>
          80 % sure by<span v-if="sure && !sure.risks">, without the risks</span
          ><span v-if="sure?.stale" class="signal">, before the last edits</span>
        </dt>
        <dd>
          <ActButton kind="bare" class="figure" data-test="p80" @click="goTo('forecast')">
            {{ sure?.words ?? 'not forecast yet' }}
          </ActButton>
        </dd>
      </div>
      <div v-if="damages" class="where-there-is-room">
        <dt>Damages</dt>
        <dd>
          <ActButton kind="bare" class="figure" data-test="headline-damages" @click="goToMoney">
            {{ damages }}
          </ActButton>
        </dd>
      </div>
    </dl>
    <ActButton
      kind="bare"
      class="stored"
      :class="{ signal: waiting > 0 && plans.connection === 'offline' }"
      :aria-label="`${stored}; show the changes and who made them`"
      title="The changes, and who made them"
      @click="ui.changesOpen = !ui.changesOpen"
    >
      <span role="status" data-test="stored">{{ stored }}</span>
    </ActButton>
    <ActButton
      kind="bare"
      class="find"
      aria-label="Find or do"
      title="Find or do: Ctrl K"
      @click="ui.paletteOpen = true"
    >
      <span class="find-words">Find or do </span><kbd class="code">Ctrl K</kbd>
    </ActButton>
  </header>
</template>

<style scoped>
.headline {
  display: flex;
  align-items: center;
  gap: 10px 22px;
  height: 54px;
  padding: 0 18px;
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
.name {
  font-size: 17px;
  max-width: 230px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.which {
  margin-left: -10px;
  max-width: 190px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.which.scenario {
  border-color: var(--plum);
  color: var(--plum);
  font-weight: 600;
}
.answer {
  display: flex;
  gap: 26px;
  margin: 0;
  flex: 1;
  min-width: 0;
}
.answer div {
  min-width: 0;
}
dt {
  font-size: 11.5px;
  color: var(--soft-ink);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
dd {
  margin: 0;
  font:
    650 14.5px/1.35 'Bricolage Grotesque Variable',
    sans-serif;
  white-space: nowrap;
}
.figure {
  border-bottom: 1.5px dotted var(--line);
  min-height: 24px;
}
.stored {
  font-size: 12px;
  color: var(--soft-ink);
  white-space: nowrap;
  min-height: 24px;
  border-bottom: 1px dotted var(--line);
}
.stored.signal {
  color: var(--signal-text);
  font-weight: 600;
}
.find {
  font-size: 12px;
  color: var(--soft-ink);
  white-space: nowrap;
  min-height: 24px;
}
kbd {
  border: 1px solid var(--hairline);
  border-radius: 4px;
  padding: 1px 5px;
  background: var(--raised);
}
@media (max-width: 1150px) {
  .answer {
    gap: 16px;
  }
  .find-words {
    display: none;
  }
}
@media (max-width: 1150px) {
  .where-there-is-room {
    display: none;
  }
}
</style>
