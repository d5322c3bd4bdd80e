<script setup lang="ts">
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import { ref } from 'vue'
import { CHECKS, limitProblem, limitWords, type Check } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'

const plans = usePlanStore()
const store = useReviewStore()
const limited = CHECKS.filter((c): c is Check & { limit: NonNullable<Check['limit']> } => c.limit !== null)
const problems = ref<Record<string, string>>({})
const shown = (check: (typeof limited)[number]): number => {
  const value = store.view?.limits[check.id] ?? check.limit.default
  return check.limit.unit === 'share' ? Math.round(value * 10_000) / 100 : value
}
const UNIT = { days: 'd', share: '%', count: '' } as const

/** A limit of one's own: what the others are stays as it is now. */
const set = (check: (typeof limited)[number], typed: string): void => {
  const text = typed
    .trim()
    .replace(',', '.')
    .replace(/\s*(d|%)$/, '')
  const value = text === '' ? Number.NaN : Number(text) / (check.limit.unit === 'share' ? 100 : 1)
  const why = limitProblem(check.limit, value)
  problems.value = { ...problems.value, [check.id]: why ?? '' }
  if (why === null)
    plans.edit({
      kind: 'project',
      set: { review: { preset: 'own', limits: { ...store.view!.limits, [check.id]: value } } },
    })
}
</script>

<template>
  <h1>What counts as too much</h1>
  <p class="soft">
    The limits belong to the plan and go with its file. A figure of your own makes them “own”; house and
    14-point are one click away in the line below.
  </p>
  <FactTable class="limits" name="Thresholds">
    <thead>
      <tr>
        <th>Check</th>
        <th>Found when</th>
        <th class="right">Limit</th>
        <th>House</th>
        <th>Why</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="check in limited" :key="check.id">
        <td>
          <strong>{{ check.title }}</strong> <span class="soft">{{ check.topic }}</span>
        </td>
        <td>{{ check.limit.label }}</td>
        <td class="right">
          <TextField
            :kept="shown(check)"
            inputmode="decimal"
            :label="`Limit of ${check.title}`"
            :invalid="!!problems[check.id]"
            :data-test="`limit-${check.id}`"
            @keep="set(check, $event)"
          />
          <span class="unit">{{ UNIT[check.limit.unit] }}</span>
          <small v-if="problems[check.id]" class="brick" role="alert">{{ problems[check.id] }}</small>
        </td>
        <td class="soft">{{ limitWords(check.limit.default, check.limit) }}</td>
        <td class="soft">{{ check.limit.reason }}</td>
      </tr>
    </tbody>
  </FactTable>
</template>

<style scoped>
.limits {
  border-collapse: collapse;
  margin-top: 14px;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 400;
  font-size: 12px;
  color: var(--soft-ink);
  border-bottom: 1.5px solid var(--ink);
  padding: 6px 8px;
}
th.right {
  text-align: right;
}
td {
  padding: 6px 8px;
  border-bottom: 1px solid var(--hairline);
  vertical-align: baseline;
}
td.right {
  white-space: nowrap;
}
.unit {
  display: inline-block;
  width: 14px;
  text-align: left;
}
small {
  display: block;
  white-space: normal;
}
.text-field {
  width: 84px;
}
</style>
