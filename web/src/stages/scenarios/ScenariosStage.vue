<script setup lang="ts">
import { computed, ref, shallowRef, toRaw, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  choiceWords,
  counted,
  formatInstant,
  freshId,
  keepThough,
  fromUnixTime,
  instantOf,
  nextInk,
  promoteScenario,
  removeScenario,
  scenarioAlone,
  scenarioPlan,
  writePlan,
  type Alternative,
  type AlternativeBeside,
  type Change,
  markColour,
  markOf,
  MARKS,
} from '@geodrome/core'
import { pairFinishes } from '../../composables/pairing.ts'
import { download } from '../../saving/download.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import ActButton from '../../controls/ActButton.vue'
import TickBox from '../../controls/TickBox.vue'
import FootLine from '../../frame/FootLine.vue'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { AlternativesAnswer, AlternativesQuestion } from '../../workers/alternatives.worker.ts'
import AlternativesWorker from '../../workers/alternatives.worker.ts?worker'
import ChangedStrip from './ChangedStrip.vue'
import DotsByScenario from './DotsByScenario.vue'
import ScenarioSheet from './ScenarioSheet.vue'
import TakeScenario from './TakeScenario.vue'
import ScenarioTable from './ScenarioTable.vue'
import type { Shown } from './shown.ts'

/** The plan and its alternatives side by side: which to choose, and by what. */
const plans = usePlanStore()
const forecast = useForecastStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.base)
const { problem, attempt } = useAttempt()
const sheet = useTemplateRef<{ nameIt(): Promise<void> }>('sheet')

const ITERATIONS = 5000
const SEED = 2027
/** Beside the plan, so many at once. */
const MOST_BESIDE = MARKS.length - 1

const base = computed(() => plans.base!)
const scenarios = computed(() => base.value.scenarios)
/** The one that was asked for, that was in view, or the first. */
const chosenId = ref<string | null>(
  typeof route.query.of === 'string' ? route.query.of : (plans.scenarioId ?? scenarios.value[0]?.id ?? null),
)
const chosen = computed(() => scenarios.value.find(({ id }) => id === chosenId.value) ?? scenarios.value[0])
/** Which stand beside the plan; null: the first that there is room for. */
const picked = ref<readonly string[] | null>(null)
const besidePlan = computed(() => {
  const all = scenarios.value.map(({ id }) => id)
  const wanted = (picked.value ?? all.slice(0, MOST_BESIDE)).filter((id) => all.includes(id))
  const own = chosen.value?.id
  // What is looked at is always among them.
  if (own === undefined || wanted.includes(own)) return wanted
  return [...wanted.slice(0, MOST_BESIDE - 1), own]
})
const pick = (id: string, isOn: boolean): void => {
  picked.value = isOn
    ? scenarios.value.map((one) => one.id).filter((one) => one === id || besidePlan.value.includes(one))
    : besidePlan.value.filter((one) => one !== id)
}

// Side by side stands the plan itself: the stage looks at the plan as it is, not at a scenario.
watch(
  () => plans.whyNotPlan,
  (why) => why !== '' && plans.viewScenario(null),
  { immediate: true },
)

/** What was found, of the plan as it was then. */
const found = shallowRef<{
  readonly of: object
  readonly itself: Alternative | null
  readonly besides: ReadonlyMap<string, AlternativeBeside>
  readonly undated: ReadonlyMap<string, string>
} | null>(null)
const { failure, begin } = useLongWork<AlternativesQuestion, AlternativesAnswer>(
  () => new AlternativesWorker(),
)
watch(
  [base, () => besidePlan.value.join(' ')],
  () => {
    const of = base.value
    // Of another plan nothing is shown.
    if (found.value?.of !== of) found.value = { of, itself: null, besides: new Map(), undated: new Map() }
    begin({ plan: toRaw(of), scenarios: [...besidePlan.value] }, (answer) => {
      const now = found.value
      if (now?.of !== of) return
      switch (answer.kind) {
        case 'plan':
          found.value = { ...now, itself: answer.itself }
          return
        case 'scenario':
          found.value = { ...now, besides: new Map([...now.besides, [answer.id, answer.beside]]) }
          return
        case 'undated':
          found.value = { ...now, undated: new Map([...now.undated, [answer.id, answer.why]]) }
      }
    })
  },
  { immediate: true },
)

