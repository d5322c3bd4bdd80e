<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { calendarOf, civilDate, dayNumber, dayRules, instantOf, MONTH, PlanCalendars, WEEKDAYS, type DayRule } from '@geodrome/core'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

const plans = usePlanStore()
const ui = useUiStore()
const route = useRoute()
const router = useRouter()
const calendars = computed(() => plans.plan!.calendars)
const chosen = computed(() => calendars.value.find((c) => c.id === route.query.calendar) ?? calendars.value.find((c) => c.id === plans.plan!.project.calendar) ?? calendars.value[0])
const users = (id: string) => plans.plan!.activities.filter((a) => calendarOf(plans.plan!.project, a) === id)
const rule = computed(() => {
  const { plan } = plans
  return chosen.value ? dayRules(new PlanCalendars(plan!.calendars, instantOf(plan!.project.start, 'start')).chainOf(chosen.value.id)) : null
})
const year = computed(() => civilDate(Math.floor(plans.view!.projectStart / 1440)).year)
/** The ordinary week around the middle of the plan, so that a season shows. */
const week = computed((): DayRule[] => {
  const middle = Math.floor((plans.view!.projectStart + plans.view!.projectFinish) / 2 / 1440)
  const monday = middle - civilDate(middle).weekday
  return rule.value ? WEEKDAYS.map((_, k) => rule.value!(monday + k)) : []
})
const windows = computed(() => new Set((chosen.value?.windows ?? []).map(([from]) => from.slice(0, 10))))
const months = computed(() =>
  MONTH.map((name, m) => {
    const first = dayNumber(year.value, m + 1, 1)
    const next = m === 11 ? dayNumber(year.value + 1, 1, 1) : dayNumber(year.value, m + 2, 1)
    const days = Array.from({ length: next - first }, (_, k) => {
      const day = first + k
      const { shifts, source, name: why } = rule.value!(day)
      const iso = `${year.value}-${String(m + 1).padStart(2, '0')}-${String(k + 1).padStart(2, '0')}`
      const works = shifts.length > 0 || windows.value.has(iso)
      return { number: k + 1, works, isException: source === 'exception', title: why ?? (works ? 'works' : 'no work') }
    })
    return { name, lead: civilDate(first).weekday, days }
  }),
)
const hours = (minutes: number): string => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
const clock = (m: number): string => `${Math.floor(m / 60)}${m % 60 ? `:${String(m % 60).padStart(2, '0')}` : ''}`
const choose = (id: string): void => void router.replace({ query: { calendar: id } })
const show = async (id: string): Promise<void> => {
  await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}
const origin = computed(() => {
  const parent = calendars.value.find((c) => c.id === chosen.value?.parent)
  return parent ? parent : null
})
</script>

