<script setup lang="ts">
import { X } from '@lucide/vue'
import ActButton from '../controls/ActButton.vue'
import FactTable from '../controls/FactTable.vue'
import IconButton from '../controls/IconButton.vue'
import { onKeyStroke } from '@vueuse/core'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { durationWords, floatGain, instantWords, NONE, positionsOf } from '@geodrome/core'
import { useCalendars } from '../composables/useCalendars.ts'
import { usePlanStore, type EditNews } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'

/** What the last edit did, activity by activity: who joined or left the longest path, every float that changed, by how much, and where it finishes now. */
const props = defineProps<{ before: NonNullable<EditNews['before']> }>()
const emit = defineEmits<{ close: [] }>()
const plans = usePlanStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.viewPlan)
const calendarsThen = useCalendars(() => props.before.plan)
onKeyStroke('Escape', () => emit('close'))

interface Line {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly by: number
  /** On other dates, be it its start alone. */
  readonly moved: boolean
  readonly float: string
  readonly change: string
  readonly finish: string
  readonly path: string
}
const MOST = 300
const lines = computed((): Line[] => {
  const { viewPlan: plan, view } = plans
  if (!plan || !view || !calendars.value || !calendarsThen.value) return []
  const { plan: oldPlan, view: old } = props.before
  const was = positionsOf(oldPlan.activities)
  return plan.activities
    .flatMap((activity, i): Line[] => {
      const o = was.get(activity.id)
      if (o === undefined) return []
      const [now, then] = [view.totalFloat[i]!, old.totalFloat[o]!]
      const [isOn, wasOn] = [view.onLongestPath[i] === 1, old.onLongestPath[o] === 1]
      const moved = view.finish[i] !== old.finish[o] || view.start[i] !== old.start[o]
      const former = oldPlan.activities[o]!
      const [lengths, lengthsThen] = [
        calendars.value!.lengthsOf(activity),
        calendarsThen.value!.lengthsOf(former),
      ]
      const by = floatGain(then, lengthsThen.dayMinutes, now, lengths.dayMinutes)
      const isOther = by !== 0 || (now === NONE) !== (then === NONE)
      if (!isOther && isOn === wasOn && !moved) return []
      const words = (minutes: number, of = lengths): string =>
        minutes === NONE ? 'none' : durationWords(minutes, of)
      return [
        {
          id: activity.id,
          code: activity.code,
          name: activity.name,
          by,
          moved,
          float: isOther ? `${words(then, lengthsThen)} → ${words(now)}` : words(now),
          change: by === 0 ? '' : by > 0 ? `${words(by)} more` : `${words(-by)} less`,
          finish:
            view.finish[i] !== old.finish[o]
              ? `${instantWords(old.finish[o]!, 'finish').slice(4)} → ${instantWords(view.finish[i]!, 'finish').slice(4)}`
              : '',
          path: isOn === wasOn ? '' : isOn ? 'joined' : 'left',
        },
      ]
    })
    .sort((a, b) => Number(b.path !== '') - Number(a.path !== '') || Math.abs(b.by) - Math.abs(a.by))
})
/** All that changed, for a file. */
const allRows = () => ({
  head: ['code', 'activity', 'longest path', 'total float', 'by', 'finish'],
  rows: lines.value.map(({ code, name, path, float, change, finish }) => [
    code,
    name,
    path,
    float,
    change,
    finish,
  ]),
})
/** The same counts as in the line above it. */
const counts = computed(() => {
  const count = (is: (line: Line) => boolean): number => lines.value.filter(is).length
  return [
    [count(({ moved }) => moved), 'moved'],
    [count(({ by }) => by < 0), 'lost float'],
    [count(({ by }) => by > 0), 'gained float'],
  ]
    .filter(([n]) => n !== 0)
    .map(([n, what]) => `${n} ${what}`)
    .join(' · ')
})
const goTo = async (id: string): Promise<void> => {
  await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}
</script>

<template>
  <section class="effect" aria-label="What the last edit changed, by how much" data-test="effect-panel">
    <header>
      <h2>
        By how much <span class="soft counts">{{ counts }}</span>
      </h2>
      <IconButton :icon="X" class="x" label="Close" @click="emit('close')" />
    </header>
    <div class="scroll" tabindex="0" role="region" aria-label="Activities that changed">
      <FactTable name="What the last edit changed" :whole="allRows">
        <thead>
          <tr>
            <th scope="col">Activity</th>
            <th scope="col">Longest path</th>
            <th scope="col" class="right">Total float</th>
            <th scope="col" class="right">By</th>
            <th scope="col" class="right">Finish</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in lines.slice(0, MOST)" :key="line.id">
            <td>
              <ActButton kind="noun" @click="goTo(line.id)">{{ line.code }} {{ line.name }}</ActButton>
            </td>
            <td>{{ line.path }}</td>
            <td class="right">{{ line.float }}</td>
            <td class="right" :class="{ signal: line.by < 0 }">{{ line.change }}</td>
            <td class="right soft">{{ line.finish }}</td>
          </tr>
        </tbody>
      </FactTable>
      <p v-if="lines.length > MOST" class="soft">and {{ lines.length - MOST }} more, which changed less</p>
      <p v-if="lines.length === 0" class="soft">
        No float, no finish and nothing of the longest path is other than before it.
      </p>
    </div>
  </section>
</template>

<style scoped>
.effect {
  position: absolute;
  left: 18px;
  top: 100%;
  width: min(860px, calc(100% - 36px));
  max-height: 420px;
  display: flex;
  flex-direction: column;
  padding: 10px 16px 14px;
  background: var(--raised);
  border: 1.5px solid var(--ink);
  border-radius: 0 0 10px 10px;
  z-index: 12;
}
.counts {
  font-size: 12.5px;
  font-weight: 400;
  margin-left: 8px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.x {
  width: 28px;
  height: 28px;
  font-size: 18px;
  text-align: center;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
th {
  position: sticky;
  top: 0;
  background: var(--raised);
  text-align: left;
  font-weight: 600;
  color: var(--soft-ink);
  font-size: 12.5px;
  padding: 3px 10px 3px 0;
}
td {
  padding: 3px 10px 3px 0;
  border-top: 1px solid var(--hairline);
}
td:first-child {
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
th.right,
td.right {
  text-align: right;
}
td.right {
  white-space: nowrap;
}
</style>
