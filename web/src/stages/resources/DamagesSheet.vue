<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  amountWords,
  chargeWords,
  clauseWords,
  counted,
  dateWords,
  formatInstant,
  freshId,
  instantOf,
  instantWords,
  moneyWords,
  readAmount,
  readDate,
  type Damages,
  type Item,
  type MoneyView,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import TextRow from '../../controls/TextRow.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import { finishOptions, optionsOf, WHOLE_PLAN } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What lateness costs: each clause as one sentence, its arithmetic, and its facts. */
const props = defineProps<{ money: MoneyView; calendars: CalendarLookup }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const opened = ref<string | null>(null)
const { why, refuse, accept } = useRefusals(() => opened.value)
const currency = computed(() => plans.viewPlan!.project.currency)
const unit = ({ per }: Damages): string => (per === 'week' ? 'week' : 'day')
const day = (date: string): string => instantWords(instantOf(date, 'start'), 'start', { time: false })

const clauses = computed(() =>
  plans.viewPlan!.damages.map((clause) => {
    const charge = props.money.damages.find(({ id }) => id === clause.id)
    return {
      clause,
      charge,
      means: clauseWords(clause, charge?.chargeableFrom ?? null),
      now: charge ? chargeWords(plans.viewPlan!, clause, charge) : '',
    }
  }),
)
const measures = computed(() => finishOptions('the project’s finish', plans.viewPlan!.activities))
const calendarOptions = computed(() => [
  { value: 'clock', label: 'every day, weekends too' },
  ...plans.viewPlan!.calendars.map((c) => ({ value: c.id, label: `working days of ${c.name || c.id}` })),
])
const PERS = [
  ['day', 'each begun day'],
  ['week', 'each begun week'],
] as const

const set = (id: string, fields: Item): boolean =>
  attempt(() => plans.edit({ kind: 'set', list: 'damages', key: id, set: fields }))
const setDue = (clause: Damages, text: string): void => {
  const read = readDate(text, instantOf(clause.due, 'finish'))
  if (!read.ok) return refuse('due', read.why)
  accept('due')
  if (read.date !== clause.due) set(clause.id, { due: read.date })
}
/** "2,000; 3,500 from the 15th" */
const stepsText = ({ steps }: Damages): string =>
  steps
    .map(({ from, amount }) => (from === 1 ? amountWords(amount) : `${amountWords(amount)} from ${from}`))
    .join('; ')
const setSteps = (clause: Damages, text: string): void => {
  const steps: Damages['steps'] = []
  for (const part of text
    .split(';')
    .map((p) => p.trim())
    .filter(Boolean)) {
    const match = /^(.+?)(?:\s+from\s+(?:the\s+)?(\d{1,6})(?:st|nd|rd|th)?)?$/i.exec(part)!
    const amount = readAmount(match[1]!)
    if (amount === null || amount < 0)
      return refuse('steps', `“${part}” is not understood; write for example 2,000; 3,500 from 15`)
    const from = Number(match[2] ?? 1)
    if (from < 1 || (steps.length > 0 && from <= steps.at(-1)!.from))
      return refuse('steps', `“${part}” is not after the step before it; put the steps in order`)
    steps.push({ from, amount })
  }
  if (steps.length === 0)
    return refuse('steps', 'without a step nothing is charged; write an amount, or remove the clause')
  accept('steps')
  if (JSON.stringify(steps) !== JSON.stringify(clause.steps)) set(clause.id, { steps })
}
const setCap = (clause: Damages, text: string): void => {
  const cap = text.trim() === '' ? null : readAmount(text)
  if (text.trim() !== '' && (cap === null || cap < 0))
    return refuse('cap', `“${text.trim()}” is not an amount`)
  accept('cap')
  if (cap !== clause.cap) set(clause.id, { cap })
}
const add = (): void => {
  const plan = plans.plan!
  const id = freshId(plan.damages, 'd', Math.random)
  const due = plan.project.requiredFinish?.slice(0, 10)
  const item: Item = {
    id,
    name: 'Late finish',
    due: due ?? formatInstant(plans.view!.projectFinish - 1).slice(0, 10),
    steps: [{ from: 1, amount: 1000 }],
  }
  if (attempt(() => plans.edit({ kind: 'add', list: 'damages', item, before: null }))) opened.value = id
}
const remove = (id: string): void =>
  void attempt(() => plans.edit({ kind: 'remove', list: 'damages', key: id }))
