<script setup lang="ts">
import StaysChoice from '../../controls/StaysChoice.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  CALENDAR_TEMPLATES,
  calendarOf,
  civilDate,
  counted,
  dayRules,
  daysWords,
  durationWords,
  freshId,
  hoursDifferences,
  instantOf,
  instantWords,
  originNow,
  originOf,
  PlanCalendars,
  readDate,
  removeCalendar,
  usesOfCalendar,
  WEEKDAYS,
  type CalendarsOfPlan,
  type Item,
  type PlanCalendar,
  type Week,
  type Weekday,
  weekLengths,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import FootLine from '../../frame/FootLine.vue'
import { useCalendarDraft } from '../../stores/calendarDraft.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import CalendarFacts from './CalendarFacts.vue'
import CalendarLibrary from './CalendarLibrary.vue'
import CalendarMeeting from './CalendarMeeting.vue'
import CalendarOriginNote from './CalendarOriginNote.vue'
import { hoursWords } from './hoursWords.ts'
import WeekPainter from './WeekPainter.vue'
import YearPlanner from './YearPlanner.vue'

const plans = usePlanStore()
const ui = useUiStore()
const draft = useCalendarDraft()
const route = useRoute()
const router = useRouter()
const { problem, attempt } = useAttempt()

const calendars = computed(() => plans.plan!.calendars.map((c) => draft.of(c)))
const chosen = computed(
  () =>
    calendars.value.find((c) => c.id === route.query.calendar) ??
    calendars.value.find((c) => c.id === plans.plan!.project.calendar) ??
    calendars.value[0],
)
/** The chosen one as it is in the plan, whatever is drafted for it. */
const kept = computed(() => plans.plan!.calendars.find((c) => c.id === chosen.value?.id) ?? chosen.value)
const choose = (id: string): void => void router.replace({ query: { calendar: id } })
watch(
  () => chosen.value?.id ?? null,
  (id) => draft.look(id),
  { immediate: true },
)
/** What a calendar is called moves nothing, and needs no look at what it would do. */
const set = ({ name, ...fields }: Item): void => {
  const { id } = chosen.value!
  if (name !== undefined)
    attempt(() => plans.edit({ kind: 'set', list: 'calendars', key: id, set: { name: name as string } }))
  if (Object.keys(fields).length > 0) draft.set(id, fields)
}

const compiled = computed(
  () => new PlanCalendars(calendars.value, instantOf(plans.plan!.project.start, 'start')),
)
const chain = computed(() => (chosen.value ? compiled.value.chainOf(chosen.value.id) : []))
const rule = computed(() => (chosen.value ? dayRules(chain.value) : null))
const middle = computed(() => Math.floor((plans.view!.projectStart + plans.view!.projectFinish) / 2 / 1440))
/** The ordinary week of a calendar in the middle of the plan, whatever it comes from. */
const weekOf = (id: string): Week => {
  if (id === 'clock') return Object.fromEntries(WEEKDAYS.map((day) => [day, ['00:00-24:00']]))
  const at = compiled.value.chainOf(id).find((c) => c.week)
  return at?.week ?? {}
}
/** Which hours are painted: the ordinary week, or those of a season. */
const season = ref<number | null>(null)
/** A season that holds in the middle of the plan is what one wants to see first, or one that has hours where the ordinary week has none. */
watch(
  () => chosen.value?.id,
  () => {
    const held = rule.value?.(middle.value)
    const at =
      held?.source === 'season' && held.calendar === chosen.value?.id
        ? chosen.value.seasons.findIndex((s) => s.name === held.name)
        : -1
    const { week: ordinary, seasons = [] } = chosen.value ?? {}
    const isSeasonal =
      seasons.length > 0 && ordinary != null && WEEKDAYS.every((day) => (ordinary[day]?.length ?? 0) === 0)
    season.value = at >= 0 ? at : isSeasonal ? 0 : null
  },
  { immediate: true },
)
const parentName = (c: PlanCalendar): string | null => (c.parent ? nameOf(c.parent) : null)
/** Who is on a calendar, whether it is drafted, and where it was copied from. */
const standingWords = (c: PlanCalendar): string => {
  const count = userCount(c.id)
  return `${count === 0 ? 'no activity is on it' : counted(count, 'activity')}${draft.drafted.includes(c.id) ? ', changed, not applied yet' : ''}`
}
const originWords = (c: PlanCalendar): string => {
  const origin = originOf(c)
  if (!origin) return ''
  const now = everywhere.value && originNow(origin, everywhere.value)
  return `copied from ${origin.plan}${now && hoursDifferences(origin.taken, now).length > 0 ? ', changed there since' : ''}`
}
const shownSeason = computed(() =>
  season.value === null ? null : (chosen.value?.seasons[season.value] ?? null),
)
const week = computed((): Week => shownSeason.value?.week ?? (chosen.value ? weekOf(chosen.value.id) : {}))
const isOwnWeek = computed(() => season.value !== null || chosen.value?.week !== null)
const compared = computed((): Week | null =>
  chosen.value && chosen.value.id !== plans.plan!.project.calendar && plans.plan!.project.calendar !== 'clock'
    ? weekOf(plans.plan!.project.calendar)
    : null,
)
const nameOf = (id: string): string =>
  calendars.value.find((c) => c.id === id)?.name || (id === 'clock' ? 'Round the clock' : id)