/** The draws that all are compared on: those of the plan's own latest run, where it still fits. */
const draws = computed(() => {
  const run = forecast.latestOf(null)
  if (run && !forecast.isStale(run)) {
    const { iterations, batch, seed, risks } = run.input
    return { iterations, batch, seed, risks }
  }
  return { iterations: ITERATIONS, batch: undefined, seed: SEED, risks: true }
})
const runOf = (scenario: string | null): SimulationRun | null => {
  const { iterations, batch, seed, risks } = draws.value
  const run = forecast.finished.find(
    ({ input }) =>
      input.scenario === scenario &&
      input.iterations === iterations &&
      input.batch === batch &&
      input.seed === seed &&
      input.risks === risks &&
      input.sampling === 'lhs',
  )
  return run && !forecast.isStale(run) ? run : null
}
const shown = computed((): Shown[] =>
  [null, ...besidePlan.value].map((id, place): Shown => {
    const scenario = scenarios.value.find((one) => one.id === id)
    const beside = id === null ? null : (found.value?.besides.get(id) ?? null)
    const result = forecast.resultOf(runOf(id))
    const plans_ = id === null ? null : forecast.resultOf(runOf(null))
    return {
      id,
      name: id === null ? 'The plan' : scenario?.name || 'No name',
      mark: markOf(place),
      colour: markColour(ui.tokens, place),
      itself: id === null ? (found.value?.itself ?? null) : beside,
      beside,
      undated: id === null ? '' : (found.value?.undated.get(id) ?? ''),
      result,
      pairing: result && plans_ ? pairFinishes(plans_.finishes, result.finishes) : null,
    }
  }),
)
const missing = computed(() =>
  shown.value.filter(({ id, undated }) => undated === '' && runOf(id) === null).map(({ id }) => id),
)
/** Simulates those that are not yet, one after the other, on the same draws. */
const runThem = async (): Promise<void> => {
  const input = draws.value
  for (const scenario of missing.value) if (!(await forecast.start({ ...input, scenario }))) return
}
const running = computed(() => {
  const now = forecast.running
  if (!now) return ''
  const name = shown.value.find(({ id }) => id === (now.input.scenario ?? null))?.name ?? 'a scenario'
  return `${name}: ${now.done.toLocaleString('en')} of ${now.total.toLocaleString('en')} iterations …`
})

const required = computed(() => {
  const { requiredFinish } = base.value.project
  return requiredFinish === null ? null : instantOf(requiredFinish, 'finish')
})
const choice = computed(() => {
  const known = shown.value.filter(({ itself }) => itself !== null)
  if (known.length !== shown.value.filter(({ undated }) => undated === '').length) return []
  return choiceWords(
    known.map(({ id, name, itself, result }) => ({
      name,
      isPlan: id === null,
      p80: result?.percentiles['80'] ?? null,
      finish: formatInstant(itself!.finish),
      cost: itself!.cost && itself!.cost.work + itself!.cost.damages,
      keeps: itself!.short === null ? null : itself!.short <= 0,
    })),
    base.value.project.requiredFinish,
    base.value.project.currency,
  )
})
const seen = computed(() => chosen.value && scenarioPlan(base.value, chosen.value.id).plan)
const chosenBeside = computed(() => found.value?.besides.get(chosen.value?.id ?? '') ?? null)

const tryEdit = (change: Change): boolean => attempt(() => plans.editPlan(change))
const promote = async (freezesFirst: boolean): Promise<void> => {
  const of = chosen.value!
  try {
    const frozen = freezesFirst ? await frozenBefore(of.name) : null
    attempt(() => {
      const promoted = promoteScenario(base.value, of.id)
      plans.editPlan(frozen === null ? promoted : { kind: 'all', changes: [frozen, promoted] })
    })
  } catch (error) {
    problem.value = (error as Error).message
  }
}
/** The plan as it stands, dates and money, before a scenario becomes it. */
const frozenBefore = (scenario: string): Promise<Change> =>
  plans.question('frozenNow', {
    name: `Before ${scenario || 'a scenario'}`,
    note: '',
    by: authorName.value,
    ink: nextInk(base.value),
    at: formatInstant(fromUnixTime(Date.now())),
    only: null,
  })
/** @param base - what it is to stand on; null: the plan */
const branch = async (base: string | null): Promise<void> => {
  const id = freshId(scenarios.value, 's', Math.random)
  const item = {
    id,
    name: `Alternative ${scenarios.value.length + 1}`,
    by: authorName.value,
    why: '',
    holdsIf: '',
    ...(base !== null && { base }),
  }
  if (!tryEdit({ kind: 'add', list: 'scenarios', item, before: null })) return
  chosenId.value = id
  await sheet.value?.nameIt()
}
/** One of a colleague's, as it came; the news offers to take it back. */
const takeIn = (change: Change, id: string): void => {
  if (tryEdit(change)) chosenId.value = id
}
const exportAlone = (): void => {
  const { id, name } = chosen.value!
  const file = `${base.value.project.code || 'plan'}-${name || 'scenario'}`.replaceAll(/[^\w.-]+/g, '-')
  download(writePlan(scenarioAlone(base.value, id)), `${file}.geodrome.json`, 'application/json')
}
const setField = (field: 'name' | 'by' | 'why' | 'holdsIf', text: string): void => {
  const value = text.trim()
  if (chosen.value && value !== chosen.value[field])
    tryEdit({ kind: 'set', list: 'scenarios', key: chosen.value.id, set: { [field]: value } })
}
const workIn = async (): Promise<void> => {
  const { id } = chosen.value!
  // First away from this stage, which looks at the plan itself.
  await router.push({ name: 'network', params: route.params })
  plans.viewScenario(id)
}
const show = async (activity: string): Promise<void> => {
  await workIn()
  ui.select(activity, { show: true })
}
</script>

