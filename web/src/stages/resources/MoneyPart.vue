<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import {
  amountWords,
  baselineOf,
  curveBy,
  durationWords,
  formatInstant,
  instantWords,
  roundMoneyWords,
  type Period,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import { optionsOf } from '../../controls/options.ts'
import FactTable from '../../controls/FactTable.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { MoneyBeside } from '../../workers/questions.ts'
import { balanceWords } from './balanceWords.ts'
import DamagesSheet from './DamagesSheet.vue'
import MoneyCurve from './MoneyCurve.vue'
import { moneyLines } from './moneyLines.ts'

/** What it costs, when, and what lateness costs. */
const props = defineProps<{ money: MoneyBeside; calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const curve = useTemplateRef<InstanceType<typeof MoneyCurve>>('curve')

const plan = computed(() => plans.viewPlan!)
const currency = computed(() => plan.value.project.currency)
const hasStatus = computed(() => plan.value.project.statusDate !== null)
const agreedName = computed(() => baselineOf(plan.value)?.name || 'the baseline')
const damages = computed(() => props.money.damages.reduce((sum, { amount }) => sum + amount, 0))
const title = computed(() => {
  const { atCompletion, planned } = props.money.total
  if (atCompletion === 0 && damages.value === 0) return 'Nothing costs anything yet.'
  const change = atCompletion - planned
  const against =
    Math.abs(change) < 0.005
      ? ''
      : `, ${roundMoneyWords(Math.abs(change), currency.value)} ${change > 0 ? 'more' : 'less'} than planned`
  const late = damages.value > 0 ? `, and ${amountWords(damages.value)} of damages` : ''
  return `${roundMoneyWords(atCompletion, currency.value)} at completion${against}${late}.`
})
const lines = computed(() => moneyLines(plan.value, props.money))
const largest = computed(() =>
  Math.max(1, ...lines.value.map(({ sum }) => Math.max(sum.atCompletion, sum.planned))),
)
const dash = (amount: number): string => (Math.abs(amount) < 0.005 ? '–' : amountWords(Math.round(amount)))
const signed = (amount: number): string =>
  Math.abs(amount) < 0.5 ? '' : `${amount > 0 ? '+' : ''}${amountWords(Math.round(amount))}`
const PERIODS = [
  ['day', 'by day'],
  ['week', 'by week'],
  ['month', 'by month'],
] as const
const period = ref<Period>('month')
/** What falls into each period on early dates, and the sums at its end on early and on late dates. */
const overTime = computed(() => {
  const rows = curveBy(props.money.curve, period.value)
  return rows.map(({ day, early, late }, k) => ({
    day: formatInstant(day * 1440).slice(0, 10),
    until: instantWords((day + 1) * 1440, 'finish', { time: false }),
    own: early - (rows[k - 1]?.early ?? 0),
    early,
    late,
  }))
})
const hammocks = computed(() =>
  props.money.hammocks.map((i) => {
    const activity = plan.value.activities[i]!
    return {
      activity,
      start: instantWords(plans.view!.start[i]!, 'start'),
      finish: instantWords(plans.view!.finish[i]!, 'finish'),
      length: durationWords(props.money.length[i]!, props.calendars.lengthsOf(activity)),
      calendar: props.calendars.name(props.calendars.idOf(activity)),
      cost: roundMoneyWords(props.money.atCompletion[i]!, currency.value),
    }
  }),
)
const payments = computed(() =>
  props.money.payments.map((payment) => ({
    ...payment,
    of: plan.value.activities[payment.activity]!,
    day: instantWords(payment.at, 'finish', { time: false }),
  })),
)
defineExpose({ zoom: (factor: number) => curve.value?.zoom(factor), fit: () => curve.value?.fit() })
</script>

<template>
  <div class="money with-side">
    <section class="sheet scroll">
      <h1 data-test="money-title">{{ title }}</h1>
      <p class="soft" data-test="balance">{{ balanceWords(money, currency) }}</p>
      <template v-if="money.total.atCompletion !== 0 || money.payments.length > 0">
        <MoneyCurve ref="curve" :money="money" :calendars="calendars" />
        <FactTable class="table by-group" name="Cost by group" data-test="money-table">
          <thead>
            <tr>
              <th colspan="2">{{ currency }}, by group</th>
              <th v-if="money.agreed" class="right" :title="`In ${agreedName}`">Agreed</th>
              <th class="right">Planned</th>
              <th class="right">At completion</th>
              <th class="right">Difference</th>
              <th v-if="hasStatus" class="right">Spent</th>
              <th v-if="hasStatus" class="right">To come</th>
              <th>{{ hasStatus ? 'Spent in what it costs' : 'Share' }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in lines" :key="row.id">
              <td class="code">{{ row.code }}</td>
              <td>
                <ActButton v-if="row.isActivity" kind="noun" @click="emit('show', row.id)">{{
                  row.name
                }}</ActButton><template v-else>{{ row.name }}</template>
              </td>
              <td v-if="money.agreed" class="right">{{ row.agreed === null ? '' : dash(row.agreed) }}</td>
              <td class="right">{{ dash(row.sum.planned) }}</td>
              <td class="right">
                <strong>{{ dash(row.sum.atCompletion) }}</strong>
              </td>
              <td class="right">{{ signed(row.sum.atCompletion - row.sum.planned) }}</td>
              <td v-if="hasStatus" class="right">{{ dash(row.sum.spent) }}</td>
              <td v-if="hasStatus" class="right">{{ dash(row.sum.atCompletion - row.sum.spent) }}</td>
              <td>
                <svg width="124" height="14" aria-hidden="true">
                  <rect
                    class="whole"
                    x="1"
                    y="2"
                    :width="Math.max(2, (row.sum.atCompletion / largest) * 120)"
                    height="10"
                    rx="5"
                  />
                  <rect
                    v-if="row.sum.spent > 0"
                    class="part"
                    x="3"
                    y="5"
                    :width="Math.max(2, (row.sum.spent / largest) * 120 - 4)"
                    height="4"
                    rx="2"
                  />
                </svg>
              </td>
            </tr>
            <tr v-for="clause in money.damages" :key="clause.id">
              <td />
              <td>
                {{ plan.damages.find(({ id }) => id === clause.id)?.name || 'Damages' }}
                <span class="soft">(damages)</span>
              </td>
              <td v-if="money.agreed" />
              <td class="right">–</td>
              <td class="right">
                <strong>{{ dash(clause.amount) }}</strong>
              </td>
              <td class="right">{{ signed(clause.amount) }}</td>
              <td v-if="hasStatus" class="right">–</td>
              <td v-if="hasStatus" class="right">{{ dash(clause.amount) }}</td>
              <td />
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <td />
              <th>Total</th>
              <td v-if="money.agreed" class="right" data-test="money-agreed">
                {{ dash(money.agreed.total) }}
              </td>
              <td class="right">{{ dash(money.total.planned) }}</td>
              <td class="right" data-test="money-total">
                <strong>{{ dash(money.total.atCompletion + damages) }}</strong>
              </td>
              <td class="right">{{ signed(money.total.atCompletion + damages - money.total.planned) }}</td>
              <td v-if="hasStatus" class="right">{{ dash(money.total.spent) }}</td>
              <td v-if="hasStatus" class="right">
                {{ dash(money.total.atCompletion + damages - money.total.spent) }}
              </td>
              <td />
            </tr>
          </tfoot>
        </FactTable>
        <div class="over-time">
          <h2>Over time</h2>
          <ChoiceField v-model="period" label="Periods" :options="optionsOf(PERIODS)" />
        </div>
        <FactTable class="table" :name="`Cost by ${period}`" data-test="over-time">
          <thead>
            <tr>
              <th>Until</th>
              <th class="right">In the {{ period }}</th>
              <th class="right">Sum on early dates</th>
              <th class="right">Sum on late dates</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in overTime" :key="row.day">
              <td :data-iso="row.day">{{ row.until }}</td>
              <td class="right">{{ dash(row.own) }}</td>
              <td class="right">{{ dash(row.early) }}</td>
              <td class="right">{{ dash(row.late) }}</td>
            </tr>
          </tbody>
        </FactTable>
      </template>
      <p v-else class="soft empty">
        Give resources a price and assign them, or an activity a fixed cost or a cost per day in its Lens.
      </p>
    </section>
    <aside class="side-pane scroll" aria-label="What time costs">
      <h2>What a late finish costs</h2>
      <DamagesSheet :money="money" :calendars="calendars" />
      <template v-if="hammocks.length > 0">
        <h3>What time costs</h3>
        <div v-for="h in hammocks" :key="h.activity.id" data-test="hammock">
          <ActButton kind="noun" @click="emit('show', h.activity.id)"
            >{{ h.activity.code }} {{ h.activity.name }}</ActButton
          >
          <ol class="ladder">
            <li>
              <span>from</span><span>{{ h.start }}</span>
            </li>
            <li>
              <span>to</span><span>{{ h.finish }}</span>
            </li>
            <li>
              <span>length, {{ h.calendar }}</span
              ><span>{{ h.length }}</span>
            </li>
            <li>
              <strong>at {{ roundMoneyWords(h.activity.cost.perDay, currency) }} a day</strong
              ><strong>{{ h.cost }}</strong>
            </li>
          </ol>
        </div>
      </template>
      <h3>Payments</h3>
      <p v-if="payments.length === 0" class="soft">
        None. A payment is a milestone with an amount, said in its Lens.
      </p>
      <ul v-else class="payments">
        <li v-for="p in payments" :key="p.of.id">
          <span
            ><span aria-hidden="true">{{ p.isMade ? '●' : '○' }}</span>
            <ActButton kind="noun" @click="emit('show', p.of.id)">{{ p.of.code }}</ActButton> {{ p.day
            }}<span class="sr">{{ p.isMade ? ', made' : ', to come' }}</span></span
          >
          <span>{{ p.direction === 'out' ? '−' : '' }}{{ amountWords(p.amount) }}</span>
        </li>
      </ul>
    </aside>
  </div>
</template>

<style scoped>
.sheet {
  padding: 12px 18px 30px;
}
.empty {
  padding-top: 12px;
}
.table {
  margin-top: 6px;
}
.table :is(th, td) {
  padding: 3px 8px 3px 0;
}
.over-time {
  display: flex;
  align-items: center;
  gap: 12px;
  padding-top: 18px;
}
.over-time .choice-field {
  width: 130px;
}
.whole {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.part {
  fill: var(--ink);
}
tfoot :is(td, th) {
  border-top: 1.5px solid var(--ink);
}
.ladder {
  list-style: none;
  margin: 6px 0;
  padding: 0 0 0 10px;
  border-left: 2px solid var(--ink);
}
.ladder li,
.payments li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 1px 0;
}
.payments {
  list-style: none;
  margin: 0;
  padding: 0;
}
@media (max-width: 1100px) {
  .by-group :is(th, td):last-child {
    display: none;
  }
  .money {
    --side: 270px;
  }
}
</style>
