<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  counted,
  factorsWords,
  freshId,
  readFactors,
  scopeWidth,
  scopeWords,
  type Factor,
  type Item,
  type Scope,
  type Spread,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceRow from '../../controls/ChoiceRow.vue'
import TextRow from '../../controls/TextRow.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useRefusals } from '../../composables/useRefusals.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { scopeChoices } from './scopeChoices.ts'
import { SHAPES, WAY_CHOICES, wayNamed, wayOf } from './shapes.ts'

/** Spreads or factors: each as what it says and holds for, and its facts. */
const props = defineProps<{ list: 'spreads' | 'factors' }>()
const plans = usePlanStore()
const ui = useUiStore()
const { problem, attempt } = useAttempt()
const { why, take } = useRefusals()
const opened = ref<string | null>(null)
const one = computed(() => (props.list === 'spreads' ? 'spread' : 'factor'))
const plan = computed(() => plans.plan!)

const varies = ({ low, high }: Spread | Factor): boolean => low < high
const rows = computed(() => {
  const widthOf = scopeWidth(plan.value)
  return (plan.value[props.list] as readonly (Spread | Factor)[]).map((item) => {
    const held = plan.value.activities.filter(
      (activity) => activity.kind === 'work' && widthOf(item.scope, activity) !== null,
    )
    const own = held.filter(({ estimate }) => estimate).length
    const over = props.list === 'spreads' && own > 0 ? `, ${own} of them with points of their own` : ''
    return { item, says: `Holds for ${counted(held.length, 'activity')}${over}.` }
  })
})

const set = (id: string, fields: Item): boolean =>
  attempt(() => plans.edit({ kind: 'set', list: props.list, key: id, set: fields }))
const setRange = (item: Spread | Factor, text: string): void => {
  const read = readFactors(text)
  take(item.id, read, () => read.ok && set(item.id, { ...read.range }))
}
/** It varies nothing until somebody says how far. */
const add = (): void => {
  const id = freshId(plan.value[props.list], one.value.charAt(0), Math.random)
  const item: Item = { id, name: '', scope: {}, low: 1, likely: 1, high: 1 }
  if (attempt(() => plans.edit({ kind: 'add', list: props.list, item, before: null }))) opened.value = id
}
const remove = (id: string): void =>
  void attempt(() => plans.edit({ kind: 'remove', list: props.list, key: id }))
const scopeOf = (value: string): Scope => JSON.parse(value) as Scope
</script>

<template>
  <section class="ranges" :data-test="list">
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <div v-for="{ item, says } in rows" :key="item.id" class="range">
      <p>
        <strong>{{ item.name || scopeWords(plan, item.scope) }}</strong>:
        {{ varies(item) ? `× ${factorsWords(item)}` : 'varies nothing yet' }}
        <span class="soft">{{ says }}{{ item.source ? ` Source: ${item.source}.` : '' }}</span>
      </p>
      <p v-if="!varies(item) && opened !== item.id" class="signal">Say how far it may go.</p>
      <p>
        <ActButton
          kind="noun"
          :aria-expanded="opened === item.id"
          @click="opened = opened === item.id ? null : item.id"
          >{{ opened === item.id ? 'Done' : 'Change it' }}</ActButton
        >
      </p>
      <div v-if="opened === item.id" class="fields">
        <TextRow
          label="Name"
          :kept="item.name"
          :placeholder="scopeWords(plan, item.scope)"
          @keep="set(item.id, { name: $event.trim() })"
        />
        <ChoiceRow
          label="Holds for"
          :named="`What the ${one} holds for`"
          :model-value="JSON.stringify(item.scope)"
          :options="scopeChoices(plan, item.scope, ui.selection)"
          @update:model-value="set(item.id, { scope: scopeOf($event) })"
        />
        <TextRow
          label="Factors"
          :problem="why.get(item.id)"
          :kept="varies(item) ? factorsWords(item) : ''"
          placeholder="-10% / +40%"
          :data-test="`${one}-range`"
          @keep="setRange(item, $event)"
        />
        <ChoiceRow
          v-if="'ends' in item"
          label="Shape"
          named="Shape"
          :model-value="wayOf(item as Spread)"
          :options="WAY_CHOICES"
          @update:model-value="set(item.id, { ...wayNamed($event) })"
        />
        <ChoiceRow
          v-else
          label="Shape"
          named="Shape"
          :model-value="item.shape"
          :options="SHAPES"
          @update:model-value="set(item.id, { shape: $event })"
        />
        <TextRow
          label="Source"
          :kept="item.source"
          placeholder="last four refits"
          @keep="set(item.id, { source: $event.trim() })"
        />
        <p>
          <ActButton @click="remove(item.id)">Remove this {{ one }}</ActButton>
        </p>
      </div>
    </div>
    <p>
      <ActButton :data-test="`add-${one}`" @click="add">Add a {{ one }}</ActButton>
    </p>
  </section>
</template>

<style scoped>
.ranges,
.range,
.fields {
  display: flex;
  flex-direction: column;
  gap: 6px;
  --field-label: 78px;
}
.range {
  border-left: 2px solid var(--hairline);
  padding-left: 8px;
}
</style>
