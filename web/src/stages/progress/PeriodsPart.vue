<script setup lang="ts">
import HatchPattern from '../../controls/HatchPattern.vue'
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import {
  addsItem,
  counted,
  datesOf,
  durationWords,
  floatIn,
  inOrder,
  instantOf,
  instantWords,
  shortDay,
  type UpdatePeriod,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { useKeptPlans } from '../../composables/useKeptPlans.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useFindingsThen } from './useFindingsThen.ts'

/** The updates that were kept: where each put the milestones, how float went, how much of the planned work was really done. */
const props = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const plan = computed(() => plans.viewPlan!)
const little = computed(() => 5 * props.calendars.projectLengths.dayMinutes)
const { answer: now } = useQuestion('progressNow', () => ({ little: little.value }))
const periods = computed(() => inOrder(plan.value))
const { changedSince, changedUntil } = useKeptPlans()
const problem = ref('')
const nameOf = (period: UpdatePeriod): string => shortDay(instantOf(period.statusDate, 'start'))

/** Milestones whose finish moved, the finish of the project always; as many as can be looked at beside each other. */
const MOST_LINES = 5
interface DriftLine {
  readonly id: string | null
  readonly label: string
  readonly at: readonly (number | null)[]
}
const lines = computed((): DriftLine[] => {
  const all = periods.value.map((period) => datesOf(period))
  const points = plan.value.activities
    .map((activity, i) => ({ activity, i }))
    .filter(({ activity }) => activity.kind === 'milestone')
    .map(({ activity, i }): DriftLine & { moved: number } => {
      const at = [
        ...all.map((dates) => dates.get(activity.id)?.finish ?? null),
        ...(isLater.value ? [plans.view!.finish[i]!] : []),
      ]
      const known = at.filter((t) => t !== null)
      return {
        id: activity.id,
        label: activity.name || activity.code,
        at,
        moved: Math.max(...known) - Math.min(...known),
      }
    })
    .filter(({ moved }) => moved > 0)
    .sort((a, b) => b.moved - a.moved)
    .slice(0, MOST_LINES - 1)
    .sort((a, b) => (a.at.at(-1) ?? 0) - (b.at.at(-1) ?? 0))
  const finish: DriftLine = {
    id: null,
    label: 'Finish',
    at: [
      ...periods.value.map((period) => (period.finish === null ? null : instantOf(period.finish, 'finish'))),
      ...(isLater.value ? [plans.view!.projectFinish] : []),
    ],
  }
  // A milestone that is the finish of the project all along is one line with it.
  const same = points.find(({ at }) => at.every((t, k) => t === finish.at[k]))
  return same
    ? points.map((one) => (one === same ? { ...one, label: `${one.label}, the finish` } : one))
    : [...points, finish]
})
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const ROW = 24
const TOP = computed(() => labelRows.value * 16 + 8)
const LEFT = 96
/** Since the last update something may have changed: then where things stand now is a row of its own. */
const isLater = computed(() => {
  const last = periods.value.at(-1)
  if (!last || last.statusDate !== plan.value.project.statusDate) return true
  const dates = datesOf(last)
  return plan.value.activities.some(({ id }, i) => dates.get(id)?.finish !== plans.view!.finish[i])
})
const names = computed(() => [...periods.value.map(nameOf), ...(isLater.value ? ['now'] : [])])
const height = computed(() => TOP.value + names.value.length * ROW + 26)
const span = computed(() => {
  const all = lines.value.flatMap(({ at }) => at.filter((t) => t !== null))
  const [from, to] = [Math.min(...all), Math.max(...all)]
  const room = Math.max(3 * 1440, (to - from) * 0.06)
  return [from - room, to + room] as const
})
const x = (at: number): number =>
  LEFT + ((at - span.value[0]) / (span.value[1] - span.value[0])) * Math.max(100, width.value - LEFT - 20)
const y = (k: number): number => TOP.value + k * ROW + ROW / 2
const path = (line: DriftLine): string =>
  line.at
    .map((t, k) =>
      t === null
        ? ''
        : `${line.at.slice(0, k).some((u) => u !== null) ? 'L' : 'M'}${x(t).toFixed(1)} ${y(k)}`,
    )
    .join('')
const required = computed(() => {
  const { requiredFinish } = plan.value.project
  return requiredFinish === null ? null : instantOf(requiredFinish, 'finish')
})
const ticks = computed(() => {
  const [from, to] = span.value
  const days = (to - from) / 1440
  const step = Math.max(1, Math.ceil(days / 7))
  const first = Math.ceil(from / 1440)
  return Array.from({ length: Math.floor(days / step) + 1 }, (_, k) => (first + k * step) * 1440).filter(
    (t) => t < to,
  )
})
/** Each label stands on the first height at which it touches no other. */
const labels = computed(() => {
  const ends: number[] = []
  return lines.value.map(({ label, at }) => {
    const half = label.length * 3.6
    const middle = Math.max(
      LEFT + half,
      Math.min(width.value - half, x(at.find((t) => t !== null) ?? span.value[0])),
    )
    let row = ends.findIndex((end) => end < middle - half)
    if (row < 0) row = ends.length
    ends[row] = middle + half + 8
    return { label, x: middle, row }
  })
})
const labelRows = computed(() => Math.max(1, ...labels.value.map(({ row }) => row + 1)))

const floats = computed(() => [
  ...periods.value.map((period) => ({ name: nameOf(period), ...floatIn(period, little.value) })),
  ...(now.value && isLater.value ? [{ name: 'now', ...now.value.float }] : []),
])
const most = computed(() =>
  Math.max(1, ...floats.value.map(({ none, little: few, more }) => none + few + more)),
)
const BAR = 220
const bar = (count: number): number => (count / most.value) * BAR

/** What Review found of the plan as each update left it. */
const findings = useFindingsThen(
  () => plans.planId!,
  () => periods.value.map(({ id }) => id),
)
/** Where all of them came with a file nothing is known of any. */
const areFindingsKnown = computed(() => [...findings.value.values()].some((one) => 'open' in one))
const findingsWords = (period: string): { text: string; why: string } => {
  const found = findings.value.get(period)
  if (!found) return { text: '…', why: 'being counted' }
  return 'open' in found ? { text: String(found.open), why: '' } : { text: 'not known', why: found.why }
}
const rows = computed(() =>
  periods.value.map((period, k) => {
    const before = periods.value[k - 1]
    const finish = period.finish === null ? null : instantOf(period.finish, 'finish')
    const earlier = before?.finish == null ? null : instantOf(before.finish, 'finish')
    const by =
      finish === null || earlier === null
        ? null
        : props.calendars.project.countBefore(finish) - props.calendars.project.countBefore(earlier)
    const realised = now.value?.realised.find((one) => one.period.id === period.id)
    return {
      period,
      next: periods.value[k + 1]?.id ?? null,
      isLast: k === periods.value.length - 1,
      finish,
      by:
        by === null
          ? ''
          : by === 0
            ? 'unchanged'
            : `${durationWords(Math.abs(by), props.calendars.projectLengths)} ${by > 0 ? 'later' : 'earlier'}`,
      findings: findingsWords(period.id),
      done: realised ? `${realised.done} of ${realised.planned}` : '',
    }
  }),
)
const title = computed(() => {
  const n = periods.value.length
  if (n === 0) return 'No update was kept yet.'
  const planned = now.value?.realised.reduce((sum, one) => sum + one.planned, 0) ?? 0
  const done = now.value?.realised.reduce((sum, one) => sum + one.done, 0) ?? 0
  const share =
    planned === 0 ? '' : ` Of ${planned} activities that one planned to finish before the next, ${done} were.`
  return `${counted(n, 'update')} kept, the last for ${nameOf(periods.value.at(-1)!)}.${share}`
})
/** Takes the update back with which a period came, as it stands in the log. */
const takeBack = async (id: string): Promise<void> => {
  problem.value = ''
  for (;;) {
    const entry =
      plans.pending.findLast(({ change, undoes }) => undoes === null && addsItem(change, 'periods', id)) ??
      plans.log.findLast(({ change, undoes }) => undoes === null && addsItem(change, 'periods', id))
    if (entry) {
      plans.takeBack(entry.uid)
      problem.value = plans.refusal
      return
    }
    if (!plans.hasEarlier || !(await plans.loadEarlier())) break
  }
  problem.value =
    'The change that this update came with is not in the history of this plan: it came with a file.'
}
const worn = useTemplateRef<HTMLElement>('worn')
</script>

<template>
  <section class="periods scroll">
    <h1 data-test="periods-title">{{ title }}</h1>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p v-if="periods.length === 0" class="soft first">
      Each update that is kept is a period: where it put every activity stays here, so that drift and float
      are read from what was said at the time.
    </p>
    <p v-else-if="plans.left > 0" class="soft" role="status" data-test="reading-periods">
      Reading what each update said of {{ counted(plan.activities.length, 'activity') }}: {{ plans.left }} to
      go …
    </p>
    <template v-else>
      <h2>Drift: where each update put them</h2>
      <div ref="box">
        <svg
          :width="Math.max(200, width)"
          :height="height"
          role="img"
          data-test="drift"
          :aria-label="`Drift of ${lines.map(({ label }) => label).join(', ')} over ${counted(periods.length, 'period')}; the table below says the same of the finish`"
        >
          <g v-for="tick in ticks" :key="tick">
            <line class="tick" :x1="x(tick)" :x2="x(tick)" :y1="TOP" :y2="height - 22" />
            <text class="soft-text" :x="x(tick)" :y="height - 8" text-anchor="middle">
              {{ shortDay(tick) }}
            </text>
          </g>
          <g v-for="(name, k) in names" :key="k">
            <line class="tick" :x1="LEFT" :x2="Math.max(200, width)" :y1="y(k)" :y2="y(k)" />
            <text
              class="soft-text"
              :class="{ now: k === names.length - 1 }"
              :x="LEFT - 10"
              :y="y(k) + 4"
              text-anchor="end"
            >
              {{ name }}
            </text>
          </g>
          <line
            v-if="required !== null"
            class="required"
            :x1="x(required)"
            :x2="x(required)"
            :y1="TOP"
            :y2="height - 22"
          />
          <g v-for="line in lines" :key="line.id ?? 'finish'">
            <path class="drift" :d="path(line)" />
            <template v-for="(t, p) in line.at" :key="p">
              <circle v-if="t !== null" class="dot" :cx="x(t)" :cy="y(p)" r="4.5" />
            </template>
          </g>
          <text
            v-for="one in labels"
            :key="one.label"
            class="label"
            :x="one.x"
            :y="one.row * 16 + 14"
            text-anchor="middle"
          >
            {{ one.label }}
          </text>
        </svg>
      </div>
      <SaveAs name="Drift" :drawing="() => box" />
      <div class="beside">
        <div ref="worn">
          <h2>Float worn away</h2>
          <svg
            :width="BAR + 170"
            :height="floats.length * 22 + 4"
            role="img"
            data-test="float-worn"
            :aria-label="
              floats
                .map(
                  (f) =>
                    `${f.name}: ${f.none} without float, ${f.little} with at most 5 days, ${f.more} with more`,
                )
                .join('; ')
            "
          >
            <g v-for="(f, k) in floats" :key="k" :transform="`translate(0 ${k * 22})`">
              <text class="soft-text" x="76" y="15" text-anchor="end">{{ f.name }}</text>
              <rect class="none" x="84" y="4" :width="bar(f.none)" height="14" />
              <rect class="little" :x="84 + bar(f.none)" y="4" :width="bar(f.little)" height="14" />
              <rect
                class="more"
                :x="84 + bar(f.none) + bar(f.little)"
                y="4"
                :width="bar(f.more)"
                height="14"
              />
              <text :x="90 + bar(f.none + f.little + f.more)" y="15">
                {{ f.none }} · {{ f.little }} · {{ f.more }}
              </text>
            </g>
            <defs>
              <HatchPattern id="worn-hatch" :gap="5" :thick="2.6" ground="var(--paper)" />
            </defs>
          </svg>
          <p class="soft">Unfinished activities: none left · at most 5 d · more.</p>
          <SaveAs name="Float worn away" :drawing="() => worn" />
        </div>
        <div>
          <h2>Update by update</h2>
          <FactTable name="Periods" data-test="periods-table">
            <thead>
              <tr>
                <th>Status date</th>
                <th>By</th>
                <th>Finish</th>
                <th>Moved</th>
                <th>Done of planned</th>
                <th v-if="areFindingsKnown" class="right">Open findings</th>
                <th />
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in rows" :key="row.period.id">
                <td>{{ instantWords(instantOf(row.period.statusDate, 'start'), 'start') }}</td>
                <td>{{ row.period.by || '–' }}</td>
                <td>{{ row.finish === null ? '–' : instantWords(row.finish, 'finish') }}</td>
                <td>{{ row.by }}</td>
                <td>{{ row.done }}</td>
                <td v-if="areFindingsKnown" class="right" :title="row.findings.why">
                  {{ row.findings.text }}
                </td>
                <td>
                  <ActButton data-test="open-period" @click="plans.viewKept('periods', row.period.id)"
                    >Open it</ActButton
                  >
                  <ActButton v-if="row.next" @click="changedUntil('periods', row.period.id, row.next)"
                    >What the next one changed</ActButton
                  >
                  <ActButton v-else @click="changedSince('periods', row.period.id)"
                    >What changed since</ActButton
                  >
                  <ActButton v-if="row.isLast" data-test="take-back-update" @click="takeBack(row.period.id)"
                    >Take it back</ActButton
                  >
                </td>
              </tr>
            </tbody>
          </FactTable>
        </div>
      </div>
      <ul class="soft links">
        <li v-for="line in lines.filter(({ id }) => id !== null)" :key="line.id!">
          <ActButton kind="noun" @click="emit('show', line.id!)">{{ line.label }}</ActButton>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.periods {
  flex: 1;
  padding: 12px 18px 30px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.first {
  max-width: 560px;
}
.beside {
  display: flex;
  flex-wrap: wrap;
  gap: 16px 40px;
}
.tick {
  stroke: var(--hairline);
}
text {
  font-size: 12px;
  fill: var(--ink);
}
.soft-text {
  fill: var(--soft-ink);
}
.now {
  font-weight: 700;
  fill: var(--ink);
}
.label {
  font-weight: 650;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.drift {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.dot {
  fill: var(--ink);
}
.required {
  stroke: var(--brick);
  stroke-dasharray: 2 3;
  stroke-width: 1.5;
}
.none {
  fill: var(--ink);
}
.little {
  fill: url(#worn-hatch);
  stroke: var(--ink);
}
.more {
  fill: var(--paper);
  stroke: var(--ink);
}
.links {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding: 0;
  margin: 0;
}
:deep(:is(th, td)) {
  padding: 4px 14px 4px 0;
}
:deep(th.right) {
  text-align: right;
}
</style>
