<script setup lang="ts">
import { optionsOf } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import FilePick from '../../controls/FilePick.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import {
  afterReading,
  availableWords,
  priceWords,
  cellsOf,
  counted,
  guessCalendarMapping,
  guessLinkMapping,
  guessMapping,
  instantOf,
  fromUnixTime,
  guessAssignmentMapping,
  isAssignmentTable,
  isCalendarTable,
  isLinkTable,
  isResourceTable,
  readAssignmentTable,
  readCalendarTable,
  readDate,
  readLinkTable,
  readPlan,
  readResourceTable,
  readWeek,
  weekWords,
  writePlan,
  type AssignmentMapping,
  type CalendarMapping,
  type Cells,
  type LinkMapping,
  type Plan,
  type TableCalendar,
  weekLengths,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useSheetMappings } from '../../stores/sheetMappings.ts'
import { ScheduleClient } from '../../workers/scheduleClient.ts'
import ListMapper from '../../panes/lists/ListMapper.vue'
import PartMapper from '../../panes/lists/PartMapper.vue'
import { useListReading, type SheetManner } from '../../panes/lists/useListReading.ts'

type Role = 'activities' | 'links' | 'resources' | 'assignments' | 'calendars' | 'leave out'
const ROLES = optionsOf<Role>([
  ['activities', 'activities'],
  ['links', 'links'],
  ['resources', 'resources'],
  ['assignments', 'assignments'],
  ['calendars', 'calendars'],
  ['leave out', 'leave out'],
])
interface Table {
  readonly name: string
  readonly cells: Cells
  role: Role
}

const router = useRouter()
/** Long lists are read beside the page. */
const client = new ScheduleClient({ scheduled: () => undefined, refused: () => undefined })
onBeforeUnmount(() => client.stop())
const tables = ref<Table[]>([])
const at = ref(0)
const failure = ref('')
const fileName = ref('')
const name = ref('')
const start = ref('')
const hours = ref('mon-fri 8-12 13-17')
/** How each sheet of activities is read, by its name. */
const manners = shallowRef<ReadonlyMap<string, SheetManner>>(new Map())
const isOver = ref(false)
const isMaking = ref(false)

