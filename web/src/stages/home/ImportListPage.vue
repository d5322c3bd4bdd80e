<script setup lang="ts">
import { optionsOf } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import FilePick from '../../controls/FilePick.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import {
  availableWords,
  priceWords,
  cellsOf,
  counted,
  guessCalendarMapping,
  guessLinkMapping,
  instantOf,
  fromUnixTime,
  guessAssignmentMapping,
  readDate,
  readWeek,
  weekWords,
  writePlan,
  type AssignmentMapping,
  type CalendarMapping,
  type LinkMapping,
  type Plan,
  type TableCalendar,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useSheetMappings } from '../../stores/sheetMappings.ts'
import { ScheduleClient } from '../../workers/scheduleClient.ts'
import {
  calendarSheetsIn,
  groundOf,
  sheetsIn,
  wholeOf,
  type Role,
  type Sheet,
  type SheetMappings,
  type SheetPlan,
} from './listSheets.ts'
import ListMapper from '../../panes/lists/ListMapper.vue'
import PartMapper from '../../panes/lists/PartMapper.vue'
import { useListReading, type SheetManner } from '../../panes/lists/useListReading.ts'

const ROLES = optionsOf<Role>([
  ['activities', 'activities'],
  ['links', 'links'],
  ['resources', 'resources'],
  ['assignments', 'assignments'],
  ['calendars', 'calendars'],
  ['leave out', 'leave out'],
])
const router = useRouter()
/** Long lists are read beside the page. */
const client = new ScheduleClient({ scheduled: () => undefined, refused: () => undefined })
onBeforeUnmount(() => client.stop())
const tables = ref<Sheet[]>([])
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

const open = async (file: File | undefined): Promise<void> => {
  if (!file) return
  failure.value = ''
  try {
    const sheets = /\.xlsx$/i.test(file.name)
      ? await api.readWorkbook(file)
      : [{ name: file.name, rows: cellsOf(await file.text()) }]
    const filled = sheetsIn(sheets)
    if (filled.length === 0) throw new Error(`${file.name} has no rows`)
    manners.value = new Map()
    tables.value = filled
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
const headsIn = (table: Sheet, headRow: number): string =>
  `${table.role}: ${(table.cells[headRow] ?? []).map((cell) => cell.trim().toLowerCase()).join('|')}`
const chosen = <M extends { readonly headRow: number }>(table: Sheet, guess: M): M => ({
  ...guess,
  ...mappings.of(headsIn(table, guess.headRow))?.mapping,
})
const columns: SheetMappings = {
  links: (sheet) => chosen(sheet, guessLinkMapping(sheet.cells)),
  assignments: (sheet) => chosen(sheet, guessAssignmentMapping(sheet.cells)),
  calendars: (sheet) => chosen(sheet, guessCalendarMapping(sheet.cells)),
}
const choose = (table: Sheet, headRow: number, part: string, column: number): void => {
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
  return calendarSheetsIn(tables.value, columns, around)
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
const calendarsIn = (table: Sheet): readonly TableCalendar[] =>
  calendarSheets.value.find(({ sheet }) => sheet === table)?.calendars ?? []
/** What the list is read into. */
const ground = computed((): SheetPlan<Plan | null> => {
  const read = week.value
  if (!read.ok) return { plan: null, problems: [read.why] }
  const date = startRead.value?.ok ? startRead.value.date : new Date().toISOString().slice(0, 10)
  const project = { name: name.value, start: date, week: read.week }
  return groundOf(project, tables.value, calendarSheets.value, Math.random)
})
const activityTables = computed(() => tables.value.filter((t) => t.role === 'activities'))
const keepManner = (table: Sheet, manner: SheetManner): void =>
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
const badOn = (table: Sheet): number =>
  reading.value?.sheets[activityTables.value.indexOf(table)]?.problems.length ?? 0
/** The activities with the sheets of links and assignments. */
const whole = computed(() => {
  const { plan } = ground.value
  return plan && reading.value ? wholeOf(plan, reading.value, tables.value, columns, Math.random) : null
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
        :head-row="columns.links(current).headRow"
        :parts="LINK_PARTS"
        :chosen="endsOf(columns.links(current))"
        @choose="(part, column) => choose(current!, columns.links(current!).headRow, part, column)"
      />
      <PartMapper
        v-else-if="current?.role === 'assignments'"
        :cells="current.cells"
        :head-row="columns.assignments(current).headRow"
        :parts="ASSIGNMENT_PARTS"
        :chosen="partsOf(columns.assignments(current))"
        @choose="(part, column) => choose(current!, columns.assignments(current!).headRow, part, column)"
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
          :head-row="columns.calendars(current).headRow"
          :parts="CALENDAR_PARTS"
          :chosen="columnsOf(columns.calendars(current))"
          @choose="(part, column) => choose(current!, columns.calendars(current!).headRow, part, column)"
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
