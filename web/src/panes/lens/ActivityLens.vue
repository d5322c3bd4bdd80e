<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import { watchDebounced } from '@vueuse/core'
import { computed, shallowRef, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  departureOf,
  durationWords,
  explanationWords,
  houseRuleOf,
  instantWords,
  NONE,
  State,
  stopWords,
  type Explanation,
  type ExplanationWords,
  type Finding,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { Probe } from '../../workers/scheduleProtocol.ts'
import { cellContext } from '../rows/columns.ts'
import ActivityHistory from './ActivityHistory.vue'
import DayStrip from './DayStrip.vue'
import FinishLens from './FinishLens.vue'
import GroupLens from './GroupLens.vue'
import FactFields from './FactFields.vue'
import LadderBlock from './LadderBlock.vue'
import LimitEditor from './LimitEditor.vue'
import LinkEditor from './LinkEditor.vue'
import SelectionLens from './SelectionLens.vue'
import SentenceText from './SentenceText.vue'

const plans = usePlanStore()
const lens = useLensStore()
const ui = useUiStore()
const forecast = useForecastStore()
const review = useReviewStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => lens.plan)

const activity = computed(() => (lens.focus === null ? undefined : lens.activity(lens.focus)))
const index = computed(() => (lens.focus === null ? -1 : (lens.byId.get(lens.focus) ?? -1)))
const explanation = shallowRef<Explanation | null>(null)
/** Why it cannot be explained, where it cannot. */
const unexplained = shallowRef('')
const words = shallowRef<ExplanationWords | null>(null)
const probe = shallowRef<Probe | null>(null)
const inProjectDays = (minutes: number): string => durationWords(minutes, calendars.value!.projectLengths)
const codesOf = (ids: readonly string[]): string => ids.map((id) => lens.activity(id)?.code ?? id).join(' → ')

const forget = (): void => {
  explanation.value = words.value = probe.value = null
  unexplained.value = ''
}
/** The painted schedule comes first; what is asked of it follows. */
watchDebounced(
  () => [lens.focus, lens.view] as const,
  async ([focus]) => {
    if (focus === null) return forget()
    const asked = lens.plan
    const [found, tried] = await Promise.all([plans.explain(focus), plans.probe(focus)])
    if (!asked || lens.focus !== focus || lens.plan !== asked) return
    // The worker may be ahead of what is shown, and the next schedule asks again; or none comes, because the plan cannot be scheduled.
    if (plans.plan !== asked) {
      if (explanation.value?.activity !== focus) forget()
      return
    }
    probe.value = tried
    unexplained.value = found && 'problem' in found ? found.problem : ''
    explanation.value = found && 'problem' in found ? null : found
    words.value = explanation.value ? explanationWords(asked, explanation.value) : null
  },
  { debounce: 30, immediate: true },
)

/** Where a day more stops, when it does not move the finish. */
const whyNotMoved = computed(() => {
  const stops = probe.value?.experiment?.stops ?? []
  return stops.length > 0 ? stopWords(lens.plan!, stops) : null
})
/** Whether one would expect a day more to move the finish. */
const decides = computed(() => {
  const { view } = lens
  return view?.onLongestPath[index.value] === 1 || view?.critical[index.value] === 1
})
const groupName = computed(
  () => lens.plan?.groups.find((g) => g.id === activity.value?.group)?.name ?? 'no group',
)
const dates = computed(() => {
  const { view } = lens
  if (!view || index.value < 0) return ''
  return `${instantWords(view.start[index.value]!, 'start')} → ${instantWords(view.finish[index.value]!, 'finish')}`
})
const length = computed(() => {
  const a = activity.value
  if (!a || !calendars.value) return ''
  if (a.kind === 'milestone') return a.edge === 'finish' ? 'milestone at a finish' : 'milestone at a start'
  if (a.kind === 'hammock') return 'hammock'
  return durationWords(a.duration, calendars.value.lengthsOf(a))
})
const sharers = computed(() => explanation.value?.float.sharedWith ?? [])
const freeFloat = computed(() => {
  const free = lens.view?.freeFloat[index.value]
  const a = activity.value
  return free === undefined || free === NONE || !a || !calendars.value
    ? ''
    : durationWords(free, calendars.value.lengthsOf(a))
})
const odds = computed(() => (lens.focus === null ? undefined : forecast.latestResult?.activities[lens.focus]))
const findings = shallowRef<readonly Finding[]>([])
/** The review is brought up to date for the answer, which takes a core: what an edit did is painted first. */
const ASK_AFTER_MS = 200
watchDebounced(
  () => [lens.focus, review.view?.version] as const,
  async ([id]) => {
    const found = id === null ? [] : ((await review.ask<'about'>({ kind: 'about', activity: id })) ?? [])
    if (id === lens.focus) findings.value = found
  },
  { debounce: ASK_AFTER_MS, immediate: true },
)
const pane = useTemplateRef<HTMLElement>('pane')
watch(
  () => lens.focus,
  () => {
    findings.value = []
    // What is selected anew is read from its beginning.
    if (pane.value) pane.value.scrollTop = 0
  },
)
const toFinding = async (f: Finding): Promise<void> => {
  review.chosen = { check: f.check, fingerprint: f.fingerprint }
  review.unfolded = new Set([...review.unfolded, f.check])
  await router.push({ name: 'review', params: { id: route.params.id as string, part: '' } })
}
const { attempt } = useAttempt()
const confirm = (): void =>
  void attempt(() =>
    plans.edit({ kind: 'set', list: 'activities', key: activity.value!.id, set: { confirmed: true } }),
  )
