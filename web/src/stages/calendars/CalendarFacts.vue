<script setup lang="ts">
import { optionsByName } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import FilePick from '../../controls/FilePick.vue'
import { X } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref } from 'vue'
import {
  daysWords,
  durationWords,
  holidaysCsv,
  readDate,
  readDuration,
  type Item,
  type Plan,
  type PlanCalendar,
  paintedLengths,
} from '@geodrome/core'
import { download } from '../../saving/download.ts'
import { readHolidays, writeIcs, type Exception } from './holidayFiles.ts'

/** Everything of a calendar beside its hours: name, length of a day, what it inherits, rota, windows, named days. */
const props = defineProps<{
  plan: Plan
  calendar: PlanCalendar
  inherited: readonly { from: string; exceptions: readonly Exception[] }[]
}>()
const emit = defineEmits<{ set: [fields: Item] }>()

const CLOCK = { dayMinutes: 1e9, weekMinutes: 1e9 }
const typed = ref<Record<string, string>>({})
const problem = ref('')
const lengthOf = (field: 'dayMinutes' | 'weekMinutes'): string =>
  typed.value[field] ?? durationWords(props.calendar[field], { dayMinutes: 1e9 })
const keepLength = (field: 'dayMinutes' | 'weekMinutes'): void => {
  const text = typed.value[field]
  if (text === undefined) return
  const read = readDuration(/^\d+([.,]\d+)?$/.test(text.trim()) ? `${text}h` : text, CLOCK)
  if (!read.ok || read.minutes < 1 || read.minutes > (field === 'dayMinutes' ? 1440 : 10_080))
    return void (problem.value = 'write hours, for example 8 h or 9 h 30')
  problem.value = ''
  delete typed.value[field]
  emit('set', { [field]: read.minutes })
}
const painted = computed(() => paintedLengths(props.calendar))
const differs = computed(
  () =>
    painted.value !== null &&
    (painted.value.dayMinutes !== props.calendar.dayMinutes ||
      painted.value.weekMinutes !== props.calendar.weekMinutes),
)

/** Parents that would not lead back to this calendar. */
const parents = computed(() => {
  const byId = new Map(props.plan.calendars.map((c) => [c.id, c]))
  const leadsHere = (id: string): boolean => {
    for (let at = byId.get(id); at; at = byId.get(at.parent ?? ''))
      if (at.id === props.calendar.id) return true
    return false
  }
  return props.plan.calendars.filter((c) => !leadsHere(c.id))
})
const remove = (k: number): void => emit('set', { exceptions: props.calendar.exceptions.toSpliced(k, 1) })
const span = (e: Exception): string =>
  e.yearly ? `${daysWords(e.from.slice(-5), e.to.slice(-5))}, every year` : daysWords(e.from, e.to)

const fileProblems = ref<readonly string[]>([])
const takeFile = async (file: File): Promise<void> => {
  const { exceptions, problems } = await readHolidays(await file.text(), file.name)
  fileProblems.value = problems
  const known = new Set(props.calendar.exceptions.map((e) => `${e.from}|${e.to}`))
  const fresh = exceptions.filter((e) => !known.has(`${e.from}|${e.to}`))
  if (fresh.length > 0) emit('set', { exceptions: [...props.calendar.exceptions, ...fresh] })
}
const exportFile = (kind: 'ics' | 'csv'): void => {
  const { name, id, exceptions } = props.calendar
  const text = kind === 'ics' ? writeIcs(name, exceptions) : holidaysCsv(exceptions)
  download(text, `${name || id}.${kind}`, kind === 'ics' ? 'text/calendar' : 'text/csv')
}

const rotaText = ref<string | null>(null)
const rotaWords = computed(
  () =>
    rotaText.value ??
    (props.calendar.rota
      ? `${props.calendar.rota.on} on ${props.calendar.rota.off} off from ${props.calendar.rota.from}`
      : ''),
)
const keepRota = (): void => {
  const text = rotaText.value
  if (text === null) return
  if (text.trim() === '') {
    rotaText.value = null
    return emit('set', { rota: null })
  }
  const match = /^(\d+)\s*(?:days?\s*)?on,?\s*(\d+)\s*(?:days?\s*)?off,?\s*from\s+(.+)$/i.exec(text.trim())
  const date = match ? readDate(match[3]!, 0) : null
  if (!match || !date?.ok || Number(match[1]) < 1)
    return void (problem.value = 'write the rota as: 14 on 7 off from 2027-04-12')
  problem.value = ''
  rotaText.value = null
  emit('set', { rota: { from: date.date, on: Number(match[1]), off: Number(match[2]) } })
}
const windowsText = ref<string | null>(null)
const windowsWords = computed(
  () =>
    windowsText.value ??
    props.calendar.windows
      .map(([from, to]) => `${from.replace('T', ' ')} to ${to.replace('T', ' ')}`)
      .join('\n'),
)
const keepWindows = (): void => {
  if (windowsText.value === null) return
  const windows: [string, string][] = []
  for (const [k, line] of windowsText.value.split('\n').entries()) {
    if (line.trim() === '') continue
    const [from, to] = line.split(/\s+to\s+|\s*[,;\t]\s*/).map((part) => readDate(part, 0))
    if (!from?.ok || !to?.ok)
      return void (problem.value = `line ${k + 1}: write from and to, for example 2027-05-12 10:00 to 2027-05-12 14:00`)
    windows.push([from.date, to.date])
  }
  problem.value = ''
  windowsText.value = null
  emit('set', { windows })
}
</script>