const guessRole = (cells: Cells, isFirst: boolean): Role => {
  if (isLinkTable(cells)) return 'links'
  if (isCalendarTable(cells)) return 'calendars'
  if (isAssignmentTable(cells)) return 'assignments'
  if (isResourceTable(cells)) return 'resources'
  const { fields } = guessMapping(cells)
  return (fields.includes('name') && (isFirst || fields.includes('duration'))) ||
    (isFirst && fields.length > 0)
    ? 'activities'
    : 'leave out'
}
const open = async (file: File | undefined): Promise<void> => {
  if (!file) return
  failure.value = ''
  try {
    const sheets = /\.xlsx$/i.test(file.name)
      ? await api.readWorkbook(file)
      : [{ name: file.name, rows: cellsOf(await file.text()) }]
    const filled = sheets.filter((s) => s.rows.some((row) => row.some((cell) => cell.trim() !== '')))
    if (filled.length === 0) throw new Error(`${file.name} has no rows`)
    let seen = false
    manners.value = new Map()
    tables.value = filled.map((sheet) => {
      const role = guessRole(sheet.rows, !seen)
      seen ||= role === 'activities'
      return { name: sheet.name, cells: sheet.rows, role }
    })
    at.value = Math.max(
      0,
      tables.value.findIndex((t) => t.role === 'activities'),
    )
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
const startRead = computed(() =>
  start.value.trim() === '' ? null : readDate(start.value, fromUnixTime(Date.now())),
)
const problems = ref<string[]>([])
/** Which columns hold what, by the heads of a sheet: whoever sends such a sheet again need not be told again. */
const mappings = useSheetMappings()
mappings.sender = ''
void mappings.load()
const headsIn = (table: Table, headRow: number): string =>
  `${table.role}: ${(table.cells[headRow] ?? []).map((cell) => cell.trim().toLowerCase()).join('|')}`
const chosen = <M extends { readonly headRow: number }>(table: Table, guess: M): M => ({
  ...guess,
  ...mappings.of(headsIn(table, guess.headRow))?.mapping,
})
const linkMappingOf = (table: Table): LinkMapping => chosen(table, guessLinkMapping(table.cells))
const assignmentMappingOf = (table: Table): AssignmentMapping =>
  chosen(table, guessAssignmentMapping(table.cells))
const calendarMappingOf = (table: Table): CalendarMapping => chosen(table, guessCalendarMapping(table.cells))
const choose = (table: Table, headRow: number, part: string, column: number): void => {
  const heads = headsIn(table, headRow)
  mappings.keep(heads, { ...mappings.of(heads)?.mapping, [part]: column })
}
const LINK_PARTS = [
  ['from', 'Waited for'],
  ['to', 'Waits'],
  ['type', 'Type'],
  ['lag', 'Lag'],
] as const
const ASSIGNMENT_PARTS = [
  ['activity', 'Activity'],
  ['resource', 'Resource'],
  ['amount', 'How much'],
] as const
const CALENDAR_PARTS = [
  ['name', 'Calendar'],
  ['hours', 'Hours'],
  ['off', 'Days off'],
] as const
const calendarSheets = computed(() => {
  const around = startRead.value?.ok ? instantOf(startRead.value.date, 'start') : fromUnixTime(Date.now())
  return tables.value
    .filter((t) => t.role === 'calendars')
    .map((table) => ({ table, ...readCalendarTable(table.cells, calendarMappingOf(table), around) }))
})
const endsOf = ({ from, to, type, lag }: LinkMapping): Record<string, number> => ({ from, to, type, lag })
const partsOf = ({ activity, resource, amount }: AssignmentMapping): Record<string, number> => ({
  activity,
  resource,
  amount,
})
const columnsOf = ({ name: named, hours: timed, off }: CalendarMapping): Record<string, number> => ({
  name: named,
  hours: timed,
  off,
})
const calendarsIn = (table: Table): readonly TableCalendar[] =>
  calendarSheets.value.find((s) => s.table === table)?.calendars ?? []
/** The plan without activities that the list is read into: project, its calendar, the calendars of a sheet. */
const ground = computed((): { plan: Plan | null; problems: string[] } => {
  const read = week.value
  if (!read.ok) return { plan: null, problems: [read.why] }
  const found: string[] = []
  const calendarOf = (id: string, { name: title, week: given, off }: TableCalendar) => ({
    id,
    name: title,
    ...weekLengths(given),
    week: given,
    exceptions: off.map((days) => ({ ...days, name: 'day off', shifts: [] })),
  })
  const calendars = [calendarOf('main', { name: 'Working week', week: read.week, off: [] })]
  for (const { table, calendars: made, problems: bad } of calendarSheets.value) {
    found.push(...bad.map((p) => `${table.name}, row ${p.row}: ${p.why}`))
    for (const calendar of made) calendars.push(calendarOf(`c${calendars.length}`, calendar))
  }
  const date = startRead.value?.ok ? startRead.value.date : new Date().toISOString().slice(0, 10)
  try {
    let { plan } = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { name: name.value, code: '', start: date, calendar: 'main' },
      calendars,
    })
    for (const table of tables.value.filter((t) => t.role === 'resources')) {
      const read = readResourceTable(plan, table.cells, Math.random)
      found.push(...read.problems.map((p) => `${table.name}, row ${p.row}: ${p.why}`))
      plan = afterReading(plan, read)
    }
    return { plan, problems: found }
  } catch (error) {
    return { plan: null, problems: [...found, (error as Error).message] }
  }
})
const activityTables = computed(() => tables.value.filter((t) => t.role === 'activities'))
const keepManner = (table: Table, manner: SheetManner): void =>
  void (manners.value = new Map(manners.value).set(table.name, manner))
/** All sheets of activities are one list. */
const { reading, isReading } = useListReading(
  () => {
    const { plan } = ground.value
    const sheets = activityTables.value.flatMap(({ name: named, cells }) => {
      const manner = manners.value.get(named)
      return manner ? [{ name: named, cells, ...manner }] : []
    })
    return plan && sheets.length > 0 && sheets.length === activityTables.value.length
      ? { plan, sheets, group: null }
      : null
  },
  (list) => client.readList(list),
)
/** How many things on a sheet of activities are not understood. */
const badOn = (table: Table): number =>
  reading.value?.sheets[activityTables.value.indexOf(table)]?.problems.length ?? 0