<template>
  <div class="with-side">
    <section class="middle scroll">
      <template v-if="scenarios.length > 0">
        <h1 data-test="choice">{{ choice[0] ?? 'What would each alternative buy?' }}</h1>
        <p v-for="sentence in choice.slice(1)" :key="sentence" class="soft" data-test="choice-more">
          {{ sentence }}
        </p>
        <p v-if="failure" class="brick" role="alert">{{ failure }}</p>
        <p
          v-for="one in shown.filter(({ undated }) => undated !== '')"
          :key="one.id!"
          class="brick"
          role="alert"
        >
          {{ one.name }}: with its changes the plan cannot be scheduled. {{ one.undated }}
        </p>
        <div class="run">
          <ActButton
            v-if="missing.length > 0"
            kind="primary"
            :disabled="forecast.running !== null || plans.pending.length > 0"
            data-test="run-both"
            @click="runThem"
            >{{
              missing.length === shown.length
                ? 'Forecast all with the same random numbers'
                : `Forecast ${missing.length} more with the same random numbers`
            }}</ActButton
          >
          <template v-if="running">
            <span class="soft" role="status">{{ running }}</span>
            <ActButton kind="noun" @click="forecast.cancel()">Stop</ActButton>
          </template>
          <span v-else-if="plans.pending.length > 0 && missing.length > 0" class="signal"
            >Runs start from what is stored.</span
          >
          <span v-if="forecast.failure" class="brick" role="alert">{{ forecast.failure }}</span>
        </div>
        <DotsByScenario
          :shown="shown"
          :chosen="chosen?.id ?? null"
          :required="required"
          @choose="chosenId = $event"
        />
        <ScenarioTable v-if="calendars" :plan="base" :shown="shown" :chosen="chosen?.id ?? null" />
        <ChangedStrip
          v-if="calendars && plans.view && chosenBeside && seen && chosenBeside.moves.length > 0"
          :key="chosen!.id"
          :plan="seen"
          :beside="chosenBeside"
          :calendars="calendars"
          @show="show"
        />
      </template>
      <template v-else>
        <h1>What would each alternative buy?</h1>
        <p class="soft">
          Branch one, change what would differ, and see finish, cost, longest path and percentiles beside the
          plan, on the same draws.
        </p>
        <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      </template>
    </section>
    <aside class="side-pane scroll">
      <div class="begin">
        <ActButton data-test="branch" @click="branch(null)">Branch an alternative</ActButton>
        <TakeScenario :plan="base" @take="takeIn" />
      </div>
      <template v-if="scenarios.length > MOST_BESIDE">
        <h3>Beside the plan, {{ MOST_BESIDE }} at once</h3>
        <TickBox
          v-for="one in scenarios"
          :key="one.id"
          :model-value="besidePlan.includes(one.id)"
          :disabled="!besidePlan.includes(one.id) && besidePlan.length >= MOST_BESIDE"
          @update:model-value="pick(one.id, $event)"
          >{{ one.name || 'No name' }}</TickBox
        >
      </template>
      <ScenarioSheet
        v-if="chosen"
        ref="sheet"
        :key="chosen.id"
        :plan="base"
        :scenario="chosen"
        :beside="chosenBeside"
        :problem="problem"
        @field="setField"
        @take-out="tryEdit({ kind: 'remove', list: 'scenarioChanges', key: $event })"
        @keep-though="tryEdit(keepThough($event))"
        @work="workIn"
        @promote="promote"
        @save="exportAlone"
        @branch="branch(chosen.id)"
        @base="tryEdit({ kind: 'set', list: 'scenarios', key: chosen.id, set: { base: $event } })"
        @discard="tryEdit(removeScenario(base, chosen.id))"
      />
    </aside>
  </div>
  <FootLine
    ><span>{{ counted(scenarios.length, 'scenario') }}</span
    ><span v-if="scenarios.length > 0"
      >{{ draws.iterations.toLocaleString('en') }} iterations each, seed {{ draws.seed
      }}{{ draws.risks ? '' : ', spread only' }}: same random numbers</span
    ><span v-if="scenarios.length > 0"
      >A mark: 2 in 100; open beyond the 80 %; a stroke: as planned</span
    ></FootLine
  >
</template>

<style scoped>
.begin {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.middle {
  padding: 16px 18px 24px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.run {
  display: flex;
  gap: 12px;
  align-items: center;
}
.side-pane > .act-button {
  align-self: flex-start;
}
</style>
