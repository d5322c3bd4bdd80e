<script setup lang="ts">
import { optionsOf } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import ActButton from '../../controls/ActButton.vue'
import NamedChip from '../../controls/NamedChip.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { counted, departureOf, houseRuleOf, type HouseRule } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** The house rule for names, and who departs from it: listed, never enforced. */
const plans = usePlanStore()
const ui = useUiStore()
const route = useRoute()
const router = useRouter()
const { problem, attempt } = useAttempt()

const rule = computed(() => houseRuleOf(plans.plan!.project))
const WORK_RULES = optionsOf<HouseRule['work']>([
  ['any', 'what they like'],
  ['verb', 'what is done: Blast hull'],
  ['delivered', 'what is delivered: Blasted hull'],
])
const MILESTONE_RULES = optionsOf<HouseRule['milestones']>([
  ['any', 'what they like'],
  ['achieved', 'what has been achieved: Hull dry'],
])
const set = (fields: Partial<HouseRule>): void =>
  void attempt(() => plans.edit({ kind: 'project', set: { naming: { ...rule.value, ...fields } } }))
const departures = computed(() =>
  rule.value.work === 'any' && rule.value.milestones === 'any'
    ? []
    : plans.plan!.activities.flatMap((activity) => {
        const found = departureOf(activity, rule.value)
        return found ? [{ activity, ...found }] : []
      }),
)
const show = async (): Promise<void> => {
  const ids = departures.value.map(({ activity }) => activity.id)
  await router.push({ name: 'network', params: route.params })
  ui.filter = { ids: new Set(ids), reason: 'named against the house rule' }
  ui.select(ids[0]!, { show: true })
}
const word = ref('')
const add = (): void => {
  const own = word.value.trim().toLowerCase()
  if (own === '') return
  set({ words: [...rule.value.words.filter((w) => w !== own), own] })
  word.value = ''
}
</script>

<template>
  <fieldset data-test="naming">
    <legend>How things are named here</legend>
    <div class="pair">
      <div class="field">
        Activities say
        <ChoiceField
          label="Activities say"
          :model-value="rule.work"
          :options="WORK_RULES"
          @update:model-value="set({ work: $event })"
        />
      </div>
      <div class="field">
        Milestones say
        <ChoiceField
          label="Milestones say"
          :model-value="rule.milestones"
          :options="MILESTONE_RULES"
          @update:model-value="set({ milestones: $event })"
        />
      </div>
    </div>
    <template v-if="rule.work !== 'any' || rule.milestones !== 'any'">
      <p v-if="departures.length === 0" class="soft">Every name keeps to it.</p>
      <template v-else>
        <p>
          {{ counted(departures.length, 'name') }} of {{ plans.plan!.activities.length }}
          {{ departures.length === 1 ? 'departs' : 'depart' }} from it.
          <ActButton kind="noun" type="button" @click="show">Show them in the network</ActButton>
        </p>
        <ul>
          <li v-for="d in departures.slice(0, 4)" :key="d.activity.id">
            <span class="code">{{ d.activity.code }}</span> {{ d.activity.name }}:
            <span class="soft">{{ d.why }}</span>
          </li>
        </ul>
      </template>
      <form v-if="rule.work !== 'any'" class="own" @submit.prevent="add">
        <span>Verbs of your own trade:</span>
        <NamedChip
          v-for="w in rule.words"
          :key="w"
          :leave="`No longer a verb: ${w}`"
          @leave="set({ words: rule.words.filter((other) => other !== w) })"
          >{{ w }}</NamedChip
        >
        <TextField v-model="word" label="A verb to know" placeholder="fair" style="width: 12ch" /><ActButton
          type="submit"
          :disabled="word.trim() === ''"
        >
          Add
        </ActButton>
      </form>
    </template>
    <small v-if="problem" class="brick" role="alert">{{ problem }}</small>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1.5px solid var(--hairline);
  border-radius: 8px;
  padding: 8px 14px 12px;
  margin: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
}
legend {
  font-weight: 600;
  padding: 0 4px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
label,
.field {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
  min-width: 0;
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
ul {
  margin: 0;
  padding-left: 18px;
}
</style>
