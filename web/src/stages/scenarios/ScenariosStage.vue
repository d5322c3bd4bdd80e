<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import { NButton } from 'naive-ui'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  changesOfScenario,
  counted,
  describeChange,
  durationWords,
  freshId,
  instantOf,
  instantWords,
  keyOf,
  promoteScenario,
  removeScenario,
  scenarioPlan,
  type Change,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { authorName } from '../../stores/identity.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { Comparison } from '../../workers/scheduleProtocol.ts'
import { pairRuns } from './pairing.ts'

const plans = usePlanStore()
const forecast = useForecastStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.base)

const ITERATIONS = 5000
const SEED = 2027
/** The one that was asked for, that was in view, or the first. */
const chosenId = ref<string | null>(
  typeof route.query.of === 'string'
    ? route.query.of
    : (plans.scenarioId ?? plans.base?.scenarios[0]?.id ?? null),
)
const chosen = computed(
  () => plans.base?.scenarios.find((s) => s.id === chosenId.value) ?? plans.base?.scenarios[0],
)
const comparison = shallowRef<Comparison | null>(null)
const onlyMoved = computed(() => {
  if (!comparison.value) return 0
  const { changed, moved } = comparison.value.difference
  const own = new Set(changed)
  return moved.filter((id) => !own.has(id)).length
})
/** Why the scenario has no schedule, where it has none. */
const unscheduled = ref('')
const seen = computed(() => (chosen.value && plans.base ? scenarioPlan(plans.base, chosen.value.id) : null))
const { problem, attempt } = useAttempt()

// Side by side stands the plan itself: the stage looks at the plan, not at a scenario.
watch(
  () => plans.scenarioId,
  (id) => id !== null && plans.viewScenario(null),
  { immediate: true },
)
watch(
  () => [plans.view, seen.value] as const,
  async ([view, scenario]) => {
    unscheduled.value = ''
    try {
      comparison.value = view && scenario ? await plans.compare(scenario.plan) : null
    } catch (error) {
      comparison.value = null
      unscheduled.value = (error as Error).message
    }
  },
  { immediate: true },
)

const tryEdit = (change: Change): boolean => attempt(() => plans.editPlan(change))
const nameBox = ref<InstanceType<typeof TextField> | null>(null)
const branch = async (): Promise<void> => {
  const id = freshId(plans.base!.scenarios, 's', Math.random)
  const count = plans.base!.scenarios.length + 1
  const item = { id, name: `Alternative ${count}`, by: authorName.value, why: '', holdsIf: '' }
  if (!tryEdit({ kind: 'add', list: 'scenarios', item, before: null })) return
  chosenId.value = id
  await nextTick()
  nameBox.value?.focus()
  nameBox.value?.select()
}
const setField = (field: 'name' | 'why' | 'holdsIf', text: string): void => {
  const value = text.trim()
  if (chosen.value && value !== chosen.value[field])
    tryEdit({ kind: 'set', list: 'scenarios', key: chosen.value.id, set: { [field]: value } })
}
const discard = (): void => void (chosen.value && tryEdit(removeScenario(plans.base!, chosen.value.id)))
const promote = (): void => {
  const s = chosen.value
  if (s) attempt(() => plans.editPlan(promoteScenario(plans.base!, s.id)))
}
const removeChange = (key: string): void => void tryEdit({ kind: 'remove', list: 'scenarioChanges', key })
const workIn = async (): Promise<void> => {
  const { id } = chosen.value!
  // First away from this stage, which looks at the plan itself.
  await router.push({ name: 'network', params: route.params })
  plans.viewScenario(id)
}

/** The scenario's changes in words, each described on the plan as the changes before it left it. */
const commands = computed(() => {
  const s = chosen.value
  if (!s || !plans.base) return []
  return changesOfScenario(plans.base, s.id).map((item) => {
    const key = keyOf('scenarioChanges', item)
    const reason = seen.value?.unfit.get(key) ?? null
    return { key, text: describeChange(plans.base!, item.change as Change), reason }
  })
})
const day = (at: number): string => instantWords(at, 'finish')
const dateDay = (date: string | undefined): string =>
  date ? instantWords(instantOf(date, 'start'), 'finish', { time: false }) : 'not run'