const setWeek = (next: Record<Weekday, string[]>): void => {
  const calendar = chosen.value!
  if (season.value !== null)
    return set({
      seasons: calendar.seasons.with(season.value, { ...calendar.seasons[season.value]!, week: next }),
    })
  const counts = calendar.week ? weekLengths(calendar.week) : null
  // A day that counted as what was painted goes on doing so.
  const follows =
    counts === null ||
    (counts.dayMinutes === calendar.dayMinutes && counts.weekMinutes === calendar.weekMinutes)
  set({ week: next, ...(follows ? weekLengths(next) : {}) })
}
const addSeason = (): void => {
  const { seasons } = chosen.value!
  set({
    seasons: [...seasons, { name: 'Season', from: '05-01', to: '09-30', yearly: true, week: week.value }],
  })
  season.value = seasons.length
}
/** What is wrong with a season that is being written. */
const seasonProblem = ref('')
watch([season, () => chosen.value?.id], () => (seasonProblem.value = ''))
/** A season's days are kept as MM-DD for every year, else with the year. */
const setSeason = (fields: Item): void => {
  const { seasons } = chosen.value!
  const next = { ...seasons[season.value!]!, ...fields }
  for (const end of ['from', 'to'] as const)
    if (next.yearly) next[end] = next[end].slice(-5)
    else if (/^\d\d-\d\d$/.test(next[end])) next[end] = `${year.value}-${next[end]}`
  seasonProblem.value =
    !next.yearly && next.to < next.from
      ? `the season would end on ${daysWords(next.to, next.to)}, before it begins on ${daysWords(next.from, next.from)}`
      : ''
  if (seasonProblem.value === '') set({ seasons: seasons.with(season.value!, next) })
}
/** A first or last day in words, or as MM-DD; in the year that is shown where none is said. */
const setSeasonDay = (end: 'from' | 'to', text: string): void => {
  const typed = text.trim()
  const read = readDate(
    /^\d\d-\d\d$/.test(typed) ? `${year.value}-${typed}` : typed,
    instantOf(`${year.value}-07-01`, 'start'),
  )
  if (read.ok) setSeason({ [end]: read.date.slice(0, 10) })
  else seasonProblem.value = read.why
}
const removeSeason = (): void => {
  set({ seasons: chosen.value!.seasons.toSpliced(season.value!, 1) })
  season.value = null
}

const year = ref(civilDate(middle.value).year)
const windowed = computed(() => new Set((chosen.value?.windows ?? []).map(([from]) => from.slice(0, 10))))
const span = computed((): readonly [number, number] => [
  Math.floor(plans.view!.projectStart / 1440),
  Math.floor(plans.view!.projectFinish / 1440),
])
const inherited = computed(() =>
  chain.value
    .slice(1)
    .map((c) => ({ from: nameOf(c.id), exceptions: (c as PlanCalendar).exceptions }))
    .filter((s) => s.exceptions.length > 0),
)

