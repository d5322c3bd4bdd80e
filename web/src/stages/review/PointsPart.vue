<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { POINT_LIMITS, pointLimitProblem, readAmount, type FourteenPoints, type Point } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const plans = usePlanStore()
const store = useReviewStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const found = shallowRef<FourteenPoints | null>(null)
watch(
  () => store.view?.version,
  async () => (found.value = await store.ask<'points'>({ kind: 'points' })),
  { immediate: true },
)

const passed = computed(() => found.value?.points.filter((p) => p.passes === true).length ?? 0)
const failed = computed(() => found.value?.points.filter((p) => p.passes === false).length ?? 0)
const figure = (p: Point): string =>
  p.value === null
    ? '–'
    : p.number > 12
      ? p.value.toFixed(2)
      : p.number === 12
        ? p.count === 0
          ? 'arrives'
          : 'is lost'
        : `${(p.value * 100).toFixed(1)} %`
/** The limit as it is shown and typed: a share in percent, an index as it is. */
const limitFigure = (p: Point): number => (p.number > 12 ? p.limit : Math.round(p.limit * 10_000) / 100)
const problem = ref('')
const set = (name: string, figure: string): void => {
  const typed = readAmount(figure.replace(/(%|d)\s*$/, '')) ?? Number.NaN
  const value = name.endsWith('days') || Number(name) > 12 ? typed : typed / 100
  const why = pointLimitProblem(name, value)
  problem.value = why === null ? '' : `Point ${name.split(' ')[0]}: ${why}.`
  if (why !== null) return
  const review = plans.plan!.project.review ?? { preset: 'house' as const, limits: {} }
  plans.edit({ kind: 'project', set: { review: { ...review, points: { ...review.points, [name]: value } } } })
}
const own = computed(() => Object.keys(plans.plan!.project.review?.points ?? {}).length > 0)
const reset = (): void => {
  const { preset = 'house', limits = {} } = plans.plan!.project.review ?? {}
  plans.edit({ kind: 'project', set: { review: { preset, limits } } })
}
const days = (p: Point): string | null => (p.number === 6 || p.number === 8 ? `${p.number} days` : null)
/** Where the value stands between none and all, and the limit with it. */
const bar = (value: number): number => Math.max(0, Math.min(1, value)) * 100

const show = async (p: Point): Promise<void> => {
  const ids =
    p.activities.length > 0
      ? p.activities
      : plans.plan!.links.filter((l) => p.links.includes(l.id)).map((l) => l.to)
  if (ids.length === 0) return
  ui.filter = { ids: new Set(ids), reason: `point ${p.number}, ${p.name.toLowerCase()}` }
  ui.thread = {
    message: `Point ${p.number}, ${p.name}: ${p.what}`,
    check: 'points',
    places: [...new Set(ids)],
  }
  await router.push({ name: 'network', params: { id: route.params.id as string } })
  ui.select(ids[0]!, { show: true })
}
</script>

