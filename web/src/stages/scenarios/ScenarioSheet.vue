<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import {
  behindIn,
  changesOfScenario,
  counted,
  describeChange,
  keyOf,
  lineageOf,
  roundMoneyWords,
  scenarioPlan,
  type AlternativeBeside,
  type BehindChange,
  type Change,
  type Plan,
  type Scenario,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import TickBox from '../../controls/TickBox.vue'
import TextField from '../../controls/TextField.vue'

/** One scenario: who, why and on what condition, its changes with those that no longer fit, what its money is made of. */
const props = defineProps<{
  plan: Plan
  scenario: Scenario
  beside: AlternativeBeside | null
  problem: string
}>()
const emit = defineEmits<{
  field: [field: 'name' | 'by' | 'why' | 'holdsIf', text: string]
  takeOut: [key: string]
  keepThough: [change: BehindChange]
  work: []
  /** @param freezesFirst - whether the plan as it was stays as a baseline */
  promote: [freezesFirst: boolean]
  discard: []
  save: []
  base: [scenario: string | null]
  branch: []
}>()
const nameBox = useTemplateRef<InstanceType<typeof TextField>>('nameBox')
const nameIt = async (): Promise<void> => {
  await nextTick()
  nameBox.value?.focus()
  nameBox.value?.select()
}
defineExpose({ nameIt })

const freezesFirst = ref(false)
const seen = computed(() => scenarioPlan(props.plan, props.scenario.id))
const behind = computed(() => new Map(behindIn(props.plan, props.scenario.id).map((one) => [one.key, one])))
/** The scenario's changes in words, each described on the plan as the changes before it left it. */
const changes = computed(() =>
  changesOfScenario(props.plan, props.scenario.id).map((item) => {
    const key = keyOf('scenarioChanges', item)
    return {
      key,
      text: describeChange(props.plan, item.change as Change),
      void: seen.value.unfit.get(key) ?? null,
      behind: behind.value.get(key) ?? null,
    }
  }),
)
/** What it can stand on: the plan, and every scenario that does not stand on it. */
const bases = computed(() => [
  { value: '', label: 'the plan as it is' },
  ...props.plan.scenarios
    .filter(({ id }) => !lineageOf(props.plan, id).includes(props.scenario.id))
    .map(({ id, name }) => ({ value: id, label: name || 'a scenario without a name' })),
])
/** Changes of the scenarios that it stands on. */
const under = computed(() =>
  lineageOf(props.plan, props.scenario.id)
    .slice(0, -1)
    .reduce((sum, id) => sum + changesOfScenario(props.plan, id).length, 0),
)
const voids = computed(() => changes.value.filter((change) => change.void !== null).length)
const sum = computed(() => (props.beside?.money ?? []).reduce((all, { amount }) => all + amount, 0))
const money = (amount: number): string =>
  `${amount > 0 ? '+' : amount < 0 ? '−' : ''}${roundMoneyWords(Math.abs(amount), props.plan.project.currency)}`
</script>

<template>
  <TextField
    ref="nameBox"
    class="name"
    label="Name of the scenario"
    :kept="scenario.name"
    @keep="emit('field', 'name', $event)"
  />
  <p class="stands">
    <span class="soft">Stands on</span>
    <ChoiceField
      :model-value="scenario.base ?? ''"
      label="What it stands on"
      :options="bases"
      @update:model-value="emit('base', $event === '' ? null : $event)"
    />
  </p>
  <p class="soft" data-test="scenario-count">
    {{ counted(changes.length, 'change') }} of its own<template v-if="under > 0"
      >, {{ under }} under {{ under === 1 ? 'it' : 'them' }}</template
    >
  </p>
  <div class="ways">
    <ActButton kind="primary" data-test="work-in" @click="emit('work')">Make changes in it</ActButton>
    <ActButton
      :disabled="changes.length === 0 || voids > 0"
      data-test="promote"
      @click="emit('promote', freezesFirst)"
      >Promote to the plan</ActButton
    >
    <ActButton data-test="discard" @click="emit('discard')">Discard</ActButton>
    <ActButton data-test="branch-from" @click="emit('branch')">Branch from it</ActButton>
    <ActButton data-test="save-scenario" @click="emit('save')">Save as a file</ActButton>
  </div>
  <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
  <TickBox v-model="freezesFirst">Before it is promoted, freeze the plan as a baseline</TickBox>
  <p class="soft">Nothing in the plan changes until it is promoted: as one change, undone as one.</p>
  <section>
    <h3>Who, why, what it assumes</h3>
    <div class="facts">
      <span class="soft">Who</span
      ><TextField :kept="scenario.by" label="Who" @keep="emit('field', 'by', $event)" /><span class="soft"
        >Why</span
      ><TextField
        :kept="scenario.why"
        label="Why"
        placeholder="what it is for"
        @keep="emit('field', 'why', $event)"
      /><span class="soft">Assumes</span
      ><TextField
        :kept="scenario.holdsIf"
        label="Assumes"
        placeholder="what must be true"
        @keep="emit('field', 'holdsIf', $event)"
      />
    </div>
  </section>
  <section>
    <h3>Its changes</h3>
    <p v-if="voids > 0" class="brick" role="status" data-test="void">
      {{ voids === 1 ? '1 change no longer fits' : `${voids} changes no longer fit` }} the plan and
      {{ voids === 1 ? 'is' : 'are' }} left out: take {{ voids === 1 ? 'it' : 'them' }} out, or bring back
      what {{ voids === 1 ? 'it is' : 'they are' }} about.
    </p>
    <p v-if="behind.size > 0" class="signal" role="status" data-test="behind">
      The plan has changed under {{ counted(behind.size, 'change') }} since: look whether
      {{ behind.size === 1 ? 'it still holds' : 'they still hold' }}. Promoted,
      {{ behind.size === 1 ? 'it stands' : 'they stand' }} over what the plan says now.
    </p>
    <ol v-if="changes.length > 0">
      <li v-for="change in changes" :key="change.key" :class="{ void: change.void }">
        <span
          >{{ change.text }}<span v-if="change.void" class="brick"> — {{ change.void }}</span
          ><span v-if="change.behind" class="since">
            the plan since then: {{ change.behind.since.join('; ') }}</span
          ></span
        >
        <ActButton
          v-if="change.behind"
          kind="bare"
          class="soft out"
          :aria-label="`It still holds: ${change.text}`"
          @click="emit('keepThough', change.behind)"
          >it still holds</ActButton
        >
        <ActButton
          kind="bare"
          class="soft out"
          :aria-label="`Take this change out: ${change.text}`"
          @click="emit('takeOut', change.key)"
          >take out</ActButton
        >
      </li>
    </ol>
    <p v-else class="soft">None yet. What you edit in it stays in the scenario.</p>
  </section>
  <section v-if="beside && beside.money.length > 0" data-test="scenario-money">
    <h3>What the {{ money(sum) }} are</h3>
    <p v-for="one in beside.money" :key="one.what" class="fact">
      <span>{{ one.what }}</span><span>{{ money(one.amount) }}</span>
    </p>
  </section>
  <section v-if="beside && (beside.opened.length > 0 || beside.closed.length > 0)">
    <h3>Findings</h3>
    <p v-for="message in beside.closed.slice(0, 4)" :key="`c ${message}`" class="soft">
      closed: {{ message }}
    </p>
    <p v-for="message in beside.opened.slice(0, 4)" :key="`o ${message}`">opened: {{ message }}</p>
  </section>
</template>

<style scoped>
.stands {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: center;
}
.name :deep(input) {
  font:
    650 17px 'Bricolage Grotesque Variable',
    sans-serif;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
section {
  border-top: 1px solid var(--hairline);
  padding-top: 10px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.facts {
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr);
  gap: 4px 6px;
  align-items: center;
}
ol {
  margin: 0;
  padding-left: 20px;
}
li {
  padding: 3px 0;
}
.void > span:first-child {
  text-decoration: line-through;
  text-decoration-color: var(--brick);
}
.void .brick {
  display: inline-block;
}
.since {
  display: block;
  color: var(--signal-text);
}
.out {
  margin-left: 8px;
  border-bottom: 1.5px dotted var(--line);
}
.fact {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.fact > :last-child {
  white-space: nowrap;
}
</style>