const use = computed(() => (chosen.value ? usesOfCalendar(plans.plan!, chosen.value.id) : null))
const userCount = (id: string): number =>
  plans.plan!.activities.filter((a) => calendarOf(plans.plan!.project, a) === id).length
const onPath = computed(
  () =>
    use.value?.activities.filter((id) => plans.view!.onLongestPath[plans.byId.get(id) ?? -1] === 1).length ??
    0,
)
const oddStarts = computed(() => {
  const calendar = chosen.value ? compiled.value.get(chosen.value.id) : null
  if (!calendar || !use.value) return []
  try {
    return use.value.activities.filter((id) => {
      const at = plans.view!.start[plans.byId.get(id)!]!
      const midnight = Math.floor(at / 1440) * 1440
      return calendar.countBefore(at) !== calendar.countBefore(midnight)
    })
  } catch {
    return [] // a draft without working time; what is wrong with it stands beside the sheet
  }
})
const show = async (ids: readonly string[], reason: string): Promise<void> => {
  await router.push({ name: 'network', params: route.params })
  ui.filter = { ids: new Set(ids), reason }
  if (ids[0]) ui.select(ids[0], { show: true })
}
const goTo = async (id: string): Promise<void> => {
  await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}

const effectWords = computed(() => {
  const { effect } = draft
  if (!effect) return null
  const [before, after] = [plans.view!.projectFinish, effect.view.projectFinish]
  return {
    before: instantWords(before, 'finish'),
    after: instantWords(after, 'finish'),
    same: before === after,
    moved: effect.difference.moved.length,
    lost: effect.difference.lostFloat.length,
    gained: effect.difference.gainedFloat.length,
  }
})

const isAdding = ref(false)
/** Calendars of all plans, this one too: to copy from, and to see whether the origin of a copy has changed. */
const everywhere = shallowRef<readonly CalendarsOfPlan[] | null>(null)
const problemThere = ref('')
onMounted(async () => {
  try {
    everywhere.value = await api.calendars()
  } catch (error) {
    problemThere.value = (error as Error).message
  }
})
const others = computed(() => everywhere.value?.filter((p) => p.planId !== plans.planId) ?? null)
const add = (item: Item): void => {
  const id = freshId(plans.plan!.calendars, 'c', Math.random)
  if (!attempt(() => plans.edit({ kind: 'add', list: 'calendars', item: { ...item, id }, before: null })))
    return
  isAdding.value = false
  choose(id)
}
const leaveOrigin = (origin: unknown): void =>
  void attempt(() => plans.edit({ kind: 'set', list: 'calendars', key: chosen.value!.id, set: { origin } }))
const remove = (): void => {
  const change = removeCalendar(plans.plan!, chosen.value!.id)
  if (typeof change === 'string') return void (problem.value = `${nameOf(chosen.value!.id)} stays: ${change}`)
  attempt(() => plans.edit(change))
}
/** Asked where the project is set up: there it says what that moves, and what stays. */
const makeDefault = (): void =>
  void router.push({ name: 'setup', params: route.params, query: { calendar: chosen.value!.id } })
const workingDays = computed(() => {
  if (!chosen.value) return ''
  const calendar = compiled.value.get(chosen.value.id)
  try {
    const [from, to] = [instantOf(`${year.value}-01-01`, 'start'), instantOf(`${year.value}-12-31`, 'finish')]
    return `${year.value}: ${durationWords(calendar.countBefore(to) - calendar.countBefore(from), { dayMinutes: 1e9 })} of work`
  } catch {
    return ''
  }
})
</script>

