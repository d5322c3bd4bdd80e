<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { computed, nextTick, ref, watch } from 'vue'
import {
  checkOf,
  verdictsOf,
  counted,
  effectWords,
  limitWords,
  TOPICS,
  withdrawAcceptance,
  type Acceptance,
  type Finding,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import type { CheckGroup } from '../../workers/reviewProtocol.ts'
import FindingMark from './FindingMark.vue'
import { keptDay } from './keptDay.ts'

const { calendars } = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [] }>()
const plans = usePlanStore()
const store = useReviewStore()
const { problem, attempt } = useAttempt()
const view = computed(() => store.view!)

/** Findings beyond the first page, by check, fetched when asked for. */
const more = ref<Record<string, readonly Finding[]>>({})
watch(
  () => view.value.version,
  () => (more.value = {}),
)
const findingsOf = (group: CheckGroup): readonly Finding[] => [
  ...group.findings,
  ...(more.value[group.check] ?? []),
]
const fetchMore = async (group: CheckGroup): Promise<void> => {
  const known = findingsOf(group).length
  const page = (await store.ask<'page'>({ kind: 'page', check: group.check, from: known })) ?? []
  more.value = { ...more.value, [group.check]: [...(more.value[group.check] ?? []), ...page] }
}

const choose = (finding: Finding): void => {
  store.chosen = { check: finding.check, fingerprint: finding.fingerprint }
}
const chooseGroup = (group: CheckGroup): void => {
  if (group.count > 1) toggle(group, true)
  choose(group.findings[0]!)
}
const isOpen = (group: CheckGroup): boolean => group.count > 1 && store.unfolded.has(group.check)
const toggle = (group: CheckGroup, to = !store.unfolded.has(group.check)): void => {
  const next = new Set(store.unfolded)
  if (to) next.add(group.check)
  else next.delete(group.check)
  store.unfolded = next
}

/** Every finding in view in the order of the sheet, for the keys. */
const lines = computed(() => view.value.groups.flatMap((g) => (isOpen(g) ? findingsOf(g) : [g.findings[0]!])))
const sheet = ref<HTMLElement | null>(null)
const move = async (by: number): Promise<void> => {
  const at = lines.value.findIndex((f) => f.fingerprint === store.chosen?.fingerprint)
  const next = lines.value[Math.max(0, Math.min(lines.value.length - 1, at + by))]
  if (!next) return
  choose(next)
  await nextTick()
  sheet.value?.querySelector<HTMLElement>('[aria-pressed="true"]')?.focus()
}
const fold = (to: boolean): void => {
  const group = view.value.groups.find((g) => g.check === store.chosen?.check)
  if (group && group.count > 1) toggle(group, to)
}

const where = (activities: number, links: number, check: string): string => {
  const of = checkOf(check)?.of
  if (of === 'links' && links > 0) return counted(links, 'link')
  return activities === 0
    ? of === 'calendars'
      ? 'a calendar'
      : 'the project'
    : counted(activities, 'activity')
}
const share = (value: number | null): string => (value === null ? '' : `${(value * 100).toFixed(1)} %`)
const limitOf = (check: string): string => {
  const rule = checkOf(check)?.limit
  return rule ? limitWords(view.value.limits[check]!, rule) : ''
}
const trendOf = (group: CheckGroup): string => {
  const { since } = group
  if (!since) return ''
  if (since.before === 0) return 'new'
  const difference = group.count - since.before
  if (difference !== 0) return difference > 0 ? `+${difference}` : `−${-difference}`
  return since.appeared ? `${since.appeared} other` : '='
}
const kept = computed(() => plans.plan!.reviews.at(-1))

const verdicts = computed(() => verdictsOf(plans.plan!, view.value))
const clean = computed(() =>
  TOPICS.map((topic) => ({
    topic,
    words: verdicts.value.clean.filter((c) => c.topic === topic).map((c) => c.clean),
  })).filter((t) => t.words.length > 0),
)
const acceptedOpen = ref(false)
const withdraw = (acceptance: Acceptance): void =>
  void attempt(() => plans.edit(withdrawAcceptance(acceptance)))
