<script setup lang="ts">
import TextField from '../../controls/TextField.vue'
import { followPointer } from '../../composables/followPointer.ts'
import { computed, ref } from 'vue'
import {
  durationWords,
  formatClock,
  readShifts,
  readWeek,
  shiftWords,
  weekWords,
  WEEKDAYS,
  type Week,
  type Weekday,
  shiftMinutes,
} from '@geodrome/core'
import { onDays, paint, shiftsOf, spansOf, type Span } from './paint.ts'

const props = defineProps<{ week: Week; compared: Week | null; comparedName: string; isOwn: boolean }>()
const emit = defineEmits<{ change: [week: Record<Weekday, string[]>] }>()

const NAMES = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
const chosen = ref<ReadonlySet<Weekday>>(new Set(['mon', 'tue', 'wed', 'thu', 'fri']))
let anchor = 0
const choose = (d: number, { add = false, extend = false } = {}): void => {
  const day = WEEKDAYS[d]!
  if (extend) {
    const [a, b] = [Math.min(anchor, d), Math.max(anchor, d)]
    chosen.value = new Set(WEEKDAYS.slice(a, b + 1))
    return
  }
  anchor = d
  if (!add) chosen.value = new Set([day])
  else {
    const next = new Set(chosen.value)
    if (!next.delete(day)) next.add(day)
    chosen.value = next
  }
}
const heads = ref<HTMLButtonElement[]>([])
const onDayKey = (d: number, event: KeyboardEvent): void => {
  const to = event.key === 'ArrowDown' ? d + 1 : event.key === 'ArrowUp' ? d - 1 : -1
  if (to < 0 || to > 6) return
  event.preventDefault()
  if (!event.shiftKey) choose(to)
  else choose(to, { extend: true })
  heads.value[to]?.focus()
}
const days = (d: number): ReadonlySet<Weekday> =>
  chosen.value.has(WEEKDAYS[d]!) ? chosen.value : new Set([WEEKDAYS[d]!])

/** Painting: pressed on rest it paints work, pressed on work it wipes; to the quarter of an hour, with Alt to the minute. */
const stroke = ref<{ day: number; from: number; to: number; what: 'work' | 'rest' } | null>(null)
const minuteAt = (event: PointerEvent, track: HTMLElement): number => {
  const { left, width } = track.getBoundingClientRect()
  const step = event.altKey ? 1 : 15
  const minute = ((event.clientX - left) / width) * 1440
  return Math.max(0, Math.min(1800, Math.round(minute / step) * step))
}
const press = (d: number, event: PointerEvent): void => {
  if (event.button !== 0) return
  const track = event.currentTarget as HTMLElement
  const at = minuteAt(event, track)
  const isWork = spansOf(props.week[WEEKDAYS[d]!] ?? []).some(([from, to]) => at >= from && at < to)
  if (!chosen.value.has(WEEKDAYS[d]!)) choose(d)
  const begun = { day: d, from: at, what: isWork ? 'rest' : 'work' } as const
  stroke.value = { ...begun, to: at }
  followPointer(
    event,
    (e) => (stroke.value = { ...begun, to: minuteAt(e, track) }),
    (isDropped) => {
      const done = stroke.value
      stroke.value = null
      if (isDropped && done) draw(done)
    },
    track,
  )
}
const draw = (done: NonNullable<typeof stroke.value>): void => {
  if (done.from === done.to) return
  const span: Span = [Math.min(done.from, done.to), Math.max(done.from, done.to)]
  emit(
    'change',
    onDays(props.week, days(done.day), (shifts) => shiftsOf(paint(spansOf(shifts), span, done.what))),
  )
}
const strokeSpan = computed((): Span | null =>
  stroke.value
    ? [Math.min(stroke.value.from, stroke.value.to), Math.max(stroke.value.from, stroke.value.to)]
    : null,
)

interface Bar {
  readonly left: string
  readonly width: string
  readonly words: string
  readonly fromYesterday: boolean
}
/** What a day's track shows: its own shifts up to midnight, and the end of last night's. */
const barsOf = (week: Week, d: number): Bar[] => {
  const place = ([from, to]: Span, words: string, fromYesterday: boolean): Bar => ({
    left: `${(from / 1440) * 100}%`,
    width: `${((to - from) / 1440) * 100}%`,
    words,
    fromYesterday,
  })
  const own = spansOf(week[WEEKDAYS[d]!] ?? []).map((span) =>
    place([span[0], Math.min(1440, span[1])], shiftWords(shiftsOf([span])), false),
  )
  const late = spansOf(week[WEEKDAYS[(d + 6) % 7]!] ?? [])
    .filter(([, to]) => to > 1440)
    .map(([, to]) => place([0, to - 1440], `until ${formatClock(to - 1440)}`, true))
  return [...late, ...own]
}

