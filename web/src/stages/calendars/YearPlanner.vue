<script setup lang="ts">
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import SaveAs from '../../controls/SaveAs.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { civilDate, dayNumber, MONTH, readShifts, type DayRule, type PlanCalendar } from '@geodrome/core'

type Exception = PlanCalendar['exceptions'][number]
const props = defineProps<{
  year: number
  rule: (day: number) => DayRule
  windowed: ReadonlySet<string>
  calendarId: string
  /** What it is called. */
  calendar: string
  span: readonly [number, number]
}>()
const emit = defineEmits<{ year: [year: number]; add: [exception: Exception] }>()

const iso = (day: number): string => {
  const { year, month, day: date } = civilDate(day)
  return `${year}-${String(month).padStart(2, '0')}-${String(date).padStart(2, '0')}`
}
interface Day {
  readonly day: number
  readonly number: number
  readonly works: boolean
  readonly kind: 'own' | 'inherited' | ''
  readonly isOff: boolean
  readonly isOut: boolean
  readonly title: string
}
/** The months that the plan lies in, unless the whole year is asked for. */
const isWhole = ref(false)
const shownMonths = computed(() => {
  const all = MONTH.map((name, m) => ({ name, m }))
  const near = all.filter(
    ({ m }) =>
      dayNumber(props.year, m + 1, 1) <= props.span[1] + 31 &&
      dayNumber(props.year, m + 1, 28) >= props.span[0] - 31,
  )
  return isWhole.value || near.length === 0 ? all : near
})
const months = computed(() =>
  shownMonths.value.map(({ name, m }) => {
    const first = dayNumber(props.year, m + 1, 1)
    const next = m === 11 ? dayNumber(props.year + 1, 1, 1) : dayNumber(props.year, m + 2, 1)
    const days = Array.from({ length: next - first }, (_, k): Day => {
      const day = first + k
      const { shifts, source, name: why, calendar } = props.rule(day)
      const works = shifts.length > 0 || props.windowed.has(iso(day))
      const isException = source === 'exception'
      return {
        day,
        number: k + 1,
        works,
        kind: isException ? (calendar === props.calendarId ? 'own' : 'inherited') : '',
        isOff: isException && !works,
        isOut: day < props.span[0] || day > props.span[1],
        title: `${iso(day)}, ${why ?? (works ? 'works' : source === 'rota' ? 'off by the rota' : 'no work')}`,
      }
    })
    return { name, lead: civilDate(first).weekday, days }
  }),
)

const drawn = useTemplateRef('drawn')

/** Days being picked: dragged over, or walked over with Shift and the arrows. */
const range = ref<readonly [number, number] | null>(null)
const cursor = ref<number | null>(null)
const isDragging = ref(false)
const isPicked = (day: number): boolean =>
  range.value !== null && day >= Math.min(...range.value) && day <= Math.max(...range.value)
const press = (day: number): void => {
  isDragging.value = true
  range.value = [day, day]
  cursor.value = day
}
const over = (day: number): void => {
  if (isDragging.value && range.value) range.value = [range.value[0], day]
}
const nameInput = ref<InstanceType<typeof TextField> | null>(null)
const begin = async (): Promise<void> => {
  isDragging.value = false
  if (!range.value) return
  await nextTick()
  nameInput.value?.focus()
}
const focusDay = async (day: number): Promise<void> => {
  const { year } = civilDate(day)
  if (year !== props.year) emit('year', year)
  cursor.value = day
  await nextTick()
  document.getElementById(`day-${day}`)?.focus()
}
const onKey = (day: number, event: KeyboardEvent): void => {
  const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[event.key]
  if (by !== undefined) {
    event.preventDefault()
    range.value = event.shiftKey ? [range.value?.[0] ?? day, day + by] : null
    void focusDay(day + by)
  } else if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault()
    range.value ??= [day, day]
    void begin()
  } else if (event.key === 'Escape') range.value = null
}
const name = ref('')
const hours = ref('off')
const yearly = ref(false)
const read = computed(() => readShifts(hours.value))
const set = (): void => {
  if (!range.value || !read.value.ok) return
  const [from, to] = [iso(Math.min(...range.value)), iso(Math.max(...range.value))]
  emit('add', {
    ...(name.value.trim() === '' ? {} : { name: name.value.trim() }),
    from,
    to,
    yearly: yearly.value,
    shifts: [...read.value.shifts],
  })
  range.value = null
  name.value = ''
  hours.value = 'off'
  yearly.value = false
}
const words = (day: number): string => `${civilDate(day).day} ${MONTH[civilDate(day).month - 1]}`
</script>

