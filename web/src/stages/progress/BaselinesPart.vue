<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  BASELINE_INKS,
  basisOf,
  baselineOf,
  counted,
  formatInstant,
  fromUnixTime,
  instantOf,
  instantWords,
  nextInk,
  type Baseline,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FieldRow from '../../controls/FieldRow.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { useKeptPlans } from '../../composables/useKeptPlans.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** What was agreed, and when: frozen, compared with, shown on the time drawing, taken away. */
defineProps<{ calendars: CalendarLookup }>()
const plans = usePlanStore()
const ui = useUiStore()
const { problem, attempt } = useAttempt()
const plan = computed(() => plans.base!)
const current = computed(() => baselineOf(plan.value))
const baselines = computed(() => [...plan.value.baselines].reverse())
const now = computed(() => basisOf(plan.value))

const name = ref('')
const note = ref('')
const isPart = ref(false)
const isFreezing = ref(false)
const selected = computed(() => ui.selection.length)
const whyNotFrozen = computed(() =>
  plans.whyNotPlan !== ''
    ? `What is agreed is the plan. ${plans.whyNotPlan}`
    : plan.value.activities.length === 0
      ? 'The plan has no activities yet: there is nothing to agree on.'
      : plans.view === null
        ? 'The plan cannot be scheduled: its dates cannot be agreed on before it can.'
        : '',
)
const freezeNow = async (): Promise<void> => {
  isFreezing.value = true
  try {
    const change = await plans.question('frozenNow', {
      name: name.value.trim() || (plan.value.baselines.length === 0 ? 'Agreed' : 'Agreed anew'),
      note: note.value.trim(),
      by: authorName.value,
      ink: nextInk(plan.value),
      at: formatInstant(fromUnixTime(Date.now())),
      only: isPart.value && selected.value > 0 ? [...ui.selection] : null,
    })
    if (attempt(() => plans.editPlan(change))) name.value = note.value = ''
  } catch (error) {
    problem.value = (error as Error).message
  } finally {
    isFreezing.value = false
  }
}
/** The one that was frozen after another: what changed from one to the next is asked most. */
const nextOf = (of: Baseline): Baseline | null => {
  const all = plan.value.baselines
  return all[all.indexOf(of) + 1] ?? null
}
const { changedSince, changedUntil } = useKeptPlans()
const set = (of: Baseline, fields: Record<string, string>): void =>
  void attempt(() => plans.editPlan({ kind: 'set', list: 'baselines', key: of.id, set: fields }))
const compare = (baseline: string | null): void => {
  const fields = { baseline }
  attempt(() => plans.editPlan({ kind: 'project', set: fields }))
}
const remove = (id: string): void =>
  void attempt(() => plans.editPlan({ kind: 'remove', list: 'baselines', key: id }))
const when = (date: string | null): string =>
  date === null ? 'when is not known' : `frozen ${instantWords(instantOf(date, 'start'), 'start')}`
const inks = BASELINE_INKS.map((value) => ({ value: value as string, label: value }))
</script>

<template>
  <div class="with-side">
    <section class="sheet scroll">
      <h1 data-test="baselines-title">
        {{
          current === null
            ? 'Nothing is frozen yet.'
            : `Compared with ${current.name || 'a baseline without a name'}.`
        }}
      </h1>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <ul v-if="baselines.length > 0" class="list">
        <li v-for="one in baselines" :key="one.id" data-test="baseline">
          <div class="about">
            <svg width="26" height="16" aria-hidden="true">
              <path :class="['bracket', one.ink]" d="M6 2H2V14H6M20 2H24V14H20" />
            </svg>
            <TextField
              class="name"
              label="Name of the baseline"
              :kept="one.name"
              @keep="set(one, { name: $event.trim() })"
            />
            <ChoiceField
              class="ink"
              label="Ink"
              :model-value="one.ink || 'plum'"
              :options="inks"
              @update:model-value="set(one, { ink: $event })"
            />
            <TickBox
              :model-value="ui.baselines.includes(one.id)"
              @update:model-value="ui.showBaseline(one.id, $event)"
              >brackets on the time drawing</TickBox
            >
          </div>
          <p class="soft">
            {{ when(one.frozen) }}{{ one.by ? `, by ${one.by}` : '' }};
            {{ counted(Object.keys(one.activities).length, 'activity')
            }}{{
              one.basis === ''
                ? ''
                : one.basis === now
                  ? '; links, calendars and resources are as they were'
                  : '; links, calendars or resources have changed since'
            }}
          </p>
          <TextField
            label="Note"
            placeholder="Note"
            :kept="one.note"
            @keep="set(one, { note: $event.trim() })"
          />
          <p class="acts">
            <ActButton v-if="one.id !== current?.id" data-test="compare-with" @click="compare(one.id)"
              >Compare with it</ActButton
            >
            <strong v-else>compared with</strong>
            <ActButton data-test="open-baseline" @click="plans.viewKept('baselines', one.id)"
              >Open the plan as it was</ActButton
            >
            <ActButton data-test="since-baseline" @click="changedSince('baselines', one.id)"
              >What changed since</ActButton
            >
            <ActButton
              v-if="nextOf(one)"
              data-test="until-baseline"
              @click="changedUntil('baselines', one.id, nextOf(one)!.id)"
              >… until {{ nextOf(one)!.name || 'the next' }}</ActButton
            >
            <ActButton v-if="plan.project.baseline === one.id" data-test="release" @click="compare(null)"
              >Release it</ActButton
            >
            <ActButton v-else data-test="remove-baseline" @click="remove(one.id)">Remove</ActButton>
            <span v-if="plan.project.baseline === one.id" class="soft"
              >The plan is compared with it: it cannot be removed until it is released.</span
            >
          </p>
        </li>
      </ul>
      <p v-else class="soft first">
        A baseline keeps, for every activity, start, finish, duration, float and cost as they are now. It is
        what later plans are measured against.
      </p>
    </section>
    <aside class="side-pane scroll" aria-label="A new baseline">
      <h2>Freeze what is agreed</h2>
      <FieldRow label="Name"
        ><TextField
          v-model="name"
          label="Name of the new baseline"
          :placeholder="baselines.length === 0 ? 'Agreed' : 'Agreed anew'"
      /></FieldRow>
      <FieldRow label="Note"><TextField v-model="note" label="Note on the new baseline" /></FieldRow>
      <TickBox v-model="isPart" :disabled="selected === 0"
        >only what is selected in the network ({{ selected }})</TickBox
      >
      <p v-if="isPart && selected > 0" class="soft">
        The others keep what {{ current?.name || 'no baseline' }} says of them.
      </p>
      <ActButton
        kind="primary"
        :disabled="isFreezing || whyNotFrozen !== ''"
        data-test="freeze"
        @click="freezeNow"
        >Freeze</ActButton
      >
      <p v-if="whyNotFrozen" class="signal">{{ whyNotFrozen }}</p>
    </aside>
  </div>
</template>

<style scoped>
.sheet {
  padding: 12px 18px 30px;
}
.list {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
}
.list > li {
  border-top: 1px solid var(--hairline);
  padding: 10px 0;
  display: flex;
  flex-direction: column;
  gap: 5px;
  max-width: 760px;
}
.about,
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
}
.name {
  width: 240px;
}
.ink {
  width: 100px;
}
.bracket {
  fill: none;
  stroke: var(--plum);
  stroke-width: 2.5;
}
.bracket.fjord {
  stroke: var(--fjord);
}
.bracket.brick {
  stroke: var(--brick);
}
.bracket.moss {
  stroke: var(--moss);
}
.first {
  max-width: 560px;
}
</style>