const NO_SLACK: ReadonlyMap<string, number> = new Map()
const context = computed(() =>
  lens.plan && lens.view && calendars.value
    ? cellContext(lens.plan, lens.view, calendars.value, ui.allTimes)
    : null,
)
const isSeveral = computed(
  () => context.value !== null && ui.selection.filter((id) => lens.byId.has(id)).length > 1,
)
/** The chain that sets its start: back over driving links until nothing drives. */
const departure = computed(() =>
  activity.value ? departureOf(activity.value, houseRuleOf(lens.plan!.project)) : null,
)
/** The project's rule knows one more verb. */
const knowVerb = (verb: string): void => {
  const rule = houseRuleOf(lens.plan!.project)
  plans.edit({ kind: 'project', set: { naming: { ...rule, words: [...rule.words, verb] } } })
}
const showChain = (): void => {
  const { plan } = lens
  const chain = new Set([lens.focus!])
  const into = new Map<string, string[]>()
  for (const link of plan!.links)
    if (context.value!.drives(link)) into.set(link.to, [...(into.get(link.to) ?? []), link.from])
  const stack = [lens.focus!]
  while (stack.length > 0)
    for (const from of into.get(stack.pop()!) ?? [])
      if (!chain.has(from)) {
        chain.add(from)
        stack.push(from)
      }
  ui.filter = { ids: chain, reason: `driving ${activity.value!.code}` }
}
const showSharers = (): void => {
  ui.filter = {
    ids: new Set([lens.focus!, ...sharers.value]),
    reason: `sharing the float of ${activity.value!.code}`,
  }
}
</script>