const gained = computed(() => {
  if (!comparison.value || !plans.view || !calendars.value) return ''
  const calendar = calendars.value.project
  const minutes =
    calendar.countBefore(plans.view.projectFinish) - calendar.countBefore(comparison.value.view.projectFinish)
  return minutes === 0
    ? 'the same'
    : `${durationWords(Math.abs(minutes), calendars.value.projectLengths)} ${minutes > 0 ? 'earlier' : 'later'}`
})
const codes = (ids: readonly string[]): string =>
  ids.map((id) => plans.activity(id)?.code ?? id).join(', ') || 'nothing'
const planPath = computed(
  () => (plans.viewPlan?.activities ?? []).filter((_, i) => plans.view!.onLongestPath[i] === 1).length,
)

const planRun = computed(() => forecast.latestOf(null))
const scenarioRun = computed(() => (chosen.value ? forecast.latestOf(chosen.value.id) : null))
const planResult = computed(() => forecast.resultOf(planRun.value))
const scenarioResult = computed(() => forecast.resultOf(scenarioRun.value))
const isPaired = computed(() => {
  const [a, b] = [planRun.value, scenarioRun.value]
  return (
    a !== null &&
    b !== null &&
    a.input.seed === b.input.seed &&
    a.input.iterations === b.input.iterations &&
    a.input.risks === b.input.risks
  )
})
const pairing = computed(() =>
  isPaired.value && planResult.value && scenarioResult.value
    ? pairRuns(planResult.value.finishes, scenarioResult.value.finishes)
    : null,
)
const stale = computed(
  () =>
    (planRun.value && forecast.isStale(planRun.value)) ||
    (scenarioRun.value && forecast.isStale(scenarioRun.value)),
)
const runBoth = async (): Promise<void> => {
  const input = { iterations: ITERATIONS, seed: SEED, risks: true }
  if (await forecast.start({ ...input, scenario: null }))
    await forecast.start({ ...input, scenario: chosen.value!.id })
}
</script>

