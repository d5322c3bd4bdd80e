<script setup lang="ts">
import { type Choice } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import FilePick from '../../controls/FilePick.vue'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import {
  counted,
  DIFFERENCE_KINDS,
  instantWords,
  KEEPERS,
  movesWords,
  parseJson,
  PlanError,
  readPlan,
  type DifferenceKind,
  type Plan,
  type RevisionComparison,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { momentWords } from '../../composables/momentWords.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'

const { calendars } = defineProps<{ calendars: CalendarLookup }>()
const plans = usePlanStore()
const store = useReviewStore()
const found = shallowRef<RevisionComparison | null>(null)
const against = ref('')
const direction = ref<'before' | 'after'>('before')
const other = shallowRef<Plan | null>(null)
const problem = ref('')
const busy = ref(false)
const kind = ref<DifferenceKind | null>(null)

const LABEL: Record<DifferenceKind, string> = {
  actuals: 'Actuals after the fact',
  added: 'Added',
  deleted: 'Deleted',
  durations: 'Durations',
  logic: 'Logic',
  limits: 'Dates',
  calendars: 'Calendars',
  progress: 'Progress',
  project: 'Project',
  recoded: 'Recoded',
  other: 'Other',
}
const countOf = (of: DifferenceKind): number =>
  found.value?.differences.filter((d) => d.kind === of).length ?? 0
const shown = computed(() =>
  (found.value?.differences ?? []).filter((d) => kind.value === null || d.kind === kind.value),
)
const MOST = 300
/** All that differs, the parts of an update below it, for a file. */
const allRows = () => ({
  head: ['kind', 'what', 'before', 'after', 'alone on the finish'],
  rows: shown.value.flatMap((d) => [
    [LABEL[d.kind], d.what, d.before, d.after, moves(d.moves)],
    ...(d.parts ?? []).map((part, p) => [
      p === 0 ? 'in order' : 'then',
      part.what,
      part.before,
      part.after,
      moves(part.moves),
    ]),
  ]),
})

const compare = async (): Promise<void> => {
  if (!other.value) return
  busy.value = true
  kind.value = null
  const answer = await store.ask<'revisions'>({
    kind: 'revisions',
    other: other.value,
    direction: direction.value,
  })
  busy.value = false
  if (answer === null) return
  if ('problem' in answer) {
    problem.value = answer.problem
    found.value = null
  } else found.value = answer
}
const fromFile = async (file: File): Promise<void> => {
  problem.value = ''
  try {
    const { plan } = readPlan(parseJson(await file.text()))
    other.value = plan
    against.value = `${file.name}, ${plan.project.name || plan.project.code}`
  } catch (error) {
    if (!(error instanceof PlanError)) throw error
    problem.value = `${file.name} is not a plan that can be compared: ${error.issues[0]!.message}${error.issues.length > 1 ? `, and ${error.issues.length - 1} more` : ''}`
    return
  }
  await compare()
}
/** Earlier states that have a name: what the plan was before each of the latest changes. */
const states = computed(() =>
  [...plans.log]
    .reverse()
    .slice(0, 60)
    .map((entry) => ({
      revision: entry.revision - 1,
      words: `the plan before “${plans.describe(entry)}”, ${entry.author}, ${momentWords(entry.at)}`,
    })),
)
const FIRST = '1'
/** What the plan can be compared with: a revision, or what kept it ("baselines/b1"). */
const earlier = ref<string | null>(null)
const stateOptions = computed((): Choice<string>[] => [
  ...KEEPERS.flatMap((list) =>
    [...plans.base![list]].reverse().map(({ id, name }) => ({
      value: `${list}/${id}`,
      label:
        list === 'baselines'
          ? `the plan when ${name || 'a baseline without a name'} was frozen`
          : `the plan after the update ${name || 'without a name'}`,
    })),
  ),
  ...states.value.map((s) => ({ value: String(s.revision), label: s.words })),
  ...(states.value.some((s) => s.revision === 1)
    ? []
    : [{ value: FIRST, label: 'the plan as it was first stored' }]),
])
const planOf = async (state: string): Promise<Plan> => {
  const [list, ...key] = state.split('/')
  const keeper = KEEPERS.find((one) => one === list)
  return keeper
    ? (await api.planWhenKept(plans.planId!, keeper, key.join('/'))).plan
    : api.planAt(plans.planId!, Number(state))
}
const fromState = async (state: string, is: 'before' | 'after' = 'before'): Promise<void> => {
  problem.value = ''
  busy.value = true
  try {
    other.value = await planOf(state)
    against.value =
      state === FIRST
        ? 'the plan as it was first stored'
        : (stateOptions.value.find(({ value }) => value === state)?.label ?? `revision ${state}`)
    direction.value = is
    await compare()
  } catch (error) {
    problem.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
// Sent here with what to compare with.
const route = useRoute()
watch(
  [() => route.query.with, () => route.query.is],
  ([state, is]) => {
    if (typeof state !== 'string' || !stateOptions.value.some(({ value }) => value === state)) return
    earlier.value = state
    void fromState(state, is === 'after' ? 'after' : 'before')
  },
  { immediate: true },
)
// Another plan in view is compared anew, and an old answer does not stay.
watch(
  () => plans.meant,
  () => (found.value === null ? undefined : void compare()),
)
const turn = async (to: 'before' | 'after'): Promise<void> => {
  direction.value = to
  await compare()
}
const finish = (at: number): string => instantWords(at, 'finish', { year: true })
const moves = (minutes: number | null): string =>
  minutes === null ? 'only with others' : movesWords(minutes, calendars.projectLengths)
const rest = computed(() =>
  found.value ? found.value.moves - found.value.differences.reduce((sum, d) => sum + (d.moves ?? 0), 0) : 0,
)
</script>

<template>
  <h1 data-test="revisions-title">
    <template v-if="!found">What changed between two revisions?</template>
    <template v-else-if="found.differences.length === 0">The two revisions say the same.</template>
    <template v-else
      >{{ counted(found.differences.length, 'difference') }}; the finish
      {{ found.moves === 0 ? 'is the same' : `moves ${moves(found.moves)}` }}.</template
    >
  </h1>
  <p class="soft">
    Compare the plan in view with another submission of it, or with itself as it was: before an edit, when a
    baseline was frozen, after an update. Activities are paired by id, then code, then name and group. Each
    difference is put alone into the earlier revision and scheduled; an update as a whole, then its reports
    one on top of the other.
  </p>
  <div class="choose">
    <FilePick accept=".json,application/json" label="Plan file to compare with" @pick="fromFile"
      ><ActButton kind="primary" :disabled="busy">Plan file …</ActButton></FilePick
    >
    <span class="field"
      >or with
      <ChoiceField
        v-model="earlier"
        class="earlier"
        data-test="earlier"
        label="The plan as it was"
        placeholder="as it was …"
        :disabled="busy"
        :options="stateOptions"
        @update:model-value="fromState($event)"
    /></span>
    <span v-if="found" role="group" aria-label="Which of the two is the earlier" class="turn"
      >It is the
      <ActButton :disabled="busy" :aria-pressed="direction === 'before'" @click="turn('before')">
        earlier
      </ActButton>
      <ActButton :disabled="busy" :aria-pressed="direction === 'after'" @click="turn('after')">
        later
      </ActButton>
      of the two</span
    >
    <span v-if="busy" class="soft" role="status">Comparing …</span>
  </div>
  <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  <template v-if="found">
    <p>
      {{ direction === 'before' ? 'From' : 'To' }} {{ against }}: {{ finish(found.finishBefore) }} →
      {{ finish(found.finishAfter) }}.
      <span class="soft"
        >Paired: {{ found.matched.id }} by id, {{ found.matched.code }} by code, {{ found.matched.name }} by
        name.</span
      >
    </p>
    <p class="kinds" role="group" aria-label="Kinds of differences">
      <ActButton :aria-pressed="kind === null" @click="kind = null">
        All {{ found.differences.length }}
      </ActButton>
      <ActButton
        v-for="k in DIFFERENCE_KINDS.filter((d) => countOf(d) > 0)"
        :key="k"
        :aria-pressed="kind === k"
        @click="kind = k"
      >
        {{ LABEL[k] }} {{ countOf(k) }}
      </ActButton>
    </p>
    <FactTable v-if="shown.length > 0" ruled name="Differences" :whole="allRows">
      <thead>
        <tr>
          <th>Kind</th>
          <th>What</th>
          <th>Before</th>
          <th>After</th>
          <th class="right">Alone on the finish</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="(d, k) in shown.slice(0, MOST)" :key="k">
          <tr :class="{ late: d.isAfterTheFact }">
            <td class="soft">{{ LABEL[d.kind] }}</td>
            <td>
              <strong>{{ d.what }}</strong>
            </td>
            <td>{{ d.before }}</td>
            <td>{{ d.after }}</td>
            <td class="right">{{ moves(d.moves) }}</td>
          </tr>
          <tr v-for="(part, p) in d.parts?.slice(0, MOST)" :key="`${k}-${p}`" class="part">
            <td class="soft">{{ p === 0 ? 'in order' : 'then' }}</td>
            <td>{{ part.what }}</td>
            <td>{{ part.before }}</td>
            <td>{{ part.after }}</td>
            <td class="right soft">{{ moves(part.moves) }}</td>
          </tr>
        </template>
        <tr v-if="kind === null && rest !== 0" class="soft">
          <td />
          <td colspan="3">by acting together, beyond what each does alone</td>
          <td class="right">{{ moves(rest) }}</td>
        </tr>
        <tr v-if="kind === null">
          <td />
          <td colspan="3"><strong>All together</strong></td>
          <td class="right">
            <strong>{{ moves(found.moves) }}</strong>
          </td>
        </tr>
      </tbody>
    </FactTable>
    <p v-if="shown.length > MOST" class="soft">
      The {{ MOST }} with most effect of {{ shown.length }} are shown; choose a kind to see its own.
    </p>
  </template>
</template>

<style scoped>
td {
  overflow-wrap: anywhere;
}
.choose {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 12px 0;
  flex-wrap: wrap;
}
.kinds {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
  margin: 10px 0 4px;
}
.part td:first-child {
  padding-left: 20px;
}
.late {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
.choose .field {
  display: flex;
  gap: 8px;
  align-items: center;
  white-space: nowrap;
}
.choose .choice-field {
  width: 300px;
}
</style>
