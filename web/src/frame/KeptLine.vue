<script setup lang="ts">
import { X } from '@lucide/vue'
import { computed } from 'vue'
import { changesBetween, instantOf, instantWords, newScenario } from '@geodrome/core'
import ActButton from '../controls/ActButton.vue'
import IconButton from '../controls/IconButton.vue'
import { momentWords } from '../composables/momentWords.ts'
import { useAttempt } from '../composables/useAttempt.ts'
import { useKeptPlans } from '../composables/useKeptPlans.ts'
import { authorName } from '../stores/identity.ts'
import { usePlanStore } from '../stores/planStore.ts'

/** Which plan of which day is in view, where it is not that of today, and what can be made of it. */
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const kept = computed(() => plans.kept)
const what = computed(() =>
  kept.value === null
    ? ''
    : kept.value.list === 'baselines'
      ? `As it was when ${kept.value.name} was frozen`
      : `As it was after the update ${kept.value.name}`,
)
/** When, as what kept it says; where it does not, as it was stored. */
const when = computed(() => {
  if (kept.value === null) return ''
  const { list, key, plan, at } = kept.value
  const date =
    list === 'baselines'
      ? plan.baselines.find(({ id }) => id === key)?.frozen
      : plan.periods.find(({ id }) => id === key)?.statusDate
  return date ? instantWords(instantOf(date, 'start'), 'start') : momentWords(at)
})
/** Whether anything was done to the plan since. */
const hasMovedOn = computed(() => plans.pending.length > 0 || plans.revision > (kept.value?.revision ?? 0))
const asScenario = (): void => {
  const { name, plan } = kept.value!
  const changes = changesBetween(plans.base!, plan)
  if (changes.length === 0)
    return void (problem.value = 'The plan is still the same: there is nothing to make of it.')
  const { change, id } = newScenario(
    plans.base!,
    { name: `As in ${name}`, by: authorName.value, why: `The plan as it was: ${name}.`, holdsIf: '' },
    changes,
    Math.random,
  )
  plans.viewScenario(null)
  if (attempt(() => plans.editPlan(change))) plans.viewScenario(id)
}
const { changedSince } = useKeptPlans()
</script>

<template>
  <div v-if="kept" class="kept" role="status" data-test="kept-line">
    <strong>{{ what }}</strong>
    <span class="soft">{{ when }}, {{ kept.author }}; only to be looked at</span>
    <ActButton kind="primary" data-test="back-to-plan" @click="plans.viewScenario(null)"
      >Back to the plan</ActButton
    >
    <template v-if="hasMovedOn">
      <ActButton data-test="changed-since" @click="changedSince(kept.list, kept.key)"
        >What changed since</ActButton
      >
      <ActButton data-test="kept-scenario" @click="asScenario">Make it a scenario</ActButton>
    </template>
    <span v-else class="soft">the plan is still the same</span>
  </div>
  <p v-if="problem || plans.keptProblem" class="kept brick" role="alert">
    {{ problem || plans.keptProblem }}
    <IconButton
      v-if="plans.keptProblem"
      :icon="X"
      label="Put this line away"
      @click="plans.keptProblem = ''"
    />
  </p>
</template>

<style scoped>
.kept {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 0;
  padding: 4px 18px;
  border-bottom: 1.5px solid var(--plum);
  background: var(--wash);
  flex: none;
}
</style>