</script>

<template>
  <FactTable
    ref="sheet"
    class="findings"
    name="Findings"
    @keydown.down.prevent="move(1)"
    @keydown.up.prevent="move(-1)"
    @keydown.right="fold(true)"
    @keydown.left="fold(false)"
    @keydown.enter.ctrl="emit('show')"
  >
    <thead>
      <tr>
        <th><span class="sr">Weight</span></th>
        <th>Topic</th>
        <th class="wide">Finding, most effect first</th>
        <th class="right">Where</th>
        <th class="right">Share</th>
        <th class="right">Threshold</th>
        <th class="right">Effect</th>
        <th v-if="kept" class="right" :title="`against the review saved on ${keptDay(kept)}`">
          {{ keptDay(kept) }}
        </th>
      </tr>
    </thead>
    <tbody v-for="group in view.groups" :key="group.check">
      <tr
        :class="{ chosen: store.chosen?.check === group.check && !isOpen(group), heavy: group.isHeavy }"
        @click="chooseGroup(group)"
      >
        <td><FindingMark :heavy="group.isHeavy" :effect="group.effect.kind" /></td>
        <td class="soft">{{ checkOf(group.check)!.topic }}</td>
        <td>
          <ActButton
            kind="bare"
            v-if="group.count === 1"
            class="message"
            :aria-pressed="store.chosen?.check === group.check"
            @click.stop="chooseGroup(group)"
          >
            {{ group.findings[0]!.message
            }}<span v-if="view.reopened[group.findings[0]!.fingerprint]" class="signal">
              · accepted before, changed since</span
            >
          </ActButton>
          <ActButton
            kind="bare"
            v-else
            class="message"
            :aria-expanded="isOpen(group)"
            :aria-pressed="store.chosen?.check === group.check && !isOpen(group)"
            @click.stop="isOpen(group) ? toggle(group, false) : chooseGroup(group)"
          >
            {{ checkOf(group.check)!.title }}: {{ group.count.toLocaleString('en') }}
            <span class="caret" aria-hidden="true">{{ isOpen(group) ? '▾' : '▸' }}</span>
          </ActButton>
        </td>
        <td class="right">{{ where(group.activities, group.links, group.check) }}</td>
        <td class="right soft">{{ share(group.share) }}</td>
        <td class="right soft">{{ limitOf(group.check) }}</td>
        <td class="right effect">{{ effectWords(group.effect, calendars.projectLengths) }}</td>
        <td v-if="kept" class="right soft">{{ trendOf(group) }}</td>
      </tr>
      <template v-if="isOpen(group)">
        <tr
          v-for="f in findingsOf(group)"
          :key="f.fingerprint"
          class="one"
          :class="{ chosen: f.fingerprint === store.chosen?.fingerprint }"
          @click="choose(f)"
        >
          <td />
          <td />
          <td>
            <ActButton
              kind="bare"
              class="message"
              :aria-pressed="f.fingerprint === store.chosen?.fingerprint"
              @click.stop="choose(f)"
            >
              {{ f.message
              }}<span v-if="view.reopened[f.fingerprint]" class="signal">
                · accepted before, changed since</span
              >
            </ActButton>
          </td>
          <td class="right soft">{{ where(f.activities.length, f.links.length, f.check) }}</td>
          <td />
          <td />
          <td class="right soft">{{ effectWords(f.effect, calendars.projectLengths) }}</td>
          <td v-if="kept" />
        </tr>
        <tr v-if="findingsOf(group).length < group.count" class="one">
          <td />
          <td />
          <td colspan="5">
            <ActButton kind="noun" @click="fetchMore(group)">Show more</ActButton>
            <span class="soft"
              >{{ findingsOf(group).length }} of {{ group.count.toLocaleString('en') }} shown</span
            >
          </td>
        </tr>
      </template>
    </tbody>
    <tbody v-if="view.acceptedCount > 0" class="accepted">
      <tr>
        <td />
        <td class="soft">Accepted</td>
        <td colspan="5">
          <ActButton
            kind="bare"
            class="message"
            :aria-expanded="acceptedOpen"
            data-test="accepted"
            @click="acceptedOpen = !acceptedOpen"
          >
            <strong>{{ counted(view.acceptedCount, 'finding') }} with a reason</strong>
            <span class="caret" aria-hidden="true">{{ acceptedOpen ? '▾' : '▸' }}</span></ActButton
          ><span v-if="!acceptedOpen" class="soft">
            {{ [...new Set(view.accepted.map((a) => a.acceptance.reason))].slice(0, 3).join(' · ') }}</span
          >
        </td>
        <td v-if="kept" />
      </tr>
      <tr
        v-for="{ finding, acceptance } in acceptedOpen ? view.accepted : []"
        :key="finding.fingerprint"
        class="one"
      >
        <td />
        <td class="soft">{{ finding.topic }}</td>
        <td colspan="4">
          {{ finding.message }}<br /><span class="soft"
            >“{{ acceptance.reason }}”, {{ acceptance.by }}, {{ keptDay(acceptance) }}</span
          >
        </td>
        <td class="right"><ActButton kind="noun" @click="withdraw(acceptance)">Open again</ActButton></td>
        <td v-if="kept" />
      </tr>
    </tbody>
    <tbody v-if="clean.length > 0">
      <tr class="clean">
        <td>
          <svg class="tick" viewBox="0 0 14 14" role="img" aria-label="clean">
            <path d="M2 7.5 5.5 11 12 3" />
          </svg>
        </td>
        <td class="soft">Clean</td>
        <td :colspan="kept ? 6 : 5">
          <template v-for="({ topic, words }, k) in clean" :key="topic"
            ><template v-if="k > 0"> · </template><strong>{{ topic }}</strong>
            <span class="soft">{{ words.join(', ') }}</span></template
          >
        </td>
      </tr>
    </tbody>
    <tbody v-if="verdicts.untested.length > 0">
      <tr class="clean" data-test="untested">
        <td />
        <td class="soft">Not tested</td>
        <td :colspan="kept ? 6 : 5">
          <template v-for="({ lacks, checks }, k) in verdicts.untested" :key="lacks"
            ><template v-if="k > 0"> · </template><strong>{{ lacks }}</strong>
            <span class="soft">{{ checks.map((c) => c.title.toLowerCase()).join(', ') }}</span></template
          >
        </td>
      </tr>
    </tbody>
  </FactTable>
  <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