<template>
  <template v-if="found">
    <h1>
      {{ passed }} of 14 points pass<template v-if="failed > 0">, {{ failed }} fail</template>.
    </h1>
    <p class="soft">
      The public 14-point assessment, counted on unfinished work without milestones and hammocks. “14-point”
      in the line below sets the limits of the findings to match.<template v-if="own">
        Some limits here are your own.
        <ActButton kind="noun" @click="reset">Back to the public ones</ActButton></template
      >
    </p>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <FactTable ruled name="14 points">
      <thead>
        <tr>
          <th>No.</th>
          <th>Point</th>
          <th class="right">Counted</th>
          <th class="right">Of</th>
          <th class="right">Value</th>
          <th>Limit</th>
          <th class="drawn"><span class="sr">Drawn</span></th>
          <th>Result</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in found.points" :key="p.number" :class="{ fails: p.passes === false }">
          <td class="soft">{{ p.number }}</td>
          <td>
            <strong>{{ p.name }}</strong>
            <span class="soft"
              ><template v-if="!days(p)">{{ p.what }}</template
              ><template v-else
                >{{ p.number === 6 ? 'total float more than' : 'longer than' }}
                <TextField
                  class="days"
                  :kept="plans.plan!.project.review?.points?.[days(p)!] ?? POINT_LIMITS[days(p)!]"
                  inputmode="decimal"
                  :label="`Days that point ${p.number} counts from`"
                  @keep="set(days(p)!, $event)"
                />
                d</template
              ></span
            >
          </td>
          <td class="right">
            <ActButton
              kind="noun"
              v-if="p.activities.length + p.links.length > 0 && p.passes === false"
              @click="show(p)"
            >
              {{ p.count }}</ActButton><template v-else-if="p.number !== 13">{{ p.count }}</template>
          </td>
          <td class="right soft">{{ p.of || '' }}</td>
          <td class="right">{{ figure(p) }}</td>
          <td class="soft limit-cell">
            <template v-if="p.number === 12">must arrive</template
            ><template v-else
              >{{ p.rule }}
              <TextField
                :kept="limitFigure(p)"
                inputmode="decimal"
                :label="`Limit of point ${p.number}, ${p.name}`"
                :data-test="`point-${p.number}`"
                @keep="set(String(p.number), $event)"
              />
              {{ p.number > 12 ? '' : '%' }}</template
            >
          </td>
          <td class="drawn">
            <svg v-if="p.value !== null && p.number !== 12" viewBox="0 0 104 12" aria-hidden="true">
              <path d="M2 6H102" class="track" />
              <rect
                x="2"
                y="3.5"
                :width="bar(p.value)"
                height="5"
                rx="2.5"
                :class="p.passes ? 'ok' : 'off'"
              />
              <path :d="`M${2 + bar(p.limit)} 0V12`" class="limit" />
            </svg>
          </td>
          <td>
            <template v-if="p.passes === null"><span class="soft">nothing to measure</span></template>
            <template v-else
              ><svg class="tick" viewBox="0 0 14 14" aria-hidden="true">
                <path v-if="p.passes" d="M2 7.5 5.5 11 12 3" />
                <path v-else d="M7 1.5 13 12.5H1z" class="tri" />
              </svg>
              {{ p.passes ? 'passes' : 'fails' }}</template
            >
          </td>
        </tr>
      </tbody>
    </FactTable>
    <dl class="index">
      <div>
        <dt>Path length index</dt>
        <dd>{{ found.pathLengthIndex?.toFixed(2) ?? '–' }}</dd>
        <dd class="means soft">
          Under 1 the required finish asks for more than the longest path can give; 0.95 is the least that
          passes.
        </dd>
      </div>
      <div>
        <dt>Baseline execution index</dt>
        <dd>{{ found.baselineExecutionIndex?.toFixed(2) ?? '–' }}</dd>
        <dd class="means soft">
          Finished work for each piece that the baseline had finished by the status date<template
            v-if="found.baselineExecutionIndex === null"
            >; it needs a baseline and a status date</template
          >.
        </dd>
      </div>
    </dl>
  </template>
</template>

<style scoped>
td {
  white-space: nowrap;
}
td:nth-child(2) {
  white-space: normal;
}
.fails td {
  font-weight: 600;
}
.fails .soft {
  font-weight: 400;
}
.drawn {
  width: 116px;
}
.drawn svg {
  width: 104px;
  height: 12px;
  vertical-align: -2px;
}
.track {
  stroke: var(--line);
  stroke-width: 1;
}
.ok {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.3;
}
.off {
  fill: var(--ink);
}
.limit {
  stroke: var(--signal-text);
  stroke-width: 2;
}
.tick {
  width: 12px;
  height: 12px;
  vertical-align: -1px;
}
.tick path {
  fill: none;
  stroke: var(--moss);
  stroke-width: 2.2;
}
.tick .tri {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 1;
}
.index {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
  margin: 18px 0 0;
}
.index div {
  border-top: 1.5px solid var(--ink);
  padding-top: 6px;
}
.index dt {
  color: var(--soft-ink);
  font-size: 12px;
}
.index dd {
  margin: 0;
  font:
    650 26px/1.2 'Bricolage Grotesque Variable',
    sans-serif;
}
dd.means {
  font: inherit;
}
.text-field {
  width: 60px;
}
.text-field.days {
  width: 52px;
}
</style>
