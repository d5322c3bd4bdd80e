<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, toRaw, watch } from 'vue'
import {
  chosenParts,
  counted,
  fromUnixTime,
  mayDo,
  REPORT_CSS,
  REPORT_PART_NAMES,
  REPORT_PARTS,
  type Plan,
  type ReportPartName,
} from '@geodrome/core'
import { fetchReport } from '../../api/report.ts'
import ActButton from '../../controls/ActButton.vue'
import TickBox from '../../controls/TickBox.vue'
import { download } from '../../saving/download.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { ReportAnswer, ReportQuestion } from '../../workers/report.worker.ts'
import ReportWorker from '../../workers/report.worker.ts?worker'

/** The plan on paper: what it holds is chosen beside it, and it is seen as it will be printed. */
const plans = usePlanStore()
const forecast = useForecastStore()
/** What who may not change the plan, or looks at it as it was, chooses for themselves. */
const ownChoice = ref<readonly ReportPartName[] | null>(null)
const chosen = computed(() => ownChoice.value ?? chosenParts(plans.base!))
/** The choice is the plan's: whoever makes its report next finds it, and so does a plan that begins like it. */
const choose = (name: ReportPartName, isOn: boolean): void => {
  const parts = REPORT_PART_NAMES.filter((one) => (one === name ? isOn : chosen.value.includes(one)))
  if (plans.kept !== null || !mayDo(plans.role, 'plan')) ownChoice.value = parts
  else plans.editPlan({ kind: 'project', set: { report: { parts } } })
}

/** The draws of the newest run that still fits what is in view: the report says what Forecast says. */
const run = computed(() => {
  const latest = forecast.latest
  return latest && !forecast.isStale(latest) ? latest : null
})
const draws = computed(() => {
  const { iterations, batch, seed, sampling, risks } = {
    iterations: 5000,
    batch: undefined,
    seed: 1,
    sampling: 'lhs' as const,
    risks: true,
    ...run.value?.input,
  }
  return { iterations, batch, seed, sampling, risks }
})

const parts = shallowRef<ReadonlyMap<string, string>>(new Map())
const head = shallowRef<Extract<ReportAnswer, { kind: 'head' }> | null>(null)
const doing = ref('')
const { isRunning, failure, begin } = useLongWork<ReportQuestion, ReportAnswer>(() => new ReportWorker())
watch(
  [() => plans.plan, () => plans.scenarioId, draws],
  ([plan, scenario, own], before) => {
    if (!plan || (isSamePlan(before[0], plan) && before[1] === scenario && isEqual(before[2], own))) return
    // What was made of another state goes: nobody prints an old answer.
    parts.value = new Map()
    head.value = null
    begin({ plan: toRaw(plan), options: { ...own, scenario, at: fromUnixTime(Date.now()) } }, (answer) => {
      if (answer.kind === 'begins') doing.value = `${answer.title}, ${answer.done + 1} of ${answer.of}`
      else if (answer.kind === 'part') parts.value = new Map([...parts.value, [answer.name, answer.html]])
      else head.value = answer
    })
  },
  { immediate: true },
)
/** Another choice of parts makes no other report of any part. */
function isSamePlan(a: Plan | null | undefined, b: Plan): boolean {
  if (!a || a === b) return a === b
  const { project, ...lists } = b
  return (
    Object.entries(lists).every(([name, list]) => a[name as keyof Plan] === list) &&
    isEqual({ ...a.project, report: null }, { ...project, report: null })
  )
}
function isEqual(a: object | undefined, b: object): boolean {
  return JSON.stringify(a) === JSON.stringify(b)
}
const shownParts = computed(() => chosen.value.flatMap((name) => parts.value.get(name) ?? []))
const isMade = computed(() => head.value !== null && shownParts.value.length === chosen.value.length)

