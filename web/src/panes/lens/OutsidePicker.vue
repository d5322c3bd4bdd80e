<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import {
  dateWords,
  formatInstant,
  fromUnixTime,
  type Constraint,
  type PlanSummary,
  instantOf,
  instantWords,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useOtherPlan, type OtherPlan } from '../../composables/useOtherPlan.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FilePick from '../../controls/FilePick.vue'
import TextField from '../../controls/TextField.vue'
import { optionsOf } from '../../controls/options.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** A date of another plan: which plan, which activity, which edge of it. */
const model = defineModel<Pick<Constraint, 'date' | 'source'> | null>({ required: true })
const plans = usePlanStore()
const other = useOtherPlan()
const { problem, attemptLater } = useAttempt()
const SHOWN = 6

const others = shallowRef<readonly PlanSummary[]>([])
onMounted(() =>
  attemptLater(async () => {
    others.value = (await api.plans()).filter(({ id, archived }) => id !== plans.planId && !archived)
  }),
)
const from = shallowRef<OtherPlan | null>(null)
const look = (ask: Promise<OtherPlan>): void =>
  attemptLater(async () => {
    from.value = null
    from.value = await ask
  })
const text = ref('')
const chosen = ref<string | null>(null)
const edge = ref<'start' | 'finish'>('finish')
const EDGES = optionsOf<'start' | 'finish'>([
  ['finish', 'its finish'],
  ['start', 'its start'],
])
const found = computed(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return []
  return (from.value?.dates ?? []).filter(({ code, name }) =>
    words.every((word) => `${code} ${name}`.toLowerCase().includes(word)),
  )
})
watch([from, text], () => (chosen.value = null))
watch([chosen, edge], () => {
  const at = from.value?.dates.find(({ id }) => id === chosen.value)
  if (!from.value || !at) return void (model.value = null)
  model.value = {
    date: at[edge.value],
    source: {
      plan: from.value.id,
      name: from.value.name,
      activity: at.id,
      code: `${at.code} ${at.name}`.trim(),
      edge: edge.value,
      taken: formatInstant(fromUnixTime(Date.now())),
    },
  }
})
</script>

<template>
  <div class="outside" data-test="outside">
    <ChoiceField
      :model-value="from?.id ?? null"
      label="The other plan"
      placeholder="which plan"
      :options="
        others.map(({ id, name, code }) => ({ value: id, label: name || code || 'Plan without a name' }))
      "
      @update:model-value="look(other.ofServer($event))"
    />
    <FilePick
      accept=".json,application/json"
      label="Plan file to take a date from"
      @pick="look(other.ofFile($event))"
    >
      <ActButton>{{ from && from.id === null ? from.name : 'a file' }}</ActButton>
    </FilePick>
    <template v-if="from">
      <TextField v-model="text" label="Activity of the other plan" placeholder="code or words of its name" />
      <ChoiceField v-model="edge" label="Which edge of it" :options="EDGES" />
      <ul v-if="found.length > 0 && chosen === null">
        <li v-for="one in found.slice(0, SHOWN)" :key="one.id">
          <ActButton kind="noun" @click="chosen = one.id">{{ one.code }} {{ one.name }}</ActButton>
          <span class="soft">{{ instantWords(instantOf(one[edge], edge), edge, { time: false }) }}</span>
        </li>
        <li v-if="found.length > SHOWN" class="soft">and {{ found.length - SHOWN }} more</li>
      </ul>
      <p v-else-if="text.trim() !== '' && chosen === null" class="soft">Nothing there is called so.</p>
      <p v-else-if="model?.source" class="chosen">
        {{ model.source.code }}: {{ dateWords(model.date, edge, { year: true }) }}
      </p>
    </template>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.outside {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px;
}
ul,
p {
  grid-column: 1 / -1;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
li > :first-child {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li > :last-child {
  white-space: nowrap;
}
.chosen {
  font-weight: 600;
}
</style>
