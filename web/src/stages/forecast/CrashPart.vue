<script setup lang="ts">
import { computed, ref, shallowRef, toRaw, watch } from 'vue'
import {
  frequencyWords,
  amountWords,
  counted,
  durationWords,
  instantOf,
  instantWords,
  newScenario,
  readDate,
  type Plan,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import LongWorkLine from '../../controls/LongWorkLine.vue'
import NumberField from '../../controls/NumberField.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import TextField from '../../controls/TextField.vue'
import { finishOptions, optionsOf, WHOLE_PLAN } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { CrashRequest, CrashStepView, CrashView } from '../../workers/crashProtocol.ts'
import CrashWorker from '../../workers/crash.worker.ts?worker'
import CrashCurve from './CrashCurve.vue'
import CrashData from './CrashData.vue'
import CrashSure from './CrashSure.vue'

/** The cheapest way to each finish, what it costs in all, and why cheaper-looking work is left alone. */
const props = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string]; scenario: [id: string] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const plan = computed(() => plans.viewPlan!)
const currency = computed(() => plan.value.project.currency)

const to = ref(WHOLE_PLAN)
const targets = computed(() => finishOptions('the whole plan', plan.value.activities))
const AMOUNTS = [
  ['whole', 'whole days'],
  ['fractions', 'fractions'],
] as const
const amounts = ref<(typeof AMOUNTS)[number][0]>('whole')
const ASKS = [
  ['date', 'by a date'],
  ['budget', 'within a budget'],
] as const
const asks = ref<(typeof ASKS)[number][0]>('date')
/** A plan without any begins with the sheet, and stays there while it is filled in. */
const isEditing = ref(!plan.value.activities.some(({ crash }) => crash))

const found = shallowRef<{ readonly plan: Plan; readonly asked: string; readonly view: CrashView } | null>(
  null,
)
const { isRunning, failure, wasStopped, begin, end, stop } = useLongWork<CrashRequest, CrashView>(
  () => new CrashWorker(),
)
const asked = computed(() => `${to.value}|${amounts.value}`)
/** Sought anew for another plan or another question; what was found for another is not shown. */
const seek = (): void => {
  end()
  failure.value = ''
  const of = plan.value
  const question = asked.value
  if (!of.activities.some(({ crash }) => crash)) return
  const request: CrashRequest = {
    plan: toRaw(of),
    to: to.value === WHOLE_PLAN ? null : to.value,
    whole: amounts.value === 'whole',
  }
  begin(request, (answer) => (found.value = { plan: of, asked: question, view: answer }))
}
watch([plan, asked], seek, { immediate: true })
const view = computed(() =>
  found.value?.plan === plan.value && found.value.asked === asked.value ? found.value.view : null,
)

/** What is asked: a date (the required finish unless another is typed), or a budget. */
const by = ref<string | null>(null)
const byProblem = ref('')
const required = computed(() => {
  const { requiredFinish } = plan.value.project
  return requiredFinish === null || to.value !== WHOLE_PLAN ? null : instantOf(requiredFinish, 'finish')
})
const deadline = computed(() => (by.value === null ? required.value : instantOf(by.value, 'finish')))
const byShown = computed(() =>
  deadline.value === null ? '' : instantWords(deadline.value, 'finish', { time: false }),
)
const keepBy = (text: string): void => {
  const read = text.trim() === '' ? null : readDate(text, plans.view!.projectFinish)
  byProblem.value = read && !read.ok ? read.why : ''
  if (read === null) by.value = null
  else if (read.ok) by.value = read.date
}
const budget = ref(10_000)
/** Picked in the drawing or the table; null: what the question asks for. */
const picked = ref<number | null>(null)
watch([view, by, budget, asks], () => (picked.value = null))
const answerAt = computed(() => {
  const steps = view.value?.steps ?? []
  if (asks.value === 'budget') return steps.findLastIndex(({ cost }) => cost.crashing <= budget.value + 1e-6)
  const due = deadline.value
  return due === null ? leastAt.value : steps.findIndex(({ finish }) => finish <= due)
})
const leastAt = computed(() => {
  const steps = view.value?.steps ?? []
  return steps.reduce((best, { cost }, k) => (cost.total < steps[best]!.cost.total - 1e-9 ? k : best), 0)
})
const chosenAt = computed(
  () => picked.value ?? (answerAt.value >= 0 ? answerAt.value : (view.value?.steps.length ?? 1) - 1),
)
const chosen = computed((): CrashStepView | null => view.value?.steps[chosenAt.value] ?? null)
const normal = computed(() => view.value?.steps[0] ?? null)

