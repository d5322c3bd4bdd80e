<script setup lang="ts">
import { computed } from 'vue'
import { amountWords, durationWords, instantOf, instantWords, type Plan } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import FactTable from '../../controls/FactTable.vue'
import type { Shown } from './shown.ts'

/** Everything that the plan and its alternatives are compared by, one column each. */
const props = defineProps<{
  plan: Plan
  shown: readonly Shown[]
  chosen: string | null
  calendars: CalendarLookup
}>()

const minutes = (length: number): string => durationWords(Math.abs(length), props.calendars.projectLengths)
const day = (date: string): string => instantWords(instantOf(date, 'finish'), 'finish', { time: false })
const money = (amount: number): string => amountWords(Math.round(amount))
const signed = (amount: number): string =>
  `${amount > 0 ? '+' : amount < 0 ? '−' : ''}${money(Math.abs(amount))}`
const hundred = (share: number): string => `${Math.round(share * 100)} of 100`
const codes = computed(() => new Map(props.plan.activities.map(({ id, code }) => [id, code])))
const codesOf = (ids: readonly string[]): string => {
  const named = ids.map((id) => codes.value.get(id) ?? 'new work')
  return named.length > 4 ? `${named.slice(0, 3).join(', ')} and ${named.length - 3} more` : named.join(', ')
}
const pathWords = ({ itself, beside }: Shown): string => {
  if (!itself) return ''
  if (!beside) return `${itself.longestPath.length} activities`
  const { joinedLongestPath: joined, leftLongestPath: left } = beside.difference
  if (joined.length === 0 && left.length === 0) return `the same ${itself.longestPath.length}`
  return [
    ...(joined.length > 0 ? [`joined: ${codesOf(joined)}`] : []),
    ...(left.length > 0 ? [`left: ${codesOf(left)}`] : []),
  ].join('; ')
}
const findingsWords = ({ itself, beside }: Shown): string => {
  if (!itself) return ''
  if (!beside) return String(itself.findings)
  return [
    String(itself.findings),
    ...(beside.opened.length > 0 ? [`${beside.opened.length} opened`] : []),
    ...(beside.closed.length > 0 ? [`${beside.closed.length} closed`] : []),
  ].join(', ')
}
const floatWords = ({ beside }: Shown): string => {
  if (!beside) return ''
  const { gainedFloat, lostFloat } = beside.difference
  return gainedFloat.length + lostFloat.length === 0
    ? 'the same'
    : [
        ...(gainedFloat.length > 0 ? [`${gainedFloat.length} gained`] : []),
        ...(lostFloat.length > 0 ? [`${lostFloat.length} lost`] : []),
      ].join(', ')
}
const total = ({ itself }: Shown): number | null =>
  itself?.cost ? itself.cost.work + itself.cost.damages : null
const againstPlan = (one: Shown): string => {
  const [own, base] = [total(one), total(props.shown[0]!)]
  if (own === null || base === null) return ''
  return one.id === null ? money(own) : signed(own - base)
}
interface Row {
  readonly name: string
  readonly test: string
  readonly words: (one: Shown) => string
}
const rows = computed((): Row[] => {
  const { requiredFinish, currency } = props.plan.project
  const isSimulated = props.shown.some(({ result }) => result !== null)
  const hasCost = props.shown.some((one) => total(one) !== null)
  const hasDamages = props.plan.damages.length > 0
  const row = (name: string, test: string, words: (one: Shown) => string): Row => ({ name, test, words })
  return [
    row('Finish planned', 'finish', ({ itself }) => (itself ? instantWords(itself.finish, 'finish') : '')),
    row('Against the plan', 'gain', ({ beside }) =>
      !beside
        ? ''
        : beside.later === 0
          ? 'the same'
          : `${minutes(beside.later)} ${beside.later < 0 ? 'earlier' : 'later'}`,
    ),
    ...(requiredFinish === null
      ? []
      : [
          row(`Against ${day(requiredFinish)}`, 'short', ({ itself }) =>
            itself?.short == null
              ? ''
              : itself.short > 0
                ? `${minutes(itself.short)} short`
                : itself.short < 0
                  ? `${minutes(itself.short)} to spare`
                  : 'kept, nothing to spare',
          ),
        ]),
    ...(isSimulated
      ? [
          row('50 % sure by', 'p50', ({ result }) => (result ? day(result.percentiles['50']!) : 'not run')),
          row('80 % sure by', 'p80', ({ result }) => (result ? day(result.percentiles['80']!) : 'not run')),
          row('Earlier than the plan, same draws', 'paired', ({ pairing }) =>
            pairing
              ? `${hundred(pairing.earlier / pairing.pairs)}, the same in ${Math.round((100 * pairing.equal) / pairing.pairs)}`
              : '',
          ),
          ...(requiredFinish === null
            ? []
            : [
                row(`Keeps ${day(requiredFinish)}`, 'keeps', ({ result }) =>
                  result?.requiredProbability == null ? '' : hundred(result.requiredProbability),
                ),
              ]),
        ]
      : []),
    row('Expected by PERT', 'expected', ({ itself }) => (itself ? day(itself.pert.finish) : '')),
    ...(hasCost
      ? [
          row(`Cost at completion, ${currency}`, 'cost', ({ itself }) =>
            itself?.cost ? money(itself.cost.work) : '',
          ),
          ...(hasDamages
            ? [
                row(`Damages, ${currency}`, 'damages', ({ itself }) =>
                  itself?.cost ? money(itself.cost.damages) : '',
                ),
              ]
            : []),
          row(hasDamages ? 'Both, and against the plan' : 'Against the plan', 'total', againstPlan),
        ]
      : []),
    row('Longest path', 'path', pathWords),
    row('Float', 'float', floatWords),
    row('Complexity', 'complexity', ({ itself }) => (itself ? String(itself.complexity) : '')),
    row('Findings', 'findings', findingsWords),
  ]
})
</script>

<template>
  <FactTable class="side-by-side" data-test="side-by-side">
    <thead>
      <tr>
        <td />
        <th
          v-for="one in shown"
          :key="one.id ?? 'plan'"
          scope="col"
          :class="{ chosen: one.id !== null && one.id === chosen }"
        >
          <span :style="{ color: one.colour }" aria-hidden="true">{{ one.mark }}</span> {{ one.name }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.name">
        <th scope="row">{{ row.name }}</th>
        <td
          v-for="one in shown"
          :key="one.id ?? 'plan'"
          :class="{ chosen: one.id !== null && one.id === chosen }"
          :data-test="
            one.id === null ? `plan-${row.test}` : one.id === chosen ? `scenario-${row.test}` : undefined
          "
        >
          {{ one.undated ? (row.test === 'finish' ? 'no dates' : '') : row.words(one) }}
        </td>
      </tr>
    </tbody>
  </FactTable>
</template>

<style scoped>
.side-by-side {
  table-layout: fixed;
}
.side-by-side thead td {
  width: 205px;
}
.side-by-side th,
.side-by-side td {
  padding: 2px 10px;
  line-height: 1.3;
  text-align: right;
}
.side-by-side th[scope='row'] {
  text-align: left;
  font-weight: 400;
  color: var(--soft-ink);
  padding-left: 0;
  white-space: nowrap;
}
.side-by-side thead th {
  white-space: normal;
  vertical-align: bottom;
  border-bottom: 1.5px solid var(--ink);
}
.side-by-side .chosen {
  background: var(--wash);
}
.side-by-side td.chosen {
  font-weight: 600;
}
</style>