<template>
  <section class="facts">
    <label
      >Name <TextField :kept="calendar.name" maxlength="200" @keep="emit('set', { name: $event.trim() })"
    /></label>
    <div class="two">
      <label
        >A day counts as
        <TextField
          :model-value="lengthOf('dayMinutes')"
          data-test="day-length"
          @update:model-value="typed.dayMinutes = $event"
          @keydown.enter="keepLength('dayMinutes')"
          @blur="keepLength('dayMinutes')"
      /></label>
      <label
        >a week as
        <TextField
          :model-value="lengthOf('weekMinutes')"
          @update:model-value="typed.weekMinutes = $event"
          @keydown.enter="keepLength('weekMinutes')"
          @blur="keepLength('weekMinutes')"
      /></label>
    </div>
    <p v-if="differs" class="soft small">
      Painted are {{ durationWords(painted!.dayMinutes, { dayMinutes: 1e9 }) }} a day,
      {{ durationWords(painted!.weekMinutes, { dayMinutes: 1e9 }) }} a week.
      <ActButton kind="noun" @click="emit('set', { ...painted! })">Count so</ActButton>
    </p>
    <div class="field">
      Takes its days off, and hours where it has none, from
      <ChoiceField
        label="Takes its days off, and hours where it has none, from"
        :model-value="calendar.parent ?? ''"
        :options="[{ value: '', label: 'no other' }, ...optionsByName(parents)]"
        @update:model-value="emit('set', { parent: $event || null })"
      />
    </div>
    <h3>Named days</h3>
    <ul>
      <li v-for="(e, k) in calendar.exceptions" :key="k">
        <span
          ><strong>{{ e.name ?? (e.shifts.length === 0 ? 'off' : 'extra work') }}</strong> {{ span(e)
          }}<template v-if="e.shifts.length > 0">, {{ e.shifts.join(' ') }}</template></span
        ><IconButton :icon="X" class="x" :label="`Remove ${e.name ?? ''} ${span(e)}`" @click="remove(k)" />
      </li>
      <template v-for="source in inherited" :key="source.from">
        <li v-for="(e, k) in source.exceptions" :key="`i${k}`" class="soft">
          <span>{{ e.name ?? 'off' }} {{ span(e) }}, from {{ source.from }}</span>
        </li>
      </template>
      <li v-if="calendar.exceptions.length === 0 && inherited.length === 0" class="soft">none</li>
    </ul>
    <div class="files">
      <FilePick accept=".ics,.csv,text/calendar" label="File of holidays" test="holiday-file" @pick="takeFile"
        ><ActButton kind="noun">Read holidays (.ics, .csv)</ActButton></FilePick
      >
      <template v-if="calendar.exceptions.length > 0"
        ><ActButton kind="noun" @click="exportFile('ics')">Write them as .ics</ActButton
        ><ActButton kind="noun" @click="exportFile('csv')">as .csv</ActButton></template
      >
    </div>
    <ul v-if="fileProblems.length > 0" class="brick">
      <li v-for="p in fileProblems.slice(0, 8)" :key="p">{{ p }}</li>
    </ul>
    <details>
      <summary>
        Rota and windows<template v-if="calendar.rota || calendar.windows.length > 0"
          >:
          {{
            [
              calendar.rota ? 'a rota' : '',
              calendar.windows.length > 0 ? `${calendar.windows.length} windows` : '',
            ]
              .filter(Boolean)
              .join(', ')
          }}</template
        >
      </summary>
      <label
        >Rota
        <TextField
          :model-value="rotaWords"
          placeholder="14 on 7 off from 2027-04-12"
          @update:model-value="rotaText = $event"
          @keydown.enter="keepRota"
          @blur="keepRota"
      /></label>
      <label
        >Works only in these windows, one a line
        <TextField
          :rows="4"
          :model-value="windowsWords"
          placeholder="2027-05-12 10:00 to 2027-05-12 14:00"
          @update:model-value="windowsText = $event"
          @blur="keepWindows"
        />
      </label>
    </details>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.facts {
  display: flex;
  flex-direction: column;
  gap: 8px;
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
  margin-top: 14px;
}
label,
.field {
  display: flex;
  flex-direction: column;
  gap: 2px;
  font-size: 12.5px;
  color: var(--soft-ink);
}
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 1px 0;
}
.x {
  width: 24px;
  height: 24px;
  line-height: 24px;
  text-align: center;
  color: var(--soft-ink);
  flex: none;
}
.files {
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
}
.small {
  font-size: 12.5px;
}
summary {
  cursor: pointer;
  font-weight: 650;
  min-height: 24px;
}
details label {
  margin-top: 6px;
}
</style>