<template>
  <div v-if="chosen" class="calendars">
    <nav class="list scroll" aria-label="Calendars">
      <button v-for="c in calendars" :key="c.id" class="item" :aria-current="c.id === chosen.id" @click="choose(c.id)">
        <strong>{{ c.name || c.id }}</strong>
        <small class="soft">{{ users(c.id).length === 0 ? 'no activity is on it' : `${users(c.id).length} activities` }} · a day is {{ hours(c.dayMinutes) }}</small>
      </button>
    </nav>
    <section class="sheet scroll">
      <h1>{{ chosen.name || chosen.id }}</h1>
      <p class="soft">
        A day counts as {{ hours(chosen.dayMinutes) }} h, a week as {{ hours(chosen.weekMinutes) }} h.
        <template v-if="origin">Takes its days off from <button class="noun" @click="choose(origin.id)">{{ origin.name || origin.id }}</button>.</template>
        <template v-if="windows.size > 0"> Works in {{ chosen.windows.length }} windows, listed one by one.</template>
      </p>
      <div class="week">
        <span class="axis"><i v-for="h in [0, 4, 8, 12, 16, 20, 24]" :key="h" :style="{ left: `${(h / 24) * 100}%` }">{{ h }}</i></span>
        <template v-for="(day, k) in week" :key="k">
          <span class="day">{{ ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'][k] }}</span>
          <span class="track">
            <span v-for="([from, to], s) in day.shifts" :key="s" class="shift" :style="{ left: `${(from / 1440) * 100}%`, width: `${((Math.min(to, 1440) - from) / 1440) * 100}%` }">{{ clock(from) }} – {{ clock(to % 1440 || 1440) }}</span>
          </span>
          <span class="total" :class="{ soft: day.shifts.length === 0 }">{{ day.shifts.length === 0 ? 'off' : hours(day.shifts.reduce((sum, [a, b]) => sum + b - a, 0)) }}</span>
        </template>
      </div>
      <h2>{{ year }}</h2>
      <div class="year">
        <div v-for="month in months" :key="month.name" class="month">
          <h3>{{ month.name }}</h3>
          <div class="days">
            <span v-for="lead in month.lead" :key="`l${lead}`" />
            <span v-for="day in month.days" :key="day.number" :class="{ works: day.works, off: day.isException && !day.works }" :title="day.title">{{ day.number }}</span>
          </div>
        </div>
      </div>
    </section>
    <aside class="side scroll">
      <h2>{{ users(chosen.id).length === 0 ? 'No activity is on it' : `Used by ${users(chosen.id).length} activities` }}</h2>
      <p class="users">
        <template v-for="(a, k) in users(chosen.id).slice(0, 24)" :key="a.id"><template v-if="k > 0">, </template><button class="noun" @click="show(a.id)">{{ a.code }} {{ a.name }}</button></template>
        <template v-if="users(chosen.id).length > 24"> and {{ users(chosen.id).length - 24 }} more</template>
      </p>
      <template v-if="chosen.exceptions.length > 0 || origin?.exceptions.length">
        <h3>Named days</h3>
        <ul>
          <li v-for="(e, k) in [...chosen.exceptions, ...(origin?.exceptions ?? [])]" :key="k"><strong>{{ e.name ?? 'exception' }}</strong> {{ e.from }}<template v-if="e.to !== e.from"> to {{ e.to }}</template><template v-if="e.yearly">, every year</template></li>
        </ul>
      </template>
    </aside>
  </div>
  <p v-else class="none">This plan has no calendar of its own: everything counts round the clock.</p>
  <FootLine><span>{{ calendars.length }} calendars</span><span>Calendars are read here, and edited in the plan file for now.</span></FootLine>
</template>

<style scoped>
.calendars { flex: 1; min-height: 0; display: grid; grid-template-columns: 212px minmax(0, 1fr) 270px; }
.list { background: var(--raised); border-right: 1px solid var(--hairline); }
.item { all: unset; box-sizing: border-box; display: flex; flex-direction: column; width: 100%; padding: 10px 14px; border-bottom: 1px solid var(--hairline); cursor: pointer; }
.item[aria-current='true'] { background: var(--wash); box-shadow: inset 3px 0 0 var(--signal); }
.item:focus-visible { outline: 2px solid var(--signal); outline-offset: -2px; }
.sheet { padding: 18px 22px; }
.side { background: var(--raised); border-left: 1px solid var(--hairline); padding: 18px 16px; }
.side h3 { margin-top: 16px; }
.side ul { padding-left: 16px; margin: 4px 0; }
.week { display: grid; grid-template-columns: 40px 1fr 50px; gap: 4px 6px; margin: 14px 0 20px; align-items: center; }
.axis { grid-column: 2; position: relative; height: 16px; font-size: 11px; color: var(--soft-ink); }
.axis i { position: absolute; transform: translateX(-50%); font-style: normal; }
.day { grid-column: 1; }
.track { position: relative; height: 24px; background: var(--raised); border: 1px solid var(--hairline); border-radius: 5px; overflow: hidden; }
.shift { position: absolute; top: 3px; bottom: 3px; background: var(--ink); color: var(--paper); border-radius: 4px; font-size: 11px; line-height: 17px; padding: 0 5px; white-space: nowrap; overflow: hidden; }
.total { text-align: right; }
.year { display: grid; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); gap: 12px 18px; margin-top: 8px; }
.days { display: grid; grid-template-columns: repeat(7, 1fr); gap: 2px; font-size: 10.5px; text-align: center; margin-top: 3px; }
.days span { border-radius: 3px; line-height: 18px; color: var(--soft-ink); }
.days .works { background: var(--ink); color: var(--paper); }
.days .off { text-decoration: line-through; border: 1px solid var(--line); }
.none { padding: 30px; flex: 1; }
</style>