<template>
  <div class="calendars">
    <nav class="list scroll" aria-label="Calendars">
      <ActButton
        kind="row"
        v-for="c in calendars"
        :key="c.id"
        :aria-current="c.id === chosen?.id"
        @click="choose(c.id)"
      >
        <strong
          >{{ c.name || c.id
          }}<template v-if="c.id === plans.plan!.project.calendar">, the project’s</template></strong
        >
        <small class="soft">{{ hoursWords(c, parentName(c)) }}</small>
        <small class="soft">{{ standingWords(c) }}</small>
        <small v-if="originWords(c)" :class="originWords(c).endsWith('since') ? 'changed' : 'soft'">{{
          originWords(c)
        }}</small>
      </ActButton>
      <p class="new">
        <ActButton kind="noun" :aria-expanded="isAdding" @click="isAdding = !isAdding"
          >New calendar</ActButton
        >
      </p>
      <div v-if="isAdding" class="templates">
        <ActButton v-for="t in CALENDAR_TEMPLATES" :key="t.name" @click="add({ ...t })">
          {{ t.name }}
        </ActButton>
      </div>
      <CalendarLibrary :own="plans.plan!.calendars" :others="others" :problem="problemThere" @take="add" />
    </nav>
    <section v-if="chosen" class="sheet scroll">
      <h1>{{ chosen.name || chosen.id }}</h1>
      <p class="soft">
        A day counts as {{ durationWords(chosen.dayMinutes, { dayMinutes: 1e9 }) }}, a week as
        {{ durationWords(chosen.weekMinutes, { dayMinutes: 1e9 }) }}.
        <template v-if="chosen.parent"
          >Takes its days off from
          <ActButton kind="noun" @click="choose(chosen.parent!)">{{
            nameOf(chosen.parent)
          }}</ActButton>.</template
        >
        <template v-if="windowed.size > 0">
          Works in {{ chosen.windows.length }} windows, listed one by one.</template
        >
      </p>
      <CalendarOriginNote
        :calendar="kept!"
        :plans="everywhere"
        :is-draft="draft.isOpen"
        @take="set"
        @leave="leaveOrigin"
      />
      <p class="seasons">
        <ActButton :aria-pressed="season === null" @click="season = null">Ordinary week</ActButton>
        <ActButton v-for="(s, k) in chosen.seasons" :key="k" :aria-pressed="season === k" @click="season = k">
          {{ s.name || 'Season' }}, {{ daysWords(s.from, s.to) }}
        </ActButton>
        <ActButton kind="noun" @click="addSeason">Add a season</ActButton>
      </p>
      <form v-if="shownSeason" :key="`${chosen.id} ${season}`" class="season" @submit.prevent>
        <TextField :kept="shownSeason.name" label="Name of the season" @keep="setSeason({ name: $event })" />
        <label
          >from
          <TextField
            :kept="daysWords(shownSeason.from, shownSeason.from)"
            style="width: 15ch"
            @keep="setSeasonDay('from', $event)"
        /></label>
        <label
          >to
          <TextField
            :kept="daysWords(shownSeason.to, shownSeason.to)"
            style="width: 15ch"
            @keep="setSeasonDay('to', $event)"
        /></label>
        <TickBox :model-value="shownSeason.yearly" @update:model-value="setSeason({ yearly: $event })">
          every year</TickBox
        >
        <ActButton kind="noun" type="button" @click="removeSeason">Remove the season</ActButton>
        <span v-if="seasonProblem" class="brick" role="alert">{{ seasonProblem }}</span>
      </form>
      <WeekPainter
        :week="week"
        :compared="compared"
        :compared-name="nameOf(plans.plan!.project.calendar)"
        :is-own="isOwnWeek"
        @change="setWeek"
      />
      <YearPlanner
        :year="year"
        :rule="rule!"
        :windowed="windowed"
        :calendar-id="chosen.id"
        :calendar="chosen.name || chosen.id"
        :span="span"
        @year="year = $event"
        @add="set({ exceptions: [...chosen!.exceptions, $event] })"
      />
    </section>
    <section v-else class="sheet">
      <p>
        This plan has no calendar of its own: everything counts round the clock. Make one from a template on
        the left.
      </p>
    </section>
    <aside v-if="chosen && use" class="side scroll">
      <section
        v-if="draft.isOpen && draft.id !== null"
        class="effect"
        role="status"
        data-test="calendar-effect"
      >
        <p class="soft">If you change {{ nameOf(draft.id) }} like this</p>
        <template v-if="effectWords">
          <h2>{{ effectWords.after }}</h2>
          <p>
            {{ effectWords.same ? 'The finish does not move.' : `It finishes now on ${effectWords.before}.` }}
            {{ counted(effectWords.moved, 'activity') }} {{ effectWords.moved === 1 ? 'moves' : 'move'
            }}<template v-if="effectWords.lost > 0">, {{ effectWords.lost }} lose float</template
            ><template v-if="effectWords.gained > 0">, {{ effectWords.gained }} gain float</template>.
          </p>
        </template>
        <fieldset v-if="draft.changesLength">
          <legend>A day has another length. What stays?</legend>
          <StaysChoice v-model="draft.stays" />
        </fieldset>
        <p v-if="draft.problem" class="brick" role="alert">{{ draft.problem }}</p>
        <p class="act">
          <ActButton
            kind="primary"
            :disabled="draft.problem !== ''"
            data-test="keep-calendar"
            @click="draft.keep()"
          >
            Apply it</ActButton
          ><ActButton @click="draft.drop()">Drop the change</ActButton>
        </p>
      </section>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <h3>
        {{
          use.activities.length === 0
            ? 'No activity is on it'
            : `Used by ${counted(use.activities.length, 'activity')}${onPath > 0 ? `, ${onPath} on the longest path` : ''}`
        }}
      </h3>
      <p>
        <template v-for="(id, k) in use.activities.slice(0, 6)" :key="id"
          ><template v-if="k > 0">, </template
          ><ActButton kind="noun" @click="goTo(id)">
            {{ plans.activity(id)?.code }} {{ plans.activity(id)?.name }}
          </ActButton></template
        >
        <template v-if="use.activities.length > 6">
          and
          <ActButton kind="noun" @click="show(use.activities, `on ${chosen.name}`)">
            {{ use.activities.length - 6 }} more
          </ActButton></template
        >
      </p>
      <p v-if="use.resources.length + use.lags + use.heirs.length > 0" class="soft">
        {{
          [
            use.resources.length > 0 ? counted(use.resources.length, 'resource') : '',
            use.lags > 0 ? counted(use.lags, 'lag') : '',
            use.heirs.length > 0 ? `${counted(use.heirs.length, 'calendar')} that inherit` : '',
          ]
            .filter(Boolean)
            .join(', ')
        }}
      </p>
      <CalendarFacts
        :key="chosen.id"
        :plan="plans.plan!"
        :calendar="chosen"
        :inherited="inherited"
        @set="set"
      />
      <CalendarMeeting
        :plan="plans.plan!"
        :calendar="chosen"
        :week-of="weekOf"
        :odd-starts="oddStarts"
        @show="show($event, `starting inside a working day of ${chosen!.name}`)"
        @choose="choose"
      />
      <p class="ends">
        <ActButton kind="noun" v-if="!use.isProject" @click="makeDefault">
          Make it the project’s calendar
        </ActButton>
        <ActButton kind="noun" @click="remove">Remove this calendar</ActButton>
      </p>
    </aside>
  </div>
  <FootLine
    ><span>{{ counted(calendars.length, 'calendar') }}</span
    ><span>{{ workingDays }}</span></FootLine
  >
</template>

<style scoped>
.calendars {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 212px minmax(0, 1fr) 290px;
}
.list {
  background: var(--raised);
  border-right: 1px solid var(--hairline);
}
.row .changed {
  color: var(--signal-text);
  font-weight: 600;
}
.new {
  padding: 12px 14px 6px;
}
.templates {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 0 14px 14px;
}
.sheet {
  padding: 18px 22px;
}
.seasons {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
  margin: 10px 0;
}
.season {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 8px;
}
.side {
  background: var(--raised);
  border-left: 1px solid var(--hairline);
  padding: 16px;
}
.effect {
  background: var(--wash);
  border-left: 4px solid var(--signal);
  border-radius: 4px;
  padding: 10px 12px;
  margin: -4px -4px 14px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 4px 0 0;
}
.act {
  display: flex;
  gap: 8px;
}
.ends {
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 6px;
  margin-top: 16px;
}
</style>
