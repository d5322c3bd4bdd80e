<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { computed, shallowRef, watch } from 'vue'
import {
  biasWords,
  checkOf,
  counted,
  effectWords,
  instantWords,
  limitWords,
  TOPICS,
  type Finding,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import FindingMark from './FindingMark.vue'
import { keptDay } from './keptDay.ts'

const { calendars } = defineProps<{ calendars: CalendarLookup }>()
const plans = usePlanStore()
const store = useReviewStore()
const view = computed(() => store.view)
/** Every finding of the groups that have more than their first page, as far as paper is for. */
const MOST = 200
const rest = shallowRef<Record<string, readonly Finding[]>>({})
watch(
  () => view.value?.version,
  async () => {
    const more: Record<string, readonly Finding[]> = {}
    for (const g of view.value?.groups ?? []) {
      let known = [...g.findings]
      while (known.length < Math.min(g.count, MOST))
        known = [
          ...known,
          ...((await store.ask<'page'>({ kind: 'page', check: g.check, from: known.length })) ?? []),
        ]
      more[g.check] = known
    }
    rest.value = more
  },
  { immediate: true },
)
const byTopic = computed(() =>
  TOPICS.map((topic) => ({
    topic,
    groups: (view.value?.groups ?? []).filter((g) => checkOf(g.check)!.topic === topic),
  })).filter((t) => t.groups.length > 0),
)
const VERDICT = {
  fit: 'The network is fit to forecast.',
  'with care': 'The network can be forecast with care.',
  'not fit': 'The network is not fit to forecast.',
} as const
const today = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
const print = (): void => window.print()
const fileOf = (kind: 'xlsx' | 'csv'): string =>
  api.recordUrl(plans.planId!, 'review', kind, { of: plans.meant })
</script>

<template>
  <div v-if="view" class="record">
    <p class="buttons">
      <ActButton kind="primary" @click="print">Print this page</ActButton
      ><a class="noun" :href="fileOf('xlsx')" download data-test="xlsx">XLSX</a
      ><a class="noun" :href="fileOf('csv')" download data-test="csv">CSV</a
      ><span v-if="plans.pending.length > 0" class="signal"
        >The files are made from what is stored; some changes are still on their way.</span
      >
    </p>
    <h1>{{ plans.plan!.project.name || plans.plan!.project.code }}: review of {{ today }}</h1>
    <p>
      {{ VERDICT[view.fitness.verdict] }} {{ counted(view.open, 'finding') }} open, {{ view.movers }} of them
      move the answer; {{ view.acceptedCount }} accepted with a reason. Planned finish
      {{ instantWords(plans.view!.projectFinish, 'finish', { year: true }) }}.
    </p>
    <section v-if="view.fitness.distortions.length > 0">
      <h2>What would distort a forecast</h2>
      <FactTable>
        <tbody>
          <tr v-for="d in view.fitness.distortions" :key="d.check">
            <td><FindingMark :heavy="d.isHeavy" /></td>
            <td class="way">
              <strong>{{ biasWords(d.bias) }}</strong>
            </td>
            <td>{{ d.title }} ({{ d.count.toLocaleString('en') }}): {{ d.bias.because }}</td>
          </tr>
        </tbody>
      </FactTable>
    </section>
    <section v-for="{ topic, groups } in byTopic" :key="topic">
      <h2>{{ topic }}</h2>
      <div v-for="g in groups" :key="g.check" class="check">
        <h3>
          <FindingMark :heavy="g.isHeavy" :effect="g.effect.kind" /> {{ checkOf(g.check)!.title }}
          <span class="soft"
            >{{ g.count.toLocaleString('en')
            }}<template v-if="checkOf(g.check)!.limit"
              >, {{ checkOf(g.check)!.limit!.label }}
              {{ limitWords(view.limits[g.check]!, checkOf(g.check)!.limit!) }}</template
            ></span
          >
        </h3>
        <FactTable>
          <tbody>
            <tr v-for="f in rest[g.check] ?? g.findings" :key="f.fingerprint">
              <td>{{ f.message }}</td>
              <td class="right">{{ effectWords(f.effect, calendars.projectLengths) }}</td>
            </tr>
          </tbody>
        </FactTable>
        <p v-if="g.count > MOST" class="soft">
          and {{ (g.count - MOST).toLocaleString('en') }} more; the XLSX has all of them.
        </p>
      </div>
    </section>
    <section v-if="view.accepted.length > 0">
      <h2>Accepted with a reason</h2>
      <FactTable>
        <tbody>
          <tr v-for="{ finding, acceptance } in view.accepted" :key="finding.fingerprint">
            <td>{{ finding.message }}</td>
            <td>“{{ acceptance.reason }}”</td>
            <td class="soft right">{{ acceptance.by }}, {{ keptDay(acceptance) }}</td>
          </tr>
        </tbody>
      </FactTable>
    </section>
    <section v-if="plans.plan!.reviews.length > 0">
      <h2>Earlier reviews</h2>
      <FactTable>
        <tbody>
          <tr v-for="r in [...plans.plan!.reviews].reverse()" :key="r.id">
            <td>{{ keptDay(r) }}</td>
            <td>{{ r.by }}</td>
            <td>{{ Object.values(r.counts).reduce((a, b) => a + b, 0) }} open, {{ r.accepted }} accepted</td>
            <td class="right">finish {{ r.finish ?? 'not known' }}</td>
          </tr>
        </tbody>
      </FactTable>
    </section>
  </div>
</template>

<style scoped>
.record {
  max-width: 900px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.buttons {
  display: flex;
  gap: 14px;
  align-items: center;
}
section {
  display: flex;
  flex-direction: column;
  gap: 6px;
  border-top: 1.5px solid var(--ink);
  padding-top: 8px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
td {
  padding: 2px 10px 2px 0;
  border-bottom: 1px dotted var(--hairline);
  vertical-align: baseline;
}
td.right {
  white-space: nowrap;
  padding-right: 0;
}
.way {
  white-space: nowrap;
}
.check {
  break-inside: avoid-page;
}
@media print {
  .buttons {
    display: none;
  }
}
</style>