</template>

<style scoped>
.findings {
  width: 100%;
  border-collapse: collapse;
  margin-top: 14px;
}
th {
  font-weight: 400;
  color: var(--soft-ink);
  font-size: 12px;
  text-align: left;
  padding: 6px 6px;
  border-bottom: 1.5px solid var(--ink);
  position: sticky;
  top: -10px;
  z-index: 1;
  background: var(--paper);
  white-space: nowrap;
}
th.right {
  text-align: right;
}
td {
  padding: 5px 6px;
  border-bottom: 1px solid var(--hairline);
  vertical-align: top;
  line-height: 20px;
}
tbody tr {
  cursor: pointer;
}
tr.chosen {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
tr.heavy .message,
tr.heavy .effect {
  font-weight: 650;
}
tr.one td {
  border-bottom-style: dotted;
  font-size: 13px;
}
tr.one .message {
  padding-left: 14px;
}
.message {
  min-height: 20px;
  box-shadow: 0 0 0 2px transparent;
}
th.wide {
  width: 100%;
}
td.soft {
  white-space: nowrap;
}
.clean td.soft,
.accepted td {
  white-space: normal;
}
.caret {
  display: inline-block;
  width: 12px;
}
td.right {
  white-space: nowrap;
}
.tick {
  width: 14px;
  height: 14px;
  vertical-align: -2px;
}
.tick path {
  fill: none;
  stroke: var(--moss);
  stroke-width: 2.2;
  stroke-linecap: round;
}
.clean,
.accepted tr.one {
  cursor: default;
}
.clean td {
  line-height: 1.5;
  padding-top: 8px;
}
</style>
