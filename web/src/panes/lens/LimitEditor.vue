<script setup lang="ts">
import { optionsOf } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import { X } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref, shallowRef } from 'vue'
import {
  constraintPhrase,
  dateWords,
  readDate,
  type Activity,
  type Change,
  type Constraint,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useLensStore } from '../../stores/lensStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import OutsidePicker from './OutsidePicker.vue'

const props = defineProps<{ activity: Activity }>()
const plans = usePlanStore()
const lens = useLensStore()
const adding = ref(false)
const EDGES = optionsOf<'start' | 'finish'>([
  ['start', 'start'],
  ['finish', 'finish'],
])
const RULES = optionsOf<Constraint['rule']>([
  ['not-before', 'not before'],
  ['not-after', 'not after'],
  ['exactly', 'exactly'],
])
const edge = ref<'start' | 'finish'>('start')
const rule = ref<Constraint['rule']>('not-before')
const text = ref('')
/** Whether its date is taken from another plan, and what was found there. */
const fromOutside = ref(false)
const outside = shallowRef<Pick<Constraint, 'date' | 'source'> | null>(null)
const { problem, attempt } = useAttempt()
const around = computed(() => lens.view!.start[lens.byId.get(props.activity.id)!]!)
const read = computed(() => (text.value.trim() === '' ? null : readDate(text.value, around.value)))

const withLimits = (constraints: readonly Constraint[]): Change => ({
  kind: 'set',
  list: 'activities',
  key: props.activity.id,
  set: { constraints },
})
const dated = computed((): Pick<Constraint, 'date' | 'source'> | null =>
  fromOutside.value ? outside.value : read.value?.ok ? { date: read.value.date } : null,
)
const typed = computed(() =>
  adding.value && dated.value
    ? withLimits([
        ...props.activity.constraints,
        { edge: edge.value, rule: rule.value, overrides: false, ...dated.value },
      ])
    : null,
)
const foreseen = useForesight(() => typed.value)

const set = (change: Change): void => {
  if (!attempt(() => plans.edit(change))) return
  adding.value = fromOutside.value = false
  outside.value = null
  text.value = ''
}
const add = (): void => {
  if (typed.value) set(typed.value)
}
const remove = (index: number): void =>
  set(withLimits(props.activity.constraints.filter((_, k) => k !== index)))
</script>

<template>
  <div class="limits" data-test="limits">
    <h3>Constraints</h3>
    <p v-if="activity.constraints.length === 0 && !adding" class="soft">None: only links hold it.</p>
    <div v-for="(constraint, k) in activity.constraints" :key="k" class="line">
      <span :class="{ brick: constraint.overrides }"
        >{{ constraintPhrase(constraint)
        }}<small v-if="constraint.source" class="soft"
          >, taken {{ dateWords(constraint.source.taken, 'start', { year: true }) }}</small
        ></span
      >
      <IconButton
        :icon="X"
        class="small"
        :label="`Remove the constraint ${constraintPhrase(constraint)}`"
        @click="remove(k)"
      />
    </div>
    <ActButton kind="bare" v-if="!adding" class="add" @click="adding = true">Add a constraint</ActButton>
    <form v-else class="form" @submit.prevent="add" @keydown.esc="adding = false">
      <ChoiceField v-model="edge" label="Edge" :options="EDGES" />
      <ChoiceField v-model="rule" label="Rule" :options="RULES" />
      <TextField
        v-if="!fromOutside"
        v-model="text"
        label="Date of the constraint"
        placeholder="12 apr, tue 14:00, +3d"
      />
      <OutsidePicker v-else v-model="outside" />
      <small v-if="fromOutside">{{ foreseen }}</small>
      <small v-else-if="read" :class="{ brick: !read.ok }"
        >{{
          read.ok
            ? `${edge} ${rule.replace('-', ' ')} ${dateWords(read.date, edge, { year: true })}`
            : read.why
        }}<template v-if="foreseen">: {{ foreseen }}</template></small
      >
      <p class="acts">
        <ActButton type="submit" :disabled="!typed">Set</ActButton>
        <ActButton kind="noun" data-test="outside-date" @click="fromOutside = !fromOutside">{{
          fromOutside ? 'Type a date' : 'Take it from another plan'
        }}</ActButton>
      </p>
    </form>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.limits {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.small {
  width: 24px;
  height: 24px;
  line-height: 24px;
  text-align: center;
  color: var(--soft-ink);
}
.add {
  color: var(--fjord);
  font-weight: 600;
  width: fit-content;
  min-height: 24px;
}
.form {
  display: grid;
  grid-template-columns: 78px 112px 1fr;
  gap: 4px;
}
.form small {
  grid-column: 1 / -1;
}
.acts {
  grid-column: 1 / -1;
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