const typed = ref<string | null>(null)
const typedDays = ref<string | null>(null)
const whole = computed(() => typed.value ?? weekWords(props.week))
const wholeRead = computed(() => readWeek(whole.value))
const keepWhole = (): void => {
  if (typed.value === null) return
  const read = readWeek(typed.value)
  if (!read.ok) return
  typed.value = null
  emit(
    'change',
    onDays(read.week, new Set(), (shifts) => shifts),
  )
}
const chosenWords = computed(() => {
  const all = [...chosen.value].map((day) => shiftWords(props.week[day] ?? []))
  return new Set(all).size === 1 ? all[0]! : ''
})
const daysText = computed(() => typedDays.value ?? chosenWords.value)
const daysRead = computed(() => readShifts(daysText.value))
const keepDays = (): void => {
  if (typedDays.value === null) return
  const read = readShifts(typedDays.value)
  if (!read.ok) return
  typedDays.value = null
  emit(
    'change',
    onDays(props.week, chosen.value, () => read.shifts),
  )
}
const dayList = computed(() =>
  WEEKDAYS.flatMap((day, d) => (chosen.value.has(day) ? [NAMES[d]!] : [])).join(', '),
)
const hours = (minutes: number): string => (minutes === 0 ? 'off' : formatClock(minutes).replace(/^0/, ''))
const sum = computed(() =>
  durationWords(
    WEEKDAYS.reduce((total, day) => total + shiftMinutes(props.week[day] ?? []), 0),
    { dayMinutes: 1e9 },
  ),
)
</script>

<template>
  <div class="painter" data-test="week-painter">
    <span class="axis" aria-hidden="true"
      ><i
        v-for="h in [0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24]"
        :key="h"
        :style="{ left: `${(h / 24) * 100}%` }"
        >{{ h }}</i
      ></span
    >
    <span class="hours">hours</span>
    <template v-for="(day, d) in WEEKDAYS" :key="day">
      <button
        ref="heads"
        class="plain day"
        :class="{ chosen: chosen.has(day) }"
        :aria-pressed="chosen.has(day)"
        :aria-label="`${NAMES[d]}, ${shiftWords(week[day] ?? [])}`"
        @click="choose(d, { add: $event.ctrlKey || $event.metaKey, extend: $event.shiftKey })"
        @keydown="onDayKey(d, $event)"
      >
        {{ NAMES[d] }}
      </button>
      <span
        class="track"
        :class="{ chosen: chosen.has(day) }"
        :data-day="day"
        @pointerdown="press(d, $event)"
      >
        <span
          v-for="(bar, k) in barsOf(week, d)"
          :key="k"
          class="shift"
          :class="{ late: bar.fromYesterday }"
          :style="{ left: bar.left, width: bar.width }"
          >{{ bar.words }}</span
        >
        <span
          v-for="(bar, k) in compared ? barsOf(compared, d) : []"
          :key="`c${k}`"
          class="ghost"
          :style="{ left: bar.left, width: bar.width }"
        />
        <span
          v-if="strokeSpan && (stroke!.day === d || (chosen.has(WEEKDAYS[stroke!.day]!) && chosen.has(day)))"
          class="stroke"
          :class="stroke!.what"
          :style="{
            left: `${(strokeSpan[0] / 1440) * 100}%`,
            width: `${((strokeSpan[1] - strokeSpan[0]) / 1440) * 100}%`,
          }"
        >
          <em v-if="stroke!.day === d"
            >{{ formatClock(strokeSpan[0]) }} –
            {{ formatClock(strokeSpan[1] > 1440 ? strokeSpan[1] - 1440 : strokeSpan[1]) }}</em
          >
        </span>
      </span>
      <span class="total" :class="{ soft: shiftMinutes(week[day] ?? []) === 0 }">{{
        hours(shiftMinutes(week[day] ?? []))
      }}</span>
    </template>
    <p v-if="compared" class="note soft"><span class="ghost key" /> {{ comparedName }}, for comparison</p>
    <div class="words">
      <label
        >{{ dayList || 'No day' }}
        <TextField
          :model-value="daysText"
          data-test="day-hours"
          :placeholder="chosenWords === '' ? 'different hours; type to make them alike' : ''"
          :invalid="!daysRead.ok"
          @update:model-value="typedDays = $event"
          @keydown.enter="keepDays"
          @blur="keepDays"
        />
        <small v-if="!daysRead.ok" class="brick">{{ daysRead.why }}</small>
      </label>
      <label
        >The whole week in words, {{ sum }}
        <TextField
          :model-value="whole"
          data-test="week-words"
          :invalid="!wholeRead.ok"
          @update:model-value="typed = $event"
          @keydown.enter="keepWhole"
          @blur="keepWhole"
        />
        <small v-if="!wholeRead.ok" class="brick">{{ wholeRead.why }}</small>
      </label>
    </div>
    <p class="note soft">
      <template v-if="!isOwn"
        >These hours are inherited; painting gives this calendar a week of its own. </template
      >Choose days by their names, with Shift or Ctrl several; drag over a day to paint work or to wipe it,
      past midnight for a night shift.
    </p>
  </div>