<template>
  <section class="planner" aria-label="Year planner" @pointerup="begin" @pointerleave="isDragging = false">
    <header>
      <h2>
        <IconButton
          :icon="ChevronLeft"
          class="turn"
          :label="`${year - 1}`"
          @click="emit('year', year - 1)"
        />{{ year
        }}<IconButton
          :icon="ChevronRight"
          class="turn"
          :label="`${year + 1}`"
          @click="emit('year', year + 1)"
        />
      </h2>
      <form
        v-if="range && !isDragging"
        class="name"
        data-test="exception-form"
        @submit.prevent="set"
        @keydown.esc="range = null"
      >
        <strong
          >{{ words(Math.min(...range))
          }}<template v-if="range[0] !== range[1]"> – {{ words(Math.max(...range)) }}</template></strong
        >
        <TextField
          ref="nameInput"
          v-model="name"
          label="Name of these days"
          placeholder="name, for example yard shutdown"
        />
        <TextField
          v-model="hours"
          class="hours"
          label="Hours of these days"
          :invalid="!read.ok"
          title="off, or hours such as 7-12 13-16"
        />
        <TickBox v-model="yearly"> every year</TickBox>
        <ActButton type="submit" :disabled="!read.ok">Set</ActButton>
        <ActButton type="button" @click="range = null">Leave</ActButton>
        <small v-if="!read.ok" class="brick">{{ read.why }}</small>
      </form>
      <p v-else class="soft">
        <ActButton kind="noun" @click="isWhole = !isWhole">
          {{ isWhole ? 'The plan’s months' : 'The whole year' }}
        </ActButton>
        Drag over days to name a holiday, a shutdown or extra work; or walk with the arrows, Shift for more,
        Enter to name.
        <SaveAs :name="`${calendar} ${year}`" :drawing="() => drawn" />
      </p>
    </header>
    <div ref="drawn" class="year">
      <div v-for="month in months" :key="month.name" class="month">
        <h3>{{ month.name }}</h3>
        <div class="days" role="group" :aria-label="`${month.name} ${year}`">
          <span
            v-for="letter in ['M', 'T', 'W', 'T', 'F', 'S', 'S']"
            :key="`w${letter}`"
            class="letter"
            aria-hidden="true"
            >{{ letter }}</span
          >
          <span v-for="lead in month.lead" :key="`l${lead}`" />
          <button
            v-for="day in month.days"
            :id="`day-${day.day}`"
            :key="day.number"
            class="plain dayno"
            :class="{
              works: day.works,
              own: day.kind === 'own',
              inherited: day.kind === 'inherited',
              off: day.isOff,
              out: day.isOut,
              picked: isPicked(day.day),
            }"
            :title="day.title"
            :aria-label="day.title"
            :tabindex="day.day === (cursor ?? months[0]!.days[0]!.day) ? 0 : -1"
            @pointerdown.prevent="press(day.day)"
            @pointerenter="over(day.day)"
            @keydown="onKey(day.day, $event)"
          >
            {{ day.number
            }}<svg
              v-if="day.isOff"
              class="slash"
              viewBox="0 0 20 20"
              preserveAspectRatio="none"
              aria-hidden="true"
            >
              <line x1="1" y1="19" x2="19" y2="1" />
            </svg>
            <span v-else-if="day.kind === 'own' && day.works" class="own-day" />
          </button>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 36px;
  margin: 16px 0 6px;
}
h2 {
  white-space: nowrap;
}
.turn {
  width: 26px;
  height: 26px;
  line-height: 24px;
  text-align: center;
}
.name {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  background: var(--wash);
  border-radius: 8px;
  padding: 5px 10px;
}
.year {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(164px, 1fr));
  gap: 12px 22px;
  user-select: none;
}
.days {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 2px;
  font-size: 11px;
  text-align: center;
  margin-top: 3px;
}
.letter {
  color: var(--soft-ink);
  line-height: 16px;
}
.dayno {
  border-radius: 3px;
  line-height: 16px;
  min-height: 18px;
  color: var(--soft-ink);
  background: var(--raised);
  border: 1px solid var(--hairline);
  text-align: center;
  touch-action: none;
  position: relative;
  overflow: hidden;
}
.dayno.works {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.dayno.off {
  background: transparent;
  color: var(--soft-ink);
  border-color: var(--line);
}
.slash {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.own-day {
  position: absolute;
  inset: auto 0 0;
  height: 3px;
  background: var(--signal);
}
.dayno.out.works {
  background: var(--soft-ink);
  border-color: var(--soft-ink);
}
.dayno.picked {
  background: var(--signal);
  border-color: var(--signal);
  color: #1e2733;
}
.name .text-field {
  width: 190px;
}
.name .text-field.hours {
  width: 110px;
}
</style>