const date = (at: number): string => instantWords(at, 'finish', { time: false })
const money = (amount: number): string => `${amountWords(Math.round(amount))} ${currency.value}`
const activityOf = (id: string) => plan.value.activities.find((one) => one.id === id)!
const codeOf = (id: string): string => activityOf(id).code
const nameOf = (id: string): string => activityOf(id).name
const days = (id: string, minutes: number): string =>
  durationWords(Math.abs(minutes), props.calendars.lengthsOf(activityOf(id)))
const title = computed(() => {
  const v = view.value
  if (!v)
    return isRunning.value
      ? 'Looking for the cheapest way to each finish …'
      : wasStopped.value
        ? 'Stopped before a way was found.'
        : 'What would an earlier finish cost?'
  if (v.steps.length < 2) return 'Nothing that can be crashed brings the finish forward.'
  const shortest = v.steps.at(-1)!
  if (asks.value === 'date' && deadline.value !== null && answerAt.value < 0)
    return `${byShown.value} cannot be reached: the earliest is ${date(shortest.finish)}, for ${money(shortest.cost.crashing)}.`
  const at = v.steps[Math.max(0, answerAt.value)]!
  if (answerAt.value === 0)
    return asks.value === 'date' && deadline.value !== null
      ? `${byShown.value} is kept without crashing.`
      : 'Not crashing at all costs the least.'
  return `${date(at.finish)} costs ${money(at.cost.crashing)} in crashing.`
})
const subtitle = computed(() => {
  const v = view.value
  if (!v || v.steps.length < 2) return ''
  const least = v.steps[leastAt.value]!
  return leastAt.value === 0
    ? 'In all, no earlier finish costs less than the planned one.'
    : `The least total is at ${date(least.finish)}: ${money(normal.value!.cost.total - least.cost.total)} less than the plan as it is.`
})
const proof = computed(() => {
  const v = view.value
  if (!v) return ''
  return v.isProven
    ? 'Proven: no other choice costs less for any of these finishes.'
    : 'The network’s own optimum, tried on every calendar and bettered where a calendar gives more; on several calendars that is the cheapest found, not a proof.'
})
/** Why it goes no further: the path, and where on it a calendar holds. */
const blocked = computed(() => {
  const v = view.value
  if (!v || v.steps.length === 0) return ''
  const wait = v.waits.find(({ activity }) => v.blocking[0] === activity)
  const path = v.blocking.filter((id) => activityOf(id).kind === 'work').map(codeOf)
  const held = wait
    ? `${codeOf(wait.activity)} waits for ${props.calendars.name(props.calendars.idOf(activityOf(wait.activity)))} until ${instantWords(wait.until, 'start')}; then `
    : ''
  return `No earlier: ${held}${path.join(', ')} ${path.length === 1 ? 'is' : 'are'} at the shortest.`
})
const WHY = {
  'at-its-limit': 'at its shortest',
  'has-float': 'float',
  'saves-nothing': 'saves nothing, a calendar takes the time up',
  'saves-less': 'saves less, another path is as long',
} as const
/** The cheapest three by name, the rest counted by reason. */
const notUsed = (step: CrashStepView): { named: CrashStepView['notUsed']; rest: string } => {
  // What looks as if it helped comes first: that something has float is known.
  const order = [...step.notUsed].sort(
    (a, b) => Number(a.why === 'has-float') - Number(b.why === 'has-float'),
  )
  const named = order.slice(0, 2)
  const counts = new Map<string, number>()
  for (const { why } of order.slice(2)) counts.set(WHY[why], (counts.get(WHY[why]) ?? 0) + 1)
  return { named, rest: [...counts].map(([why, n]) => `${n} more: ${why}`).join('; ') }
}
const change = (step: CrashStepView, minutes: number, id: string): string => {
  const normalMinutes = activityOf(id).duration
  const all = step.crashed.find(({ activity }) => activity === id)?.minutes ?? 0
  return `${days(id, normalMinutes - all + minutes)} → ${days(id, normalMinutes - all)}`
}
const asScenario = (): void => {
  const step = chosen.value
  if (!step) return
  const { change: scenario, id } = newScenario(
    plans.base!,
    { name: `Crashed to ${date(step.finish)}`, by: authorName.value, why: title.value, holdsIf: '' },
    step.change.kind === 'all' ? step.change.changes : [step.change],
    Math.random,
  )
  if (attempt(() => plans.editPlan(scenario))) emit('scenario', id)
}
const hasData = computed(() => plan.value.activities.some(({ crash }) => crash))
const inHundred = (share: number | null): string => (share === null ? '' : frequencyWords(share))
</script>