/** The activities with the sheets of links tied on. */
const whole = computed(() => {
  const { plan } = ground.value
  if (!plan || !reading.value) return null
  let made = afterReading(plan, reading.value)
  let links = reading.value.sheets.reduce((sum, sheet) => sum + sheet.links, 0)
  const found: string[] = []
  for (const table of tables.value.filter((t) => t.role === 'links')) {
    const mapping = linkMappingOf(table)
    if (mapping.from < 0 || mapping.to < 0) {
      found.push(`${table.name}: say which two columns hold the ends of a link`)
      continue
    }
    const read = readLinkTable(made, table.cells, mapping, { group: null, random: Math.random })
    found.push(...read.problems.map((p) => `${table.name}, row ${p.row}: ${p.why}`))
    links += read.links
    made = afterReading(made, read)
  }
  for (const table of tables.value.filter((t) => t.role === 'assignments')) {
    const mapping = assignmentMappingOf(table)
    if (mapping.activity < 0 || mapping.resource < 0) {
      found.push(`${table.name}: say which columns hold the activity and the resource`)
      continue
    }
    const read = readAssignmentTable(made, table.cells, mapping, { group: null, random: Math.random })
    found.push(...read.problems.map((p) => `${table.name}, row ${p.row}: ${p.why}`))
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
  <main
    class="import"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent="drop"
  >
    <header>
      <RouterLink class="noun" to="/">All plans</RouterLink>
      <h1>Read somebody else’s list</h1>
      <p class="soft">
        A table of activities, as CSV or XLSX, from any program: with links in their own column or on their
        own sheet. You say what each column holds; what cannot be understood is listed, not dropped.
      </p>
    </header>
    <div class="pick">
      <FilePick accept=".csv,.tsv,.txt,.xlsx" label="List to read" test="list-file" @pick="open">
        <ActButton>{{ fileName ? `${fileName}; choose another` : 'Choose a file' }}</ActButton>
      </FilePick>
      <span v-if="!fileName" class="soft">or drop it on this page</span>
      <strong v-if="failure" class="brick" role="alert">{{ failure }}</strong>
    </div>
    <template v-if="tables.length > 0">
      <div class="facts">
        <label>Name of the plan <TextField v-model="name" maxlength="200" /></label>
        <label
          >Sent by
          <TextField
            :kept="mappings.sender"
            @keep="mappings.sender = $event"
            maxlength="200"
            list="senders"
            placeholder="not said; columns are known again by it" /><datalist id="senders">
            <option v-for="who in mappings.senders" :key="who" :value="who" /></datalist
        ></label>
        <label
          >Start <TextField v-model="start" placeholder="today; write 12 apr 2027 7:00" /><small
            v-if="startRead && !startRead.ok"
            class="brick"
            >{{ startRead.why }}</small
          ></label
        >
        <label
          >Working week <TextField v-model="hours" /><small v-if="!week.ok" class="brick">{{
            week.why
          }}</small></label
        >
      </div>
      <ul v-if="tables.length > 1" class="tables">
        <li v-for="(table, k) in tables" :key="table.name" :class="{ here: k === at }">
          <ActButton kind="bare" @click="at = k">
            {{ table.name }}, {{ table.cells.length }} rows<span v-if="badOn(table) > 0" class="signal"
              >, {{ badOn(table) }} not understood</span
            >
          </ActButton>
          <ChoiceField v-model="table.role" :label="`What sheet ${table.name} is`" :options="ROLES" />
        </li>
      </ul>
      <!-- Each stays while another sheet is looked at: together they are one list. -->
      <ListMapper
        v-for="(table, k) in activityTables"
        v-show="table === current"
        :key="table.name"
        :cells="table.cells"
        :reading="reading?.sheets[k] ?? null"
        :is-reading="isReading"
        @manner="keepManner(table, $event)"
      />
      <PartMapper
        v-if="current?.role === 'links'"
        :cells="current.cells"
        :head-row="linkMappingOf(current).headRow"
        :parts="LINK_PARTS"
        :chosen="endsOf(linkMappingOf(current))"
        @choose="(part, column) => choose(current!, linkMappingOf(current!).headRow, part, column)"
      />
      <PartMapper
        v-else-if="current?.role === 'assignments'"
        :cells="current.cells"
        :head-row="assignmentMappingOf(current).headRow"
        :parts="ASSIGNMENT_PARTS"
        :chosen="partsOf(assignmentMappingOf(current))"
        @choose="(part, column) => choose(current!, assignmentMappingOf(current!).headRow, part, column)"
      />
      <ul v-else-if="current?.role === 'resources'" class="calendars" data-test="sheet-resources">
        <li v-for="one in ground.plan?.resources ?? []" :key="one.id">
          <strong>{{ one.name || one.code }}</strong>: {{ one.kind }}, {{ priceWords(one, '') }},
          {{ availableWords(one) }}
        </li>
        <li v-if="!ground.plan?.resources.length" class="soft">
          No resource is understood yet: give the columns heads like Code, Name, Kind, Price, Per, Available.
        </li>
      </ul>
      <template v-else-if="current?.role === 'calendars'">
        <PartMapper
          :cells="current.cells"
          :head-row="calendarMappingOf(current).headRow"
          :parts="CALENDAR_PARTS"
          :chosen="columnsOf(calendarMappingOf(current))"
          @choose="(part, column) => choose(current!, calendarMappingOf(current!).headRow, part, column)"
        />
        <ul class="calendars" data-test="sheet-calendars">
          <li v-for="calendar in calendarsIn(current)" :key="calendar.name">
            <strong>{{ calendar.name }}</strong>: {{ weekWords(calendar.week)
            }}<template v-if="calendar.off.length > 0"
              >;
              {{
                calendar.off.length === 1 ? '1 day or stretch' : `${calendar.off.length} days or stretches`
              }}
              off</template
            >
          </li>
          <li v-if="calendarsIn(current).length === 0" class="soft">
            No calendar is understood yet: say which columns name it and give its hours, written like “mon-fri
            7-12 13-16”.
          </li>
        </ul>
      </template>
      <p v-else-if="current?.role === 'leave out'" class="soft">This sheet is left out.</p>
      <ul
        v-if="ground.problems.length + (whole?.problems.length ?? 0) + problems.length > 0"
        class="brick others"
      >
        <li
          v-for="problem in [...problems, ...ground.problems, ...(whole?.problems ?? [])].slice(0, 40)"
          :key="problem"
        >
          {{ problem }}
        </li>
      </ul>
      <p class="foot">
        <ActButton
          kind="primary"
          :disabled="!whole || isMaking || whole.plan.activities.length === 0"
          data-test="make-plan"
          @click="make"
        >
          Make the plan
        </ActButton>
        <span v-if="whole" class="soft"
          >{{ counted(whole.plan.activities.length, 'activity') }}, {{ counted(whole.links, 'link') }},
          <template v-if="whole.plan.resources.length > 0"
            >{{ counted(whole.plan.resources.length, 'resource') }},
            {{ counted(whole.plan.assignments.length, 'assignment') }},
          </template>
          {{ counted(whole.plan.calendars.length, 'calendar') }}</span
        >
      </p>
    </template>
  </main>
</template>

<style scoped>
.import {
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 26px 40px;
}
.import.over {
  box-shadow: inset 0 0 0 4px var(--signal);
}
h1 {
  margin: 8px 0 4px;
}
header p {
  max-width: 720px;
}
.pick,
.foot {
  display: flex;
  gap: 12px;
  align-items: center;
}
.facts {
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
}
.facts label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
  min-width: 230px;
}
.facts small {
  font-weight: 400;
}
.tables {
  list-style: none;
  display: flex;
  gap: 8px;
  margin: 0;
  padding: 0;
  flex-wrap: wrap;
}
.tables li {
  display: flex;
  gap: 8px;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 4px 8px;
}
.tables li.here {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
}
.calendars {
  margin: 0;
  padding-left: 20px;
}
.others {
  margin: 0;
  padding-left: 20px;
  max-height: 110px;
  overflow: auto;
}
</style>
