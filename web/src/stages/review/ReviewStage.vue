<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { CHECKS, type Finding, type Repair } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { EFFECT_SOURCE, effectWords } from './effectWords.ts'

const plans = usePlanStore()
const store = useReviewStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.plan)

const findings = computed(() => store.review?.findings ?? [])
const movers = computed(() => findings.value.filter((f) => f.severity === 'moves-answer').length)
const clean = computed(() => CHECKS.filter((check) => store.review?.counts[check.id] === 0))
const chosen = ref<string | null>(null)
const finding = computed(() => findings.value.find((f) => f.fingerprint === chosen.value) ?? findings.value[0])
const check = computed(() => CHECKS.find((c) => c.id === finding.value?.check))
const { problem, attempt } = useAttempt()
watch(finding, () => (problem.value = ''))

const title = computed(() => {
  if (!store.review) return 'Reviewing the network …'
  if (movers.value > 0) return `${movers.value === 1 ? 'One finding moves' : `${movers.value} findings move`} the finish. Mend ${movers.value === 1 ? 'it' : 'those'} before forecasting.`
  return findings.value.length > 0 ? 'Nothing found moves the finish; some of it is worth knowing.' : 'Nothing found: this network can be forecast.'
})
const share = (f: Finding): string => {
  const total = plans.plan!.activities.length
  return total === 0 ? '' : `${((f.activities.length / total) * 100).toFixed(1)} %`
}
const where = (f: Finding): string => (f.activities.length === 0 ? 'the project' : f.activities.length === 1 ? '1 activity' : `${f.activities.length} activities`)
const show = async (id: string): Promise<void> => {
  ui.filter = null
  await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}
const showAll = async (f: Finding): Promise<void> => {
  ui.filter = { ids: new Set(f.activities), reason: f.message }
  ui.select(f.activities[0]!)
  await router.push({ name: 'network', params: route.params })
}
const apply = (repair: Repair): void => void attempt(() => plans.edit(repair.change))
const move = (by: number): void => {
  const at = findings.value.findIndex((f) => f === finding.value)
  chosen.value = findings.value[Math.max(0, Math.min(findings.value.length - 1, at + by))]?.fingerprint ?? null
}
</script>

<template>
  <div class="review">
    <section class="sheet scroll">
      <h1>{{ title }}</h1>
      <p v-if="store.review" class="soft">{{ CHECKS.length }} checks: {{ clean.length }} clean, {{ CHECKS.length - clean.length }} with findings ({{ findings.length }}).</p>
      <table v-if="store.review && calendars" class="findings" @keydown.down.prevent="move(1)" @keydown.up.prevent="move(-1)">
        <thead>
          <tr><th><span class="sr">Weight</span></th><th>Topic</th><th>Finding, most effect first</th><th class="right">Where</th><th class="right">Share</th><th class="right">On the finish</th></tr>
        </thead>
        <tbody>
          <tr v-for="f in findings" :key="f.fingerprint" :class="{ chosen: f === finding, heavy: f.severity === 'moves-answer' }" @click="chosen = f.fingerprint">
            <td>
              <svg class="mark" viewBox="0 0 14 14" role="img" :aria-label="f.severity === 'moves-answer' ? 'moves the answer' : 'does not move the answer'"><path d="M7 1.5 13 12.5H1z" :class="{ filled: f.severity === 'moves-answer' }" /></svg>
            </td>
            <td class="soft">{{ f.topic }}</td>
            <td><button class="plain message" :aria-pressed="f === finding" @click="chosen = f.fingerprint">{{ f.message }}</button></td>
            <td class="right">{{ where(f) }}</td>
            <td class="right soft">{{ share(f) }}</td>
            <td class="right effect">{{ effectWords(f, calendars.projectLengths) }}</td>
          </tr>
          <tr v-if="clean.length > 0" class="clean">
            <td><svg class="tick" viewBox="0 0 14 14" role="img" aria-label="clean"><path d="M2 7.5 5.5 11 12 3" /></svg></td>
            <td class="soft">Clean</td>
            <td colspan="4">{{ clean.map((c) => c.clean).join(' · ') }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <aside v-if="finding && check && calendars" class="lens scroll" aria-label="Lens: the finding">
      <p class="soft">{{ check.topic }} · {{ check.title }}</p>
      <h2>{{ finding.message }}</h2>
      <p v-if="finding.activities.length > 0" class="list">
        <template v-for="(id, k) in finding.activities.slice(0, 12)" :key="id"><template v-if="k > 0">, </template><button class="noun" @click="show(id)">{{ plans.activity(id)?.code }} {{ plans.activity(id)?.name }}</button></template>
        <template v-if="finding.activities.length > 12"> and {{ finding.activities.length - 12 }} more</template>
      </p>
      <p v-if="finding.activities.length > 1"><button class="noun" @click="showAll(finding)">Show them in the network</button></p>
      <section>
        <h3>On the finish</h3>
        <p>{{ effectWords(finding, calendars.projectLengths) }}<span class="soft">, {{ EFFECT_SOURCE[finding.effect.kind] }}</span></p>
      </section>
      <section v-if="finding.repairs.length > 0">
        <h3>Ways to mend it</h3>
        <p v-for="repair in finding.repairs" :key="repair.label"><button class="chip" @click="apply(repair)">{{ repair.label }}</button></p>
        <p class="soft">Each can be undone.</p>
        <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      </section>
      <section>
        <h3>Why it matters</h3>
        <p class="soft">{{ check.why }}</p>
      </section>
    </aside>
  </div>
  <FootLine><span>{{ findings.length }} open findings</span><span>Reviewed after every edit</span></FootLine>
</template>

<style scoped>
.review { flex: 1; min-height: 0; display: grid; grid-template-columns: minmax(0, 1fr) 320px; }
.sheet { padding: 18px 18px 30px; }
.findings { width: 100%; border-collapse: collapse; margin-top: 16px; }
th { font-weight: 400; color: var(--soft-ink); font-size: 12px; text-align: left; padding: 6px 8px; border-bottom: 1.5px solid var(--ink); }
th.right { text-align: right; }
td { padding: 5px 8px; border-bottom: 1px solid var(--hairline); vertical-align: baseline; }
tbody tr { cursor: pointer; }
tr.chosen { background: var(--wash); box-shadow: inset 3px 0 0 var(--signal); }
tr.heavy .message, tr.heavy .effect { font-weight: 650; }
.message { min-height: 24px; }
td.right { white-space: nowrap; }
.mark, .tick { width: 14px; height: 14px; vertical-align: -2px; }
.mark path { fill: none; stroke: var(--ink); stroke-width: 1.6; stroke-linejoin: round; }
.mark .filled { fill: var(--ink); }
.tick path { fill: none; stroke: var(--moss); stroke-width: 2.2; stroke-linecap: round; }
.clean { cursor: default; }
.lens { background: var(--raised); border-left: 1px solid var(--hairline); padding: 18px 16px; display: flex; flex-direction: column; gap: 10px; }
.lens section { border-top: 1px solid var(--hairline); padding-top: 10px; display: flex; flex-direction: column; gap: 6px; }
</style>