<template>
  <div class="with-side">
    <section class="answer scroll">
      <p v-if="failure" class="brick" role="alert" data-test="crash-failure">{{ failure }}</p>
      <template v-if="isEditing">
        <header>
          <h1>What can be done faster, and what that costs</h1>
          <ActButton v-if="hasData" kind="primary" @click="isEditing = false">Done</ActButton>
        </header>
        <p class="soft">
          The shortest duration, and the cost at normal and at shortest. What stands between is bought at the
          slope. An activity without a shortest duration cannot be crashed.
        </p>
        <CrashData :calendars="calendars" />
      </template>
      <template v-else>
        <h1 data-test="crash-title">{{ title }}</h1>
        <p class="soft" data-test="crash-least">{{ subtitle }}</p>
        <template v-if="view && view.steps.length > 1">
          <CrashCurve
            :steps="view.steps"
            :chosen="chosenAt"
            :required="required"
            :currency="currency"
            @choose="picked = $event"
          />
          <FactTable class="table" name="Crashing step by step" data-test="crash-steps">
            <thead>
              <tr>
                <th>Finish</th>
                <th>What is crashed, step by step</th>
                <th class="right">{{ currency }} a day</th>
                <th class="right">in all</th>
                <th>Cheaper-looking, not used</th>
              </tr>
            </thead>
            <tbody>
              <tr
                v-for="(step, k) in view.steps.slice(1)"
                :key="step.finish"
                :class="{ now: k + 1 === chosenAt }"
              >
                <td>
                  <ActButton kind="noun" :aria-pressed="k + 1 === chosenAt" @click="picked = k + 1">{{
                    date(step.finish)
                  }}</ActButton>
                  <span v-if="k + 1 === leastAt" class="soft mark">least total</span>
                  <span v-if="k + 1 === view.steps.length - 1" class="soft mark">shortest</span>
                </td>
                <td>
                  <span v-for="one in step.changes" :key="one.activity" class="change"
                    ><ActButton kind="noun" @click="emit('show', one.activity)"
                      ><span class="code">{{ codeOf(one.activity) }}</span></ActButton
                    >
                    {{ nameOf(one.activity) }}, {{ change(step, one.minutes, one.activity)
                    }}<span v-if="one.option" class="soft"> · {{ one.option }}</span></span
                  >
                  <span v-if="step.changes.length > 1" class="soft">{{ step.changes.length }} at once</span>
                </td>
                <td class="right">{{ amountWords(Math.round(step.perDay)) }}</td>
                <td class="right">{{ amountWords(Math.round(step.cost.total - normal!.cost.total)) }}</td>
                <td class="soft">
                  <span v-for="one in notUsed(step).named" :key="one.activity" class="change"
                    ><strong>{{ codeOf(one.activity) }}</strong> at {{ amountWords(Math.round(one.slope)) }}:
                    {{ WHY[one.why] }}</span
                  >
                  <span class="change">{{ notUsed(step).rest }}</span>
                </td>
              </tr>
            </tbody>
          </FactTable>
          <p class="soft">{{ blocked }}</p>
        </template>
        <p v-else-if="view" class="soft">{{ blocked }}</p>
      </template>
    </section>
    <aside class="side-pane scroll">
      <div class="field">
        <span>Finish of</span>
        <ChoiceField v-model="to" label="Finish of" :options="targets" />
      </div>
      <RadioChoice v-model="asks" label="What is asked" :options="optionsOf(ASKS)" />
      <div v-if="asks === 'date'" class="field">
        <TextField
          :kept="byShown"
          label="Finish by"
          :invalid="byProblem !== ''"
          placeholder="thu 1 jul"
          @keep="keepBy"
        />
        <span v-if="byProblem" class="brick" role="alert">{{ byProblem }}</span>
      </div>
      <div v-else class="field">
        <NumberField v-model="budget" label="Budget for crashing" :min="0" :max="1e12" :step="1000" />
      </div>
      <RadioChoice v-model="amounts" label="Amounts" :options="optionsOf(AMOUNTS)" />
      <ActButton v-if="hasData && !isEditing" kind="noun" data-test="crash-edit" @click="isEditing = true"
        >Edit what can be crashed</ActButton
      >
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <template v-if="chosen && chosen.crashed.length > 0 && !isEditing">
        <h2>The cheapest way to {{ date(chosen.finish) }}</h2>
        <p class="soft">{{ proof }}</p>
        <FactTable class="bill" name="Cost of the cheapest way" data-test="crash-bill">
          <tbody>
            <tr v-for="one in chosen.crashed" :key="one.activity">
              <td>
                <ActButton kind="noun" @click="emit('show', one.activity)">{{
                  codeOf(one.activity)
                }}</ActButton>
                {{ days(one.activity, one.minutes) }} shorter{{ one.option ? `, ${one.option}` : '' }}
              </td>
              <td class="right">{{ amountWords(Math.round(one.price)) }}</td>
            </tr>
            <tr v-if="chosen.cost.time !== normal!.cost.time">
              <td>Hammocks and cost per day</td>
              <td class="right">{{ amountWords(Math.round(chosen.cost.time - normal!.cost.time)) }}</td>
            </tr>
            <tr v-if="chosen.cost.damages !== normal!.cost.damages">
              <td>Damages</td>
              <td class="right">{{ amountWords(Math.round(chosen.cost.damages - normal!.cost.damages)) }}</td>
            </tr>
            <tr class="sum">
              <td>Against {{ date(normal!.finish) }}</td>
              <td class="right">{{ money(chosen.cost.total - normal!.cost.total) }}</td>
            </tr>
          </tbody>
        </FactTable>
        <template v-if="normal!.pert.probability !== null">
          <h3>How sure, by PERT</h3>
          <p data-test="crash-sure">
            The required finish is kept in <strong>{{ inHundred(chosen.pert.probability) }}</strong>, not
            crashed in {{ inHundred(normal!.pert.probability) }}. Estimates shrink with what is crashed.
          </p>
        </template>
        <CrashSure
          :plan="plan"
          :normal="normal!"
          :step="chosen"
          :to="to === WHOLE_PLAN ? null : to"
          :due="deadline"
          :calendars="calendars"
        />
        <p>
          <ActButton
            v-if="plans.whyNotPlan === ''"
            kind="primary"
            data-test="crash-scenario"
            @click="asScenario"
            >Make it a scenario</ActButton
          >
        </p>
      </template>
    </aside>
  </div>
  <FootLine>
    <span>{{ counted(view?.crashable ?? 0, 'activity') }} can be crashed</span>
    <span v-if="view">{{ counted(view.steps.length, 'finish date') }} on the calendars</span>
    <LongWorkLine
      :is-running="isRunning"
      :was-stopped="wasStopped"
      doing="Looking for the cheapest way"
      @stop="stop"
      @again="seek"
    />
  </FootLine>
</template>

<style scoped>
.answer {
  padding: 12px 18px 24px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.field {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-size: 12.5px;
}
.table td {
  vertical-align: top;
}
.now td {
  background: var(--wash);
}
.change,
.mark {
  display: block;
}
.right {
  text-align: right;
}
.bill {
  width: 100%;
  border-collapse: collapse;
}
.bill td {
  padding: 3px 0;
  vertical-align: top;
}
.bill .right {
  padding-left: 8px;
  white-space: nowrap;
}
.bill .sum td {
  border-top: 1.5px solid var(--ink);
  font-weight: 700;
}
</style>
