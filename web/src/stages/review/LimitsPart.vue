<script setup lang="ts">
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import { useRefusals } from '../../composables/useRefusals.ts'
import { CHECKS, limitProblem, limitWords, readAmount, type Check } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'

const plans = usePlanStore()
const store = useReviewStore()
const limited = CHECKS.filter((c): c is Check & { limit: NonNullable<Check['limit']> } => c.limit !== null)
const { why, take } = useRefusals()
const shown = (check: (typeof limited)[number]): number => {
  const value = store.view?.limits[check.id] ?? check.limit.default
  return check.limit.unit === 'share' ? Math.round(value * 10_000) / 100 : value
}
const UNIT = { days: 'd', share: '%', count: '' } as const

/** A limit of one's own: what the others are stays as it is now. */
const set = (check: (typeof limited)[number], typed: string): void => {
  const figure = readAmount(typed.replace(/(d|%)\s*$/, '')) ?? Number.NaN
  const value = figure / (check.limit.unit === 'share' ? 100 : 1)
  const reason = limitProblem(check.limit, value)
  take(check.id, { ok: reason === null, why: reason ?? '' }, () =>
    plans.edit({
      kind: 'project',
      set: { review: { preset: 'own', limits: { ...store.view!.limits, [check.id]: value } } },
    }),
  )
}
</script>

<template>
  <h1>What counts as too much</h1>
  <p class="soft">
    The limits belong to the plan and go with its file. A figure of your own makes them “own”; house and
    14-point are one click away in the line below.
  </p>
  <FactTable ruled name="Thresholds">
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
            :invalid="why.has(check.id)"
            :data-test="`limit-${check.id}`"
            @keep="set(check, $event)"
          />
          <span class="unit">{{ UNIT[check.limit.unit] }}</span>
          <small v-if="why.get(check.id)" class="brick" role="alert">{{ why.get(check.id) }}</small>
        </td>
        <td class="soft">{{ limitWords(check.limit.default, check.limit) }}</td>
        <td class="soft">{{ check.limit.reason }}</td>
      </tr>
    </tbody>
  </FactTable>
</template>

<style scoped>
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
