<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, toRaw, watch } from 'vue'
import {
  accept,
  type Finding,
  type RecordSheet,
  ASKED_AS,
  counted,
  formatInstant,
  fromUnixTime,
  instantOf,
  instantWords,
  readDate,
  type Activity,
  type Answer,
  type AskedAs,
  type Change,
  type OddAnswer,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import TextField from '../../controls/TextField.vue'
import { optionsByCode } from '../../controls/options.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUpdateDraft } from '../../stores/updateDraft.ts'
import ReturnedSheets from './ReturnedSheets.vue'
import UpdatePreviewLens from './UpdatePreviewLens.vue'
import UpdateRow from './UpdateRow.vue'
import UpdateSheetsOnPaper from './UpdateSheetsOnPaper.vue'

/** What happened since: a sheet that asks only what this period asks, and shows what the answers move before they are kept. */
defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const { draft, setStatus, say, unsay, ask, clear } = useUpdateDraft(plans.planId!)

const TITLES: Readonly<Record<AskedAs, string>> = {
  'should-have-started': 'Should have started',
  'under-way': 'Under way',
  'should-have-finished': 'Should have finished',
  promised: 'Promised',
  added: 'Added by you',
}
const WEEK = 7 * 1440

const plan = computed(() => plans.viewPlan!)
const oldStatus = computed(() => {
  const { statusDate } = plan.value.project
  return statusDate === null ? null : instantOf(statusDate, 'start')
})
/** A week after the last one; of a plan without any, a week after its start. */
const proposed = computed(() => formatInstant((oldStatus.value ?? plans.view!.projectStart) + WEEK))
/** What was chosen, unless somebody else kept a later update meanwhile. */
const statusDate = computed(() => {
  const chosen = draft.value.statusDate
  const isPast = chosen !== null && oldStatus.value !== null && instantOf(chosen, 'start') < oldStatus.value
  return chosen === null || isPast ? proposed.value : chosen
})
const status = computed(() => instantOf(statusDate.value, 'start'))
const statusProblem = ref('')
const keepStatus = (text: string): void => {
  const read = readDate(text, status.value)
  if (!read.ok) {
    statusProblem.value = read.why
    return
  }
  if (oldStatus.value !== null && instantOf(read.date, 'start') < oldStatus.value) {
    statusProblem.value = `the last update was for ${instantWords(oldStatus.value, 'start')}; take that one back first, in Periods`
    return
  }
  statusProblem.value = ''
  setStatus(read.date)
}
watch(statusDate, () => (statusProblem.value = ''))

const { answer: asked, problem: askedProblem } = useQuestion('asked', () => ({
  statusDate: statusDate.value,
  added: [...draft.value.added],
}))
const { answer: preview, problem: previewProblem } = useQuestion('updatePreview', () => ({
  statusDate: statusDate.value,
  answers: draft.value.answers,
}))
const oddOf = computed(() => {
  const by = new Map<string, OddAnswer[]>()
  for (const odd of preview.value?.odd ?? []) {
    const id = odd.finding.activities[0]!
    by.set(id, [...(by.get(id) ?? []), odd])
  }
  return by
})
const sections = computed(() =>
  ASKED_AS.flatMap((as) => {
    const rows = (asked.value ?? []).filter((one) => one.as === as)
    if (rows.length === 0) return []
    const answered = rows.filter(({ activity }) => isAnswered(plan.value.activities[activity]!.id)).length
    return [{ as, title: TITLES[as], rows: rows.map(({ activity }) => activity), answered }]
  }),
)
/** As many rows of a section as are worth drawing at once; more are asked for. */
const AT_ONCE = 60
const shown = ref<Partial<Record<AskedAs, number>>>({})
const shownOf = (as: AskedAs): number => shown.value[as] ?? AT_ONCE
const showMore = (as: AskedAs): void => {
  shown.value = { ...shown.value, [as]: shownOf(as) + AT_ONCE }
}
const isAnswered = (id: string): boolean => id in draft.value.answers
const askedIds = computed(() =>
  (asked.value ?? []).map(({ activity }) => plan.value.activities[activity]!.id),
)
const open = computed(() => askedIds.value.filter((id) => !isAnswered(id)))
const title = computed(() => {
  const n = askedIds.value.length
  if (asked.value === null) return 'Looking for what to ask …'
  if (n === 0) return `Nothing is asked until ${instantWords(status.value, 'start')}.`
  const done = n - open.value.length
  const decisions = oddOf.value.size
  const first = `${counted(n, 'activity')} ${n === 1 ? 'is' : 'are'} asked about, ${done === n ? 'all' : done === 0 ? 'none' : done} ${done === 1 ? 'is' : 'are'} answered.`
  return decisions === 0
    ? first
    : `${first} ${counted(decisions, 'answer')} ${decisions === 1 ? 'needs' : 'need'} a decision.`
})
const others = computed(
  () => plan.value.activities.filter(({ kind }) => kind !== 'hammock').length - askedIds.value.length,
)
const addable = computed(() => {
  const known = new Set(askedIds.value)
  return optionsByCode(plan.value.activities.filter(({ id, kind }) => kind !== 'hammock' && !known.has(id)))
})

/** The days of the strip: from the last status date to the new one. */
const strip = computed(() => {
  const from = Math.min(oldStatus.value ?? status.value - WEEK, status.value - 1440)
  const days = Math.max(1, Math.ceil((status.value - from) / 1440))
  const every = Math.max(1, Math.ceil(days / 4))
  const marks = Array.from({ length: Math.ceil(days / every) }, (_, k) => from + k * every * 1440)
  return { from, to: status.value, marks }
})
const STRIP = 120
const x = (at: number): number =>
  Math.max(0, Math.min(STRIP, ((at - strip.value.from) / (strip.value.to - strip.value.from)) * STRIP))
const dayMark = (at: number): string =>
  instantWords(at, 'start', { time: false }).replace(/^(\w)\w+ (\d+) .*$/, '$1 $2')

const sheetsUrl = computed(() =>
  api.recordUrl(plans.planId!, 'update', 'xlsx', { of: plans.meant, until: statusDate.value }),
)
/** On paper: an owner a page. */
const paper = shallowRef<readonly RecordSheet[]>([])
const print = async (): Promise<void> => {
  try {
    paper.value = await plans.question('updateSheets', { statusDate: statusDate.value })
    await nextTick()
    window.print()
  } catch (error) {
    problem.value = (error as Error).message
  }
}
// What was put on paper does not stay: the next time it is asked anew, and the page itself can be printed, too.
useEventListener(window, 'afterprint', () => (paper.value = []))
const takeReturned = (answers: readonly { readonly id: string; readonly answer: Answer }[]): void => {
  for (const { id, answer } of answers) {
    if (!askedIds.value.includes(id)) ask(id)
    say(id, answer)
  }
}

const isKeeping = ref(false)
const keep = async (): Promise<void> => {
  isKeeping.value = true
  try {
    const change = await plans.question('keptUpdate', {
      statusDate: statusDate.value,
      answers: JSON.parse(JSON.stringify(draft.value.answers)) as typeof draft.value.answers,
      name: instantWords(status.value, 'start', { time: false }),
      by: authorName.value,
      note: '',
      at: formatInstant(fromUnixTime(Date.now())),
    })
    if (attempt(() => plans.edit(change))) clear()
  } catch (error) {
    problem.value = (error as Error).message
  } finally {
    isKeeping.value = false
  }
}
/** What is odd may stay, for a reason: Review knows it then, and asks again where its facts are others. */
const acceptOdd = (finding: Finding, reason: string): void => {
  const at = new Date().toISOString().slice(0, 16)
  attempt(() => plans.edit(accept(plans.plan!, [toRaw(finding)], reason, authorName.value, at)))
}
/** What is odd is mended by another answer, or, where a link or the rule is meant, in the plan. */
const mend = (change: Change): void => {
  if (change.kind !== 'set' || change.list !== 'activities') {
    attempt(() => plans.edit(change))
    return
  }
  // It may be about work that this update did not ask about.
  if (!askedIds.value.includes(change.key)) ask(change.key)
  const { progress, promise } = change.set as Partial<Pick<Activity, 'progress' | 'promise'>>
  say(change.key, {
    ...(progress && { start: progress.actualStart, finish: progress.actualFinish }),
    ...(promise !== undefined && { promise }),
  })
}
</script>

<template>
  <UpdateSheetsOnPaper :sheets="paper" :status="status" />
  <div class="update" :class="{ behind: paper.length > 0 }">
    <section class="sheet scroll">
      <header>
        <h1 data-test="update-title">{{ title }}</h1>
        <div class="status">
          <span>
            Status date
            {{ oldStatus === null ? 'none yet' : instantWords(oldStatus, 'start') }} →
            <TextField
              class="status-field"
              label="New status date"
              :kept="instantWords(status, 'start')"
              :invalid="statusProblem !== ''"
              @keep="keepStatus"
            />
          </span>
          <span v-if="statusProblem" class="brick" role="alert">{{ statusProblem }}</span>
          <span v-else class="soft">{{ counted(others, 'activity') }} finished or not asked yet</span>
        </div>
      </header>
      <p v-if="askedProblem || previewProblem" class="brick" role="alert">
        {{ askedProblem || previewProblem }}
      </p>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <div v-if="sections.length > 0" class="grid">
        <div class="heads" aria-hidden="true">
          <span>Activity</span>
          <span>planned</span>
          <svg :width="STRIP" height="18">
            <text v-for="mark in strip.marks" :key="mark" :x="x(mark)" y="13">{{ dayMark(mark) }}</text>
          </svg>
          <span>started</span>
          <span>finished</span>
          <span>left or %</span>
          <span>promised</span>
        </div>
        <section v-for="section in sections" :key="section.as" :aria-label="section.title">
          <h3>
            {{ section.title }}
            <small class="soft">{{ section.rows.length }} asked, {{ section.answered }} answered</small>
          </h3>
          <UpdateRow
            v-for="i in section.rows.slice(0, shownOf(section.as))"
            :key="plan.activities[i]!.id"
            :index="i"
            :answer="draft.answers[plan.activities[i]!.id]"
            :odd="oddOf.get(plan.activities[i]!.id) ?? []"
            :other-reading="preview?.otherReading ?? null"
            :status="status"
            :calendars="calendars"
            :x="x"
            :width="STRIP"
            @say="say(plan.activities[i]!.id, $event)"
            @unsay="unsay(plan.activities[i]!.id)"
            @mend="mend"
            @accept="acceptOdd"
            @show="emit('show', $event)"
          />
          <p v-if="section.rows.length > shownOf(section.as)" class="more">
            <ActButton :data-test="`more-${section.as}`" @click="showMore(section.as)"
              >{{ section.rows.length - shownOf(section.as) }} more</ActButton
            >
          </p>
        </section>
      </div>
      <div class="sheets">
        <ReturnedSheets :status="status" :calendars="calendars" @take="takeReturned" />
        <ActButton v-if="askedIds.length > 0" data-test="print-update" @click="print"
          >Print the update sheets</ActButton
        >
        <a v-if="askedIds.length > 0" class="noun" :href="sheetsUrl" download data-test="update-sheets"
          >Update sheets by owner, XLSX</a
        >
      </div>
      <p class="add">
        <ChoiceField
          label="Say something about another activity"
          :model-value="null"
          placeholder="say something about another activity"
          :options="addable"
          @update:model-value="ask"
        />
        <ActButton v-if="Object.keys(draft.answers).length > 0" data-test="put-away" @click="clear"
          >Put all answers away</ActButton
        >
      </p>
    </section>
    <UpdatePreviewLens
      :preview="preview"
      :open="open"
      :calendars="calendars"
      :status="status"
      :is-keeping="isKeeping"
      @keep="keep"
      @show="emit('show', $event)"
    />
  </div>
</template>

<style scoped>
@media print {
  .update.behind {
    display: none;
  }
}
.update {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
}
.sheet {
  padding: 12px 18px 30px;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 20px;
}
h1 {
  max-width: 470px;
}
.status {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: 4px;
  text-align: right;
}
.status > span:first-child {
  display: flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
.status-field {
  width: 150px;
}
.grid {
  margin-top: 10px;
}
.grid :deep(.cells),
.heads {
  display: grid;
  grid-template-columns: minmax(150px, 1fr) 108px 120px 80px 80px 72px 80px 26px 26px 26px;
  gap: 0 8px;
  align-items: center;
}
.heads {
  border-bottom: 1px solid var(--ink);
  color: var(--soft-ink);
  font-size: 12.5px;
}
.heads text {
  font-size: 11.5px;
  fill: var(--soft-ink);
}
h3 {
  padding: 8px 0 3px;
  border-bottom: 1px solid var(--line);
}
h3 small {
  font-weight: 400;
  margin-left: 8px;
}
.more {
  padding: 6px 0;
}
.sheets {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 6px 16px;
  padding-top: 16px;
}
.add {
  display: flex;
  gap: 12px;
  padding-top: 16px;
  max-width: 520px;
}
@media (max-width: 1100px) {
  .update {
    grid-template-columns: minmax(0, 1fr) 250px;
  }
}
</style>
