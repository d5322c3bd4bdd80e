<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  CALENDAR_TEMPLATES,
  calendarOf,
  civilDate,
  counted,
  dayRules,
  durationWords,
  freshId,
  hoursDifferences,
  instantOf,
  originNow,
  originOf,
  PlanCalendars,
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
import CalendarEffect from './CalendarEffect.vue'
import CalendarFacts from './CalendarFacts.vue'
import CalendarLibrary from './CalendarLibrary.vue'
import CalendarMeeting from './CalendarMeeting.vue'
import CalendarOriginNote from './CalendarOriginNote.vue'
import CalendarSeasons from './CalendarSeasons.vue'
import CalendarUsers from './CalendarUsers.vue'
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
      <CalendarSeasons v-model:season="season" :calendar="chosen" :year="year" :week="week" @set="set" />
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
      <CalendarEffect v-if="draft.isOpen && draft.id !== null" :name="nameOf(draft.id)" />
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <CalendarUsers :uses="use" :name="chosen.name" @show="show" />
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
.side {
  background: var(--raised);
  border-left: 1px solid var(--hairline);
  padding: 16px;
}
.ends {
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 6px;
  margin-top: 16px;
}
</style>
