<script setup lang="ts">
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
      <label
        >Activities say
        <select
          :value="rule.work"
          @change="set({ work: ($event.target as HTMLSelectElement).value as HouseRule['work'] })"
        >
          <option value="any">what they like</option>
          <option value="verb">what is done: Blast hull</option>
          <option value="delivered">what is delivered: Blasted hull</option>
        </select>
      </label>
      <label
        >Milestones say
        <select
          :value="rule.milestones"
          @change="set({ milestones: ($event.target as HTMLSelectElement).value as HouseRule['milestones'] })"
        >
          <option value="any">what they like</option>
          <option value="achieved">what has been achieved: Hull dry</option>
        </select>
      </label>
    </div>
    <template v-if="rule.work !== 'any' || rule.milestones !== 'any'">
      <p v-if="departures.length === 0" class="soft">Every name keeps to it.</p>
      <template v-else>
        <p>
          {{ counted(departures.length, 'name') }} of {{ plans.plan!.activities.length }}
          {{ departures.length === 1 ? 'departs' : 'depart' }} from it.
          <button class="noun" type="button" @click="show">Show them in the network</button>
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
        <span v-for="w in rule.words" :key="w" class="one"
          >{{ w
          }}<button
            class="plain x"
            type="button"
            :aria-label="`No longer a verb: ${w}`"
            @click="set({ words: rule.words.filter((other) => other !== w) })"
          >
            ×
          </button></span
        >
        <input v-model="word" aria-label="A verb to know" placeholder="fair" size="8" /><button
          class="chip"
          type="submit"
          :disabled="word.trim() === ''"
        >
          Add
        </button>
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
label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
  min-width: 0;
}
select,
input {
  border: 1.5px solid var(--line);
  border-radius: 7px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 400;
  padding: 6px 10px;
  min-width: 0;
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.own input {
  padding: 2px 8px;
}
.own input::placeholder {
  color: var(--soft-ink);
  opacity: 1;
}
.one {
  display: inline-flex;
  align-items: center;
  border: 1px solid var(--line);
  border-radius: 12px;
  padding-left: 10px;
  background: var(--raised);
}
.x {
  width: 24px;
  height: 24px;
  line-height: 22px;
  text-align: center;
  color: var(--soft-ink);
}
ul {
  margin: 0;
  padding-left: 18px;
}
</style>