<template>
  <aside ref="pane" class="lens scroll" aria-label="Lens: what is selected, and why" tabindex="0">
    <SelectionLens v-if="isSeveral" :context="context!" />
    <template v-else-if="activity && (words || unexplained)">
      <p class="where">
        <span class="code">{{ activity.code }}</span> · {{ groupName }} ·
        {{ calendars?.name(calendars.idOf(activity)) }}
      </p>
      <h2 class="title">{{ activity.name }}</h2>
      <p class="soft">{{ length }} · {{ dates }}</p>
      <p v-if="departure" class="soft naming" data-test="departure">
        Against the house rule for names: {{ departure.why }}.
        <ActButton kind="noun" v-if="departure.word" @click="knowVerb(departure.word)">
          “{{ departure.word }}” is a verb here
        </ActButton>
      </p>
      <p v-if="whyNotMoved && decides" class="stops" data-test="stops">
        One day longer does not move the finish: <SentenceText :sentence="whyNotMoved" />.
      </p>
      <template v-if="words">
        <LadderBlock :words="words.start" name="start" />
        <LadderBlock :words="words.finish" name="finish" />
        <LadderBlock :words="words.float" name="float" />
      </template>
      <p v-else class="brick" role="alert">Why it is there cannot be worked out: {{ unexplained }}</p>
      <p v-if="sharers.length > 0" class="shares">
        {{
          (explanation!.float.total ?? 0) > 0 ? 'Spending float here takes it' : 'A delay here takes float'
        }}
        from
        <template v-for="(id, k) in sharers.slice(0, 4)" :key="id"
          ><template v-if="k > 0">, </template
          ><ActButton kind="noun" @click="ui.select(id, { show: true })">
            {{ lens.activity(id)?.code }}
          </ActButton></template
        >
        <template v-if="sharers.length > 4"> and {{ sharers.length - 4 }} more</template>.
        <ActButton kind="noun" @click="showSharers">Show them</ActButton>
      </p>
      <p v-if="freeFloat" class="fact">
        <span>Free float, without moving anything</span><strong>{{ freeFloat }}</strong>
      </p>
      <section
        v-if="probe?.experiment && activity.kind === 'work' && lens.view!.state[index] !== State.Finished"
        class="probe"
        data-test="probe"
      >
        <h3>By experiment</h3>
        <p class="fact">
          <span>One day longer moves the finish</span
          ><strong>{{
            probe.experiment.nudge === 0 ? 'not at all' : inProjectDays(probe.experiment.nudge)
          }}</strong>
        </p>
        <p v-if="whyNotMoved && !decides" class="soft"><SentenceText :sentence="whyNotMoved" />.</p>
        <p class="fact">
          <span>Without it the finish comes earlier</span
          ><strong>{{
            probe.experiment.drag === 0 ? 'not at all' : inProjectDays(probe.experiment.drag)
          }}</strong>
        </p>
      </section>
      <section v-if="probe && probe.paths.length > 0" class="probe">
        <h3>What leads here, tightest first</h3>
        <ActButton kind="noun" @click="showChain">Show its driving chain alone</ActButton>
        <p v-for="(path, k) in probe.paths" :key="k" class="path">
          <span class="code">{{ codesOf(path.activities) }}</span>
          <span class="soft">{{
            path.slack === 0
              ? 'drives it'
              : `${durationWords(path.slack, calendars!.lengthsOf(lens.activity(path.activities[0]!)!))} to spare`
          }}</span>
        </p>
      </section>
      <LinkEditor :activity="activity.id" side="in" :slack="probe?.slack ?? NO_SLACK" />
      <LinkEditor :activity="activity.id" side="out" :slack="probe?.slack ?? NO_SLACK" />
      <LimitEditor v-if="activity.kind !== 'hammock'" :activity="activity" />
      <DayStrip
        :calendar="calendars!.of(activity)"
        :name="calendars!.name(calendars!.idOf(activity))"
        :start="lens.view!.start[index]!"
        :finish="lens.view!.finish[index]!"
      />
      <FactFields :key="activity.id" :activity="activity" :context="context!" />
      <section class="facts">
        <p v-if="odds" class="fact">
          <span>On the longest path in</span
          ><strong>{{ Math.round(odds.criticality * 100) }} of 100 iterations</strong>
        </p>
        <p v-if="!activity.confirmed" class="signal">Nobody has confirmed this duration yet.</p>
        <ActButton kind="noun" v-if="!activity.confirmed" @click="confirm">It is right: confirm it</ActButton>
        <p v-for="finding in findings" :key="finding.fingerprint">
          Review: <ActButton kind="noun" @click="toFinding(finding)">{{ finding.message }}</ActButton>
        </p>
      </section>
      <ActivityHistory :activity="activity.id" />
    </template>
    <GroupLens
      v-else-if="ui.group !== null && calendars && lens.view"
      :group="ui.group"
      :calendars="calendars"
    />
    <FinishLens v-else-if="lens.focus === null && calendars && lens.view" :calendars="calendars" />
  </aside>
</template>

<style scoped>
.lens {
  height: 100%;
  padding: 14px 16px 24px;
  /* What is brought into view is not brought under the title. */
  scroll-padding-top: 56px;
  background: var(--raised);
}
.where {
  font-size: 12.5px;
  color: var(--soft-ink);
}
.title {
  margin: 0 -16px;
  padding: 6px 16px 2px;
  /* It stays in view while the rest is read. */
  position: sticky;
  top: -14px;
  background: var(--raised);
  z-index: 1;
}
.stops {
  margin-top: 8px;
  padding: 8px 10px;
  background: var(--wash);
  border-radius: 4px;
}
.shares {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
}
.fact {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 4px 0;
  align-items: baseline;
}
.fact strong {
  flex: none;
  max-width: 60%;
  text-align: right;
}
.facts {
  padding-top: 8px;
}
.probe {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
}
.path {
  padding: 2px 0;
  overflow-wrap: anywhere;
}
</style>