<template>
  <div class="scenarios">
    <nav class="list scroll" aria-label="Scenarios">
      <ActButton
        kind="row"
        v-for="s in plans.base!.scenarios"
        :key="s.id"
        :aria-current="s.id === chosen?.id"
        @click="chosenId = s.id"
      >
        <strong>{{ s.name || 'No name' }}</strong>
        <small class="soft"
          >{{ counted(changesOfScenario(plans.base!, s.id).length, 'change')
          }}{{ s.by ? `, ${s.by}` : '' }}</small
        >
      </ActButton>
      <p class="make">
        <ActButton data-test="branch" @click="branch">Branch an alternative</ActButton>
      </p>
    </nav>
    <section v-if="chosen" class="sheet scroll">
      <TextField
        ref="nameBox"
        class="name"
        label="Name of the scenario"
        :kept="chosen.name"
        @keep="setField('name', $event)"
      />
      <p class="soft">
        A list of changes on top of the plan: nothing in the plan changes until it is promoted.
      </p>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <p v-if="unscheduled" class="brick" role="alert">
        With its changes the plan cannot be scheduled: {{ unscheduled }}
      </p>
      <div class="grid">
        <label
          >Why<TextField :kept="chosen.why" placeholder="what it is for" @keep="setField('why', $event)"
        /></label>
        <label
          >Holds if<TextField
            :kept="chosen.holdsIf"
            placeholder="what must be true"
            @keep="setField('holdsIf', $event)"
        /></label>
      </div>
      <FactTable class="compare">
        <thead>
          <tr>
            <th />
            <th>The plan</th>
            <th>{{ chosen.name }}</th>
            <th>Difference</th>
          </tr>
        </thead>
        <tbody v-if="plans.view && comparison">
          <tr>
            <th>Finish</th>
            <td>{{ day(plans.view.projectFinish) }}</td>
            <td data-test="scenario-finish">
              <strong>{{ day(comparison.view.projectFinish) }}</strong>
            </td>
            <td data-test="scenario-gain">
              <strong>{{ gained }}</strong>
            </td>
          </tr>
          <tr>
            <th>Longest path</th>
            <td>{{ planPath }} activities</td>
            <td>{{ comparison.longestPath.length }} activities</td>
            <td>
              {{ codes(comparison.difference.joinedLongestPath) }} joined;
              {{ codes(comparison.difference.leftLongestPath) }} left
            </td>
          </tr>
          <tr>
            <th>Activities</th>
            <td colspan="2">
              {{ comparison.difference.changed.length }} changed, {{ onlyMoved }} only moved
            </td>
            <td>
              {{ comparison.difference.gainedFloat.length }} gained float,
              {{ comparison.difference.lostFloat.length }} lost some
            </td>
          </tr>
          <tr v-for="p in ['50', '80']" :key="p">
            <th>P{{ p }}</th>
            <td>{{ dateDay(planResult?.percentiles[p]) }}</td>
            <td :data-test="`scenario-p${p}`">
              <strong>{{ dateDay(scenarioResult?.percentiles[p]) }}</strong>
            </td>
            <td v-if="p === '50'" rowspan="2" class="paired" data-test="paired">
              <template v-if="pairing"
                ><strong>Earlier in {{ Math.round((pairing.earlier / pairing.pairs) * 100) }} of 100</strong>
                paired iterations, the same in
                {{ Math.round((pairing.equal / pairing.pairs) * 100) }}.</template
              >
              <template v-else>Run both on the same draws to compare them pair by pair.</template>
              <span v-if="stale" class="signal"> The plan has changed since.</span>
            </td>
          </tr>
        </tbody>
      </FactTable>
      <div class="actions">
        <NButton
          type="primary"
          :disabled="forecast.running !== null || plans.pending.length > 0"
          data-test="run-both"
          @click="runBoth"
          >{{
            forecast.running
              ? `${forecast.running.done.toLocaleString('en')} of ${forecast.running.total.toLocaleString('en')} …`
              : 'Forecast both on the same draws'
          }}</NButton
        >
        <NButton data-test="work-in" @click="workIn">Make changes in it</NButton>
        <NButton :disabled="commands.length === 0 || (seen?.unfit.size ?? 0) > 0" @click="promote"
          >Promote to the plan</NButton
        >
        <NButton @click="discard">Discard</NButton>
      </div>
      <h2>Its changes</h2>
      <ol v-if="commands.length > 0" class="commands">
        <li v-for="command in commands" :key="command.key">
          <span
            >{{ command.text
            }}<span v-if="command.reason" class="brick">
              — does not fit the plan any more: {{ command.reason }}</span
            ></span
          >
          <ActButton
            kind="bare"
            class="soft"
            :aria-label="`Take this change out: ${command.text}`"
            @click="removeChange(command.key)"
          >
            take out
          </ActButton>
        </li>
      </ol>
      <p v-else class="soft">
        None yet. <ActButton kind="noun" @click="workIn">Make changes in it</ActButton>: what you edit there
        stays in the scenario.
      </p>
    </section>
    <section v-else class="sheet">
      <h1>What would each alternative buy?</h1>
      <p class="soft">
        Branch one, change what would differ, and see finish, longest path and percentiles beside the plan, on
        the same draws.
      </p>
    </section>
  </div>
  <FootLine
    ><span
      >{{ plans.base!.scenarios.length }} scenario{{ plans.base!.scenarios.length === 1 ? '' : 's' }}</span
    ></FootLine
  >
</template>

<style scoped>
.scenarios {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
}
.list {
  background: var(--raised);
  border-right: 1px solid var(--hairline);
}
.make {
  padding: 14px;
}
.sheet {
  padding: 18px 24px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.name {
  max-width: 520px;
}
.name :deep(input) {
  font:
    650 20px 'Bricolage Grotesque Variable',
    sans-serif;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
  max-width: 820px;
}
label {
  display: flex;
  flex-direction: column;
  font-weight: 600;
  gap: 2px;
}
.compare {
  border-collapse: collapse;
  max-width: 900px;
}
.compare th {
  text-align: left;
  font-weight: 400;
  color: var(--soft-ink);
  padding: 6px 12px 6px 0;
  border-bottom: 1px solid var(--hairline);
}
.compare thead th {
  border-bottom: 1.5px solid var(--ink);
}
.compare thead th:nth-child(3) {
  color: var(--plum);
  font-weight: 650;
}
.compare td {
  padding: 6px 12px 6px 0;
  border-bottom: 1px solid var(--hairline);
  vertical-align: top;
}
.paired {
  max-width: 300px;
}
.actions {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.commands {
  margin: 0;
  padding-left: 20px;
  max-width: 900px;
}
.commands li {
  padding: 3px 0;
}
.commands .act-button {
  margin-left: 14px;
}
</style>