/** Made and set on the server, of what is stored there. */
const setting = ref<{ readonly to: 'pdf' | 'html'; readonly words: string } | null>(null)
const problem = ref('')
let stopper: AbortController | null = null
const stop = (): void => stopper?.abort()
onBeforeUnmount(stop)
const save = async (to: 'pdf' | 'html'): Promise<void> => {
  stopper = new AbortController()
  problem.value = ''
  setting.value = { to, words: 'asked for' }
  try {
    const file = await fetchReport(
      plans.planId!,
      { to, parts: chosen.value, of: plans.meant, ...draws.value },
      (line) => (setting.value = { to, words: `${line.doing}, ${line.done + 1} of ${line.of}` }),
      stopper.signal,
    )
    download(file, `${plans.viewPlan!.project.code || 'plan'}-report.${to}`, file.type)
  } catch (error) {
    if ((error as Error).name !== 'AbortError') problem.value = `No report: ${(error as Error).message}.`
  } finally {
    setting.value = null
  }
}
const print = (): void => window.print()
const waiting = computed(() => plans.pending.length)
</script>

<template>
  <div class="report-part">
    <aside class="choices scroll">
      <h1>Report</h1>
      <p class="soft">
        Of {{ plans.meantWords }}, with {{ draws.iterations.toLocaleString('en') }} iterations, seed
        {{ draws.seed }}{{ draws.risks ? '' : ', without the risks'
        }}{{ run ? ', as in the newest run' : '; no run of Forecast fits it as it is' }}.
      </p>
      <div class="acts">
        <template v-if="setting">
          <p role="status" data-test="setting">{{ setting.words }} …</p>
          <ActButton @click="stop">Stop</ActButton>
        </template>
        <template v-else>
          <ActButton kind="primary" :disabled="chosen.length === 0" data-test="save-pdf" @click="save('pdf')"
            >Save as PDF</ActButton
          >
          <ActButton :disabled="chosen.length === 0" @click="save('html')">Save as a page</ActButton>
          <ActButton :disabled="!isMade" @click="print">Print</ActButton>
        </template>
      </div>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <p v-if="waiting > 0" class="signal">
        {{ counted(waiting, 'change') }} {{ waiting === 1 ? 'is' : 'are' }} not stored yet, and would be
        missing from what is saved.
      </p>
      <fieldset>
        <legend>What it holds</legend>
        <TickBox
          v-for="name in REPORT_PART_NAMES"
          :key="name"
          :model-value="chosen.includes(name)"
          :data-test="`part-${name}`"
          @update:model-value="choose(name, $event)"
        >
          <strong>{{ REPORT_PARTS[name].title }}</strong>
          <small>{{ REPORT_PARTS[name].words }}</small>
        </TickBox>
      </fieldset>
    </aside>
    <div class="sheet scroll" tabindex="0" aria-label="The report as it will be printed">
      <component :is="'style'">{{ REPORT_CSS }}</component>
      <p v-if="failure" class="brick note" role="alert">There is no report: {{ failure }}</p>
      <p v-else-if="isRunning" class="soft note" role="status">Making it: {{ doing }} …</p>
      <p v-if="chosen.length === 0" class="soft note">Nothing is chosen. Tick what it should hold.</p>
      <article v-else-if="shownParts.length > 0" class="report" data-test="report">
        <header v-if="head">
          <h1>{{ head.title }}</h1>
          <p>{{ head.subtitle }}</p>
        </header>
        <!-- eslint-disable-next-line vue/no-v-html -- made by core of escaped texts and our own drawings -->
        <div v-for="(html, k) in shownParts" :key="k" v-html="html" />
        <footer v-if="head">Made with Geodrome on {{ head.made }}.</footer>
      </article>
    </div>
  </div>
</template>

<style scoped>
.report-part {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 300px 1fr;
}
.choices {
  padding: 20px 20px 20px 24px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  border-right: 1px solid var(--hairline);
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
legend {
  font-weight: 600;
  padding: 0 0 6px;
}
fieldset strong,
fieldset small {
  display: block;
  line-height: 1.25;
}
fieldset strong {
  font-weight: 500;
}
fieldset small {
  color: var(--soft-ink);
}
.acts {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  align-items: center;
}
.sheet {
  background: var(--shade);
  padding: 20px;
}
.note {
  max-width: 900px;
  margin: 0 auto 12px;
}
.report {
  box-shadow: 0 1px 6px rgb(0 0 0 / 14%);
}
@media print {
  .report-part {
    display: block;
  }
  .choices,
  .note {
    display: none;
  }
  .sheet {
    overflow: visible;
    padding: 0;
    background: none;
  }
  .report {
    box-shadow: none;
  }
}
</style>
