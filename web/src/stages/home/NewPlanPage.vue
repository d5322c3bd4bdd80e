<script setup lang="ts">
import { type Choice } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import {
  CLOCK_LENGTHS,
  counted,
  dateWords,
  durationWords,
  fromUnixTime,
  planLike,
  readDate,
  readPlan,
  readWeek,
  weekWords,
  writePlan,
  type NewPlanFacts,
  type Plan,
  type PlanSummary,
  weekLengths,
} from '@geodrome/core'
import { api } from '../../api/client.ts'

const router = useRouter()
const plans = ref<readonly PlanSummary[]>([])
const template = ref('')
const templatePlan = ref<Plan | null>(null)
const take = ref({ groups: true, resources: true, limits: true })
const what = ref('')
const code = ref('')
const by = ref('')
const start = ref('')
const hours = ref('mon-fri 7-12 13-16')
const failure = ref('')
onMounted(async () => {
  try {
    plans.value = await api.plans()
  } catch (error) {
    failure.value = (error as Error).message
  }
})
const now = fromUnixTime(Date.now())
const startRead = computed(() => (start.value.trim() === '' ? null : readDate(start.value, now)))
const byRead = computed(() => (by.value.trim() === '' ? null : readDate(by.value, now)))
const week = computed(() => readWeek(hours.value))
const templates = computed((): Choice[] => [
  { value: '', label: 'begin with a working week' },
  ...plans.value.map((plan) => ({ value: plan.id, label: `as in ${plan.name || plan.code}` })),
])
const choose = async (): Promise<void> => {
  templatePlan.value = template.value === '' ? null : (await api.open(template.value)).plan
}
/** Midnight at the start of the required day would cost that day. */
const midnight = computed(() =>
  byRead.value?.ok && byRead.value.date.endsWith('T00:00')
    ? 'Midnight is the beginning of that day: the day itself would not count. Leave the time out to mean its end.'
    : '',
)
const problem = computed(() => {
  if (what.value.trim() === '') return 'say what must be finished'
  if (startRead.value && !startRead.value.ok) return startRead.value.why
  if (byRead.value && !byRead.value.ok) return byRead.value.why
  if (!week.value.ok && !templatePlan.value) return week.value.why
  return ''
})
const make = async (): Promise<void> => {
  if (problem.value !== '') return
  const facts: NewPlanFacts = {
    name: what.value.trim(),
    code: code.value.trim(),
    start: startRead.value?.ok ? startRead.value.date : new Date().toISOString().slice(0, 10),
    requiredFinish: byRead.value?.ok ? byRead.value.date : null,
  }
  const typed = week.value
  const file = templatePlan.value
    ? planLike({ id: template.value, plan: templatePlan.value }, take.value, facts)
    : {
        format: 'geodrome-plan',
        version: 1,
        project: { ...facts, calendar: 'day' },
        calendars: typed.ok
          ? [{ id: 'day', name: 'Working week', ...weekLengths(typed.week), week: typed.week }]
          : [],
      }
  try {
    const { id } = await api.importPlan(writePlan(readPlan(file).plan))
    await router.push({ name: 'network', params: { id } })
  } catch (error) {
    failure.value = (error as Error).message
  }
}
</script>

<template>
  <main class="new scroll">
    <form class="column" @submit.prevent="make">
      <RouterLink class="noun" to="/">All plans</RouterLink>
      <h1>What must be finished, and by when?</h1>
      <label
        >What must be finished <TextField v-model="what" maxlength="200" placeholder="Kiln rebuild" autofocus
      /></label>
      <label
        >By when
        <TextField v-model="by" placeholder="not said; write 26 mar 2027, or 26 mar 16:00" />
        <small v-if="byRead">{{
          byRead.ok
            ? `${dateWords(byRead.date, 'finish', { year: true })}${byRead.date.includes('T') ? '' : ', its end'}`
            : byRead.why
        }}</small>
        <small v-if="midnight" class="signal">{{ midnight }}</small>
      </label>
      <label
        >It can begin <TextField v-model="start" placeholder="today; write 1 mar 2027 7:00" /><small
          v-if="startRead"
          >{{ startRead.ok ? dateWords(startRead.date, 'start', { year: true }) : startRead.why }}</small
        ></label
      >
      <label class="short">Code <TextField v-model="code" maxlength="40" placeholder="KILN" /></label>
      <div class="field">
        Begin as in an earlier plan
        <ChoiceField
          v-model="template"
          label="Begin as in an earlier plan"
          :options="templates"
          @update:model-value="choose"
        />
      </div>
      <template v-if="templatePlan">
        <p class="soft">
          {{ counted(templatePlan.calendars.length, 'calendar') }} with
          {{ templatePlan.calendars.length === 1 ? 'its' : 'their' }} holidays:
          {{ templatePlan.calendars.map((c) => c.name || c.id).join(', ')
          }}<template v-if="templatePlan.views.length > 0"
            >; kept views: {{ templatePlan.views.map((v) => v.name).join(', ') }}</template
          >.
        </p>
        <TickBox v-if="templatePlan.groups.length > 0" v-model="take.groups" class="line">
          with its {{ counted(templatePlan.groups.length, 'group') }}</TickBox
        >
        <TickBox v-if="templatePlan.resources.length > 0" v-model="take.resources" class="line">
          with its {{ counted(templatePlan.resources.length, 'resource') }}: prices, and as much as there was
          at last</TickBox
        >
        <TickBox v-model="take.limits" class="line">
          with its limits of Review, critical float, weighting and house rule for names</TickBox
        >
      </template>
      <label v-else
        >Working week
        <TextField v-model="hours" />
        <small :class="{ brick: !week.ok }">{{
          week.ok
            ? `${weekWords(week.week)}: ${durationWords(weekLengths(week.week).dayMinutes, CLOCK_LENGTHS)} a day`
            : week.why
        }}</small>
      </label>
      <p class="foot">
        <ActButton kind="primary" type="submit" :disabled="problem !== ''" data-test="make-plan">
          Begin the plan</ActButton
        ><span class="soft">{{ problem }}</span>
      </p>
      <p v-if="failure" class="brick" role="alert">{{ failure }}</p>
    </form>
  </main>
</template>

<style scoped>
.new {
  height: 100%;
  padding: 48px 40px;
}
.column > .noun {
  align-self: start;
}
.column {
  max-width: 560px;
  margin: 0 auto;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
h1 {
  font-size: 28px;
}
label,
.field {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
}
label.line {
  flex-direction: row;
  font-weight: 400;
  gap: 8px;
}
label small {
  font-weight: 400;
  color: var(--soft-ink);
}
small.brick {
  color: var(--brick);
}
small.signal {
  color: var(--signal-text);
}
.short {
  max-width: 180px;
}
.foot {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
