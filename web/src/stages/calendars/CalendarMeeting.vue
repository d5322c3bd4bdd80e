<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import { computed } from 'vue'
import { calendarOf, counted, durationWords, type Plan, type PlanCalendar, type Week } from '@geodrome/core'
import { paint, spansOf, type Span } from './paint.ts'

/** Where work passes between this calendar and others, and how their days lie over each other. */
const props = defineProps<{
  plan: Plan
  calendar: PlanCalendar
  weekOf: (id: string) => Week
  oddStarts: readonly string[]
}>()
const emit = defineEmits<{ show: [ids: readonly string[]]; choose: [id: string] }>()

interface Meeting {
  readonly id: string
  readonly name: string
  readonly out: number
  readonly back: number
  readonly own: readonly Span[]
  readonly theirs: readonly Span[]
  /** Worked on one of the two calendars only. */
  readonly apart: readonly Span[]
  readonly apartMinutes: number
}
const meetings = computed((): Meeting[] => {
  const counts = new Map<string, { out: number; back: number }>()
  const calendars = new Map(props.plan.activities.map((a) => [a.id, calendarOf(props.plan.project, a)]))
  for (const link of props.plan.links) {
    const [from, to] = [calendars.get(link.from), calendars.get(link.to)]
    if (from === to || (from !== props.calendar.id && to !== props.calendar.id)) continue
    const other = from === props.calendar.id ? to! : from!
    const known = counts.get(other) ?? { out: 0, back: 0 }
    counts.set(
      other,
      from === props.calendar.id ? { ...known, out: known.out + 1 } : { ...known, back: known.back + 1 },
    )
  }
  return [...counts]
    .sort((a, b) => b[1].out + b[1].back - a[1].out - a[1].back)
    .slice(0, 3)
    .map(([id, { out, back }]) => {
      const own = busiest(props.weekOf(props.calendar.id))
      const theirs = busiest(props.weekOf(id))
      const apart = [
        ...own.reduce<Span[]>((rest, span) => paint(rest, span, 'rest'), [...theirs]),
        ...theirs.reduce<Span[]>((rest, span) => paint(rest, span, 'rest'), [...own]),
      ]
      return {
        id,
        name: props.plan.calendars.find((c) => c.id === id)?.name ?? 'Round the clock',
        out,
        back,
        own,
        theirs,
        apart,
        apartMinutes: apart.reduce((sum, [a, b]) => sum + b - a, 0),
      }
    })
})
/** The first working day of a week stands for it. */
const busiest = (week: Week): Span[] => {
  const day = Object.values(week).find((shifts) => shifts.length > 0) ?? []
  return spansOf(day).map(([a, b]): Span => [a, Math.min(1440, b)])
}
const bar = ([from, to]: Span): Record<string, string> => ({
  left: `${(from / 1440) * 100}%`,
  width: `${((to - from) / 1440) * 100}%`,
})
</script>

<template>
  <section v-if="meetings.length > 0" class="meeting">
    <h3>Where it meets others</h3>
    <div v-for="m in meetings" :key="m.id" class="pair">
      <p>
        {{ m.out > 0 ? 'Work passes to' : 'Work comes from' }}
        <ActButton kind="noun" @click="emit('choose', m.id)">{{ m.name }}</ActButton>
        {{ counted(m.out || m.back, 'time')
        }}<template v-if="m.out > 0 && m.back > 0"> and back {{ counted(m.back, 'time') }}</template
        >.
        <template v-if="m.own.length > 0 && m.theirs.length > 0 && m.apartMinutes > 0"
          >{{ durationWords(m.apartMinutes, { dayMinutes: 1e9 }) }} of a day is worked on one of them
          only.</template
        >
      </p>
      <div
        v-if="m.own.length > 0 && m.theirs.length > 0"
        class="strip"
        role="img"
        :aria-label="`Hours of ${calendar.name} over those of ${m.name}`"
      >
        <span class="lane"
          ><i v-for="(span, k) in m.theirs" :key="k" class="theirs" :style="bar(span)"
        /></span>
        <span class="lane"><i v-for="(span, k) in m.own" :key="k" class="own" :style="bar(span)" /></span>
        <i v-for="(span, k) in m.apart" :key="`a${k}`" class="apart" :style="bar(span)" />
      </div>
    </div>
    <p v-if="oddStarts.length > 0">
      <ActButton kind="noun" @click="emit('show', oddStarts)">
        {{ counted(oddStarts.length, 'activity') }} on it
      </ActButton>
      {{ oddStarts.length === 1 ? 'starts' : 'start' }} inside a working day, not at its edge: floats of
      fractions of a day come from there.
    </p>
  </section>
</template>

<style scoped>
.meeting {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
  margin-top: 14px;
}
.pair {
  margin-top: 6px;
}
.strip {
  position: relative;
  height: 30px;
  margin: 6px 0 4px;
}
.lane {
  position: relative;
  display: block;
  height: 14px;
}
.lane i,
.apart {
  position: absolute;
  border-radius: 3px;
}
.lane i {
  top: 2px;
  bottom: 2px;
}
.own {
  background: var(--ink);
}
.theirs {
  border: 1.5px solid var(--fjord);
}
.apart {
  top: 0;
  bottom: 0;
  background: var(--signal);
  opacity: 0.45;
}
</style>