</script>

<template>
  <section class="damages">
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <div v-for="{ clause, charge, means, now } in clauses" :key="clause.id" data-test="damages">
      <h3>{{ clause.name || 'Damages' }}</h3>
      <p>
        {{ means }} <strong>{{ now }}</strong>
      </p>
      <ol v-if="charge && charge.counted > 0" class="ladder">
        <li>
          <span>agreed until</span><span>{{ dateWords(clause.due, 'finish') }}</span>
        </li>
        <li>
          <span>first day charged</span><span>{{ charge.firstDay ? day(charge.firstDay) : '' }}</span>
        </li>
        <li>
          <span>measured</span><span>{{ instantWords(charge.finish, 'finish') }}</span>
        </li>
        <li>
          <strong>{{ counted(charge.units, unit(clause)) }}</strong><strong>{{
            moneyWords(charge.amount, currency)
          }}</strong>
        </li>
        <li>
          <span>the next day adds</span><span>{{ moneyWords(charge.nextDay, currency) }}</span>
        </li>
      </ol>
      <p>
        <ActButton kind="noun" @click="opened = opened === clause.id ? null : clause.id">{{
          opened === clause.id ? 'Done' : 'Change it'
        }}</ActButton>
      </p>
      <div v-if="opened === clause.id" class="fields">
        <TextRow label="Name" :kept="clause.name" @keep="set(clause.id, { name: $event.trim() })" />
        <ChoiceRow
          label="Measures"
          named="What is measured"
          :model-value="clause.measures ?? WHOLE_PLAN"
          :options="measures"
          @update:model-value="set(clause.id, { measures: $event === WHOLE_PLAN ? null : $event })"
        />
        <TextRow
          label="Agreed until"
          :problem="why.get('due')"
          :kept="dateWords(clause.due, 'finish')"
          data-test="damages-due"
          @keep="setDue(clause, $event)"
        />
        <TextRow
          label="Amounts"
          :problem="why.get('steps')"
          :kept="stepsText(clause)"
          placeholder="2,000; 3,500 from 15"
          data-test="damages-steps"
          @keep="setSteps(clause, $event)"
        />
        <ChoiceRow
          label="for"
          named="For what"
          :model-value="clause.per"
          :options="optionsOf(PERS)"
          @update:model-value="set(clause.id, { per: $event })"
        />
        <ChoiceRow
          label="counting"
          named="Days that count"
          :model-value="clause.calendar"
          :options="calendarOptions"
          @update:model-value="set(clause.id, { calendar: $event })"
        />
        <TextRow
          label="At most"
          :problem="why.get('cap')"
          :kept="clause.cap === null ? '' : amountWords(clause.cap)"
          placeholder="no limit"
          @keep="setCap(clause, $event)"
        />
        <p><ActButton @click="remove(clause.id)">Remove this clause</ActButton></p>
      </div>
    </div>
    <p v-if="clauses.length === 0" class="soft">
      Nothing is said of what lateness costs. With a clause, the plan knows the first day that is charged, and
      what every day after it adds.
    </p>
    <p><ActButton data-test="add-damages" @click="add">Add damages</ActButton></p>
  </section>
</template>

<style scoped>
.damages {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.ladder {
  list-style: none;
  margin: 6px 0;
  padding: 0 0 0 10px;
  border-left: 2px solid var(--ink);
}
.ladder li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 1px 0;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding-top: 6px;
}
</style>