</template>

<style scoped>
.painter {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr) 50px;
  gap: 4px 6px;
  align-items: center;
  user-select: none;
}
.axis {
  grid-column: 2;
  position: relative;
  height: 16px;
  font-size: 11px;
  color: var(--soft-ink);
}
.axis i {
  position: absolute;
  transform: translateX(-50%);
  font-style: normal;
}
.hours {
  font-size: 11px;
  color: var(--soft-ink);
  text-align: right;
}
.day {
  grid-column: 1;
  min-height: 26px;
  line-height: 26px;
  padding-left: 4px;
  border-radius: 5px;
}
.day.chosen {
  font-weight: 650;
  box-shadow: inset 3px 0 0 var(--signal);
  padding-left: 8px;
}
.track {
  position: relative;
  height: 26px;
  background: var(--raised);
  border: 1px solid var(--hairline);
  border-radius: 5px;
  cursor: crosshair;
  touch-action: none;
  overflow: hidden;
}
.track.chosen {
  border-color: var(--signal);
  box-shadow: inset 0 0 0 1px var(--signal);
}
.shift {
  position: absolute;
  top: 4px;
  bottom: 4px;
  background: var(--ink);
  color: var(--paper);
  border-radius: 4px;
  font-size: 11px;
  line-height: 17px;
  padding: 0 5px;
  white-space: nowrap;
  overflow: hidden;
  pointer-events: none;
}
.shift.late {
  background: repeating-linear-gradient(45deg, var(--ink) 0 3px, var(--raised) 3px 5px);
  color: transparent;
  border: 1px solid var(--ink);
}
.ghost {
  position: absolute;
  top: 1px;
  bottom: 1px;
  border: 1.5px dashed var(--fjord);
  border-radius: 4px;
  pointer-events: none;
}
.ghost.key {
  position: static;
  display: inline-block;
  width: 20px;
  height: 10px;
  vertical-align: -1px;
}
.stroke {
  position: absolute;
  top: 1px;
  bottom: 1px;
  border-radius: 4px;
  pointer-events: none;
  z-index: 2;
}
.stroke.work {
  background: var(--signal);
  opacity: 0.9;
}
.stroke.rest {
  background: var(--raised);
  border: 1.5px dashed var(--ink);
}
.stroke em {
  font-style: normal;
  font-size: 11px;
  font-weight: 650;
  color: var(--ink);
  padding-left: 4px;
  white-space: nowrap;
  line-height: 22px;
}
.stroke.work em {
  color: #1e2733;
}
.total {
  text-align: right;
}
.note {
  grid-column: 2 / -1;
  font-size: 12.5px;
}
.words {
  grid-column: 2 / -1;
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
  gap: 10px;
  margin-top: 6px;
  align-items: start;
}
@media (max-width: 1150px) {
  .words {
    grid-template-columns: minmax(0, 1fr);
  }
}
.words label {
  display: flex;
  flex-direction: column;
  gap: 2px;
  font-size: 12.5px;
  color: var(--soft-ink);
}
</style>
