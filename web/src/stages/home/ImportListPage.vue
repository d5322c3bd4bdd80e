<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import {
  afterReading, cellsOf, counted, guessLinkMapping, guessMapping, isLinkTable, readDate, readLinkTable, readPlan, readWeek, writePlan,
  type Cells, type LinkMapping, type ListReading, type Plan, type Week,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import { weekLengths } from '../calendars/weekLengths.ts'
import ListMapper from '../../panes/lists/ListMapper.vue'

type Role = 'activities' | 'links' | 'calendars' | 'leave out'
interface Table {
  readonly name: string
  readonly cells: Cells
  role: Role
}

const router = useRouter()
const tables = ref<Table[]>([])
const at = ref(0)
const failure = ref('')
const fileName = ref('')
const name = ref('')
const start = ref('')
const hours = ref('mon-fri 8-12 13-17')
const reading = shallowRef<ListReading | null>(null)
const isOver = ref(false)
const picker = ref<HTMLInputElement | null>(null)
const isMaking = ref(false)

const guessRole = (cells: Cells, isFirst: boolean): Role => {
  if (isLinkTable(cells)) return 'links'
  const head = cells[0]?.join('|').toLowerCase() ?? ''
  if (/hours|holiday/.test(head) && /calendar|name/.test(head)) return 'calendars'
  const { fields } = guessMapping(cells)
  return fields.includes('name') || (isFirst && fields.length > 0) ? 'activities' : 'leave out'
}
const open = async (file: File | undefined): Promise<void> => {
  if (!file) return
  failure.value = ''
  try {
    const sheets = /\.xlsx$/i.test(file.name) ? await api.readWorkbook(file) : [{ name: file.name, rows: cellsOf(await file.text()) }]
    const filled = sheets.filter((s) => s.rows.some((row) => row.some((cell) => cell.trim() !== '')))
    if (filled.length === 0) throw new Error(`${file.name} has no rows`)
    let seen = false
    tables.value = filled.map((sheet) => {
      const role = guessRole(sheet.rows, !seen)
      const own = role === 'activities' && seen ? 'leave out' : role
      seen ||= role === 'activities'
      return { name: sheet.name, cells: sheet.rows, role: own }
    })
    at.value = Math.max(0, tables.value.findIndex((t) => t.role === 'activities'))
    fileName.value = file.name
    name.value ||= file.name.replace(/\.[a-z]+$/i, '')
  } catch (error) {
    failure.value = (error as Error).message
  }
}
const drop = (event: DragEvent): void => {
  isOver.value = false
  void open(event.dataTransfer?.files[0])
}

const week = computed(() => readWeek(hours.value))
const startRead = computed(() => (start.value.trim() === '' ? null : readDate(start.value, Date.now() / 60_000 - Date.UTC(1950, 0, 1) / 60_000)))
const problems = ref<string[]>([])
/** The plan without activities that the list is read into: project, its calendar, the calendars of a sheet. */
const ground = computed((): { plan: Plan | null; problems: string[] } => {
  const read = week.value
  if (!read.ok) return { plan: null, problems: [read.why] }
  const found: string[] = []
  const calendarOf = (id: string, title: string, given: Week, off: readonly string[]) => ({
    id,
    name: title,
    ...weekLengths(given),
    week: given,
    exceptions: off.map((date) => ({ from: date, to: date, name: 'day off', shifts: [] })),
  })
  const calendars = [calendarOf('main', 'Working week', read.week, [])]
  for (const table of tables.value.filter((t) => t.role === 'calendars')) {
    const head = table.cells[0]!.map((cell) => cell.toLowerCase())
    const column = (test: RegExp): number => head.findIndex((cell) => test.test(cell))
    const [nameAt, hoursAt, offAt] = [column(/name|calendar/), column(/hours|week/), column(/holiday|off|exception/)]
    table.cells.slice(1).forEach((row, k) => {
      const title = (row[nameAt] ?? '').trim()
      if (title === '') return
      const typed = readWeek(row[hoursAt] ?? '')
      const dates = (row[offAt] ?? '').split(/[;,\n]/).map((d) => d.trim()).filter(Boolean)
      const days = dates.map((d) => readDate(d, 0))
      if (!typed.ok) found.push(`${table.name}, row ${k + 2}: ${typed.why}`)
      days.forEach((d) => !d.ok && found.push(`${table.name}, row ${k + 2}: ${d.why}`))
      if (typed.ok) calendars.push(calendarOf(`c${k + 1}`, title, typed.week, days.flatMap((d) => (d.ok ? [d.date] : []))))
    })
  }
  const date = startRead.value?.ok ? startRead.value.date : new Date().toISOString().slice(0, 10)
  try {
    const { plan } = readPlan({ format: 'geodrome-plan', version: 1, project: { name: name.value, code: '', start: date, calendar: 'main' }, calendars })
    return { plan, problems: found }
  } catch (error) {
    return { plan: null, problems: [...found, (error as Error).message] }
  }
})
/** Which column of a sheet of links holds what: by its heads, or as chosen by hand. */
const chosenLinks = ref<Record<string, LinkMapping>>({})
const linkMappingOf = (table: Table): LinkMapping => chosenLinks.value[table.name] ?? guessLinkMapping(table.cells)
const LINK_PARTS = [['from', 'Waited for'], ['to', 'Waits'], ['type', 'Type'], ['lag', 'Lag']] as const
const chooseLink = (table: Table, part: 'from' | 'to' | 'type' | 'lag', event: Event): void => {
  chosenLinks.value = { ...chosenLinks.value, [table.name]: { ...linkMappingOf(table), [part]: Number((event.target as HTMLSelectElement).value) } }
}
/** The reading of the activities with the sheets of links tied on. */
const whole = computed(() => {
  const { plan } = ground.value
  if (!plan || !reading.value) return null
  let made = afterReading(plan, reading.value)
  let links = reading.value.links
  const found: string[] = []
  for (const table of tables.value.filter((t) => t.role === 'links')) {
    const mapping = linkMappingOf(table)
    if (mapping.from < 0 || mapping.to < 0) {
      found.push(`${table.name}: say which two columns hold the ends of a link`)
      continue
    }
    const read = readLinkTable(made, table.cells, mapping, { group: null, badRows: 'leave-out', random: Math.random })
    found.push(...read.problems.map((p) => `${table.name}, row ${p.row}: ${p.why}`))
    links += read.links
    made = afterReading(made, read)
  }
  return { plan: made, links, problems: found }
})
const current = computed(() => tables.value[at.value])
const make = async (): Promise<void> => {
  if (!whole.value) return
  isMaking.value = true
  try {
    const { id } = await api.importPlan(writePlan(whole.value.plan))
    await router.push({ name: 'network', params: { id } })
  } catch (error) {
    problems.value = [(error as Error).message]
  } finally {
    isMaking.value = false
  }
}
</script>

<template>
  <main class="import" :class="{ over: isOver }" @dragover.prevent="isOver = true" @dragleave="isOver = false" @drop.prevent="drop">
    <header>
      <RouterLink class="noun" to="/">All plans</RouterLink>
      <h1>Read somebody else’s list</h1>
      <p class="soft">A table of activities, as CSV or XLSX, from any program: with links in their own column or on their own sheet. You say what each column holds; what cannot be understood is listed, not dropped.</p>
    </header>
    <p class="pick">
      <input ref="picker" type="file" accept=".csv,.tsv,.txt,.xlsx" class="sr" tabindex="-1" aria-label="List to read" data-test="list-file" @change="open(($event.target as HTMLInputElement).files?.[0])" />
      <button class="chip" @click="picker?.click()">{{ fileName ? `${fileName}; choose another` : 'Choose a file' }}</button>
      <span v-if="!fileName" class="soft">or drop it on this page</span>
      <strong v-if="failure" class="brick" role="alert">{{ failure }}</strong>
    </p>
    <template v-if="tables.length > 0">
      <div class="facts">
        <label>Name of the plan <input v-model="name" maxlength="200" /></label>
        <label>Start <input v-model="start" placeholder="today; write 12 apr 2027 7:00" /><small v-if="startRead && !startRead.ok" class="brick">{{ startRead.why }}</small></label>
        <label>Working week <input v-model="hours" /><small v-if="!week.ok" class="brick">{{ week.why }}</small></label>
      </div>
      <ul v-if="tables.length > 1" class="tables">
        <li v-for="(table, k) in tables" :key="table.name" :class="{ here: k === at }">
          <button class="plain" @click="at = k">{{ table.name }}, {{ table.cells.length }} rows</button>
          <select v-model="table.role" :aria-label="`What sheet ${table.name} is`"><option>activities</option><option>links</option><option>calendars</option><option>leave out</option></select>
        </li>
      </ul>
      <ListMapper v-if="current?.role === 'activities' && ground.plan" :cells="current.cells" :plan="ground.plan" :group="null" @reading="reading = $event" />
      <p v-else-if="current?.role === 'links'" class="parts">
        <label v-for="[part, title] in LINK_PARTS" :key="part">{{ title }}
          <select :value="linkMappingOf(current)[part]" @change="chooseLink(current, part, $event)">
            <option :value="-1">no column</option>
            <option v-for="(head, c) in current.cells[0]" :key="c" :value="c">{{ head || `column ${c + 1}` }}</option>
          </select>
        </label>
      </p>
      <p v-else-if="current" class="soft">{{ current.role === 'calendars' ? 'A table of calendars: columns Name, Hours (“mon-fri 7-12 13-16”) and Holidays (dates).' : 'This sheet is left out.' }}</p>
      <ul v-if="ground.problems.length + (whole?.problems.length ?? 0) + problems.length > 0" class="brick others">
        <li v-for="problem in [...problems, ...ground.problems, ...(whole?.problems ?? [])].slice(0, 40)" :key="problem">{{ problem }}</li>
      </ul>
      <p class="foot">
        <button class="chip do" :disabled="!whole || isMaking || whole.plan.activities.length === 0" data-test="make-plan" @click="make">Make the plan</button>
        <span v-if="whole" class="soft">{{ counted(whole.plan.activities.length, 'activity') }}, {{ counted(whole.links, 'link') }}, {{ counted(whole.plan.calendars.length, 'calendar') }}</span>
      </p>
    </template>
  </main>
</template>

<style scoped>
.import { height: 100%; display: flex; flex-direction: column; gap: 12px; padding: 26px 40px; }
.import.over { box-shadow: inset 0 0 0 4px var(--signal); }
h1 { margin: 8px 0 4px; }
header p { max-width: 720px; }
.pick, .foot { display: flex; gap: 12px; align-items: center; }
.facts { display: flex; gap: 18px; flex-wrap: wrap; }
.facts label { display: flex; flex-direction: column; gap: 3px; font-weight: 600; min-width: 230px; }
.facts input { border: 1.5px solid var(--line); border-radius: 7px; background: var(--raised); color: var(--ink); font: inherit; font-weight: 400; padding: 5px 9px; }
.facts input::placeholder { color: var(--soft-ink); opacity: 1; }
.facts small { font-weight: 400; }
.tables { list-style: none; display: flex; gap: 8px; margin: 0; padding: 0; flex-wrap: wrap; }
.tables li { display: flex; gap: 8px; align-items: center; border: 1px solid var(--line); border-radius: 8px; padding: 4px 8px; }
.tables li.here { border-color: var(--ink); box-shadow: inset 0 0 0 1px var(--ink); }
.tables select { border: 1px solid var(--line); border-radius: 6px; background: var(--raised); color: var(--ink); font: inherit; height: 26px; }
.parts { display: flex; gap: 16px; }
.parts label { display: flex; flex-direction: column; font-weight: 600; }
.parts select { border: 1.5px solid var(--line); border-radius: 6px; background: var(--raised); color: var(--ink); font: inherit; height: 30px; }
.do { background: var(--ink); color: var(--paper); border-color: var(--ink); font-weight: 600; }
.do:disabled { opacity: 0.45; cursor: default; }
.others { margin: 0; padding-left: 20px; max-height: 110px; overflow: auto; }
</style>
