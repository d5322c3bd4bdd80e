<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import {
  counted,
  parseJson,
  PlanError,
  readPlan,
  scenariosOffered,
  type Change,
  type OfferedScenario,
  type Plan,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import FilePick from '../../controls/FilePick.vue'

/** Scenarios out of a colleague's copy of the plan: each is looked at before it is taken in. */
const props = defineProps<{ plan: Plan }>()
const emit = defineEmits<{ take: [change: Change, id: string] }>()
const MOST_BYTES = 64 * 1024 * 1024
const offered = shallowRef<readonly OfferedScenario[]>([])
const problem = ref('')

const look = async (file: File): Promise<void> => {
  offered.value = []
  problem.value = ''
  if (file.size > MOST_BYTES)
    return void (problem.value = `${file.name} is larger than 64 MB, no plan file is.`)
  try {
    const { plan: other } = readPlan(parseJson(await file.text()))
    const found = scenariosOffered(props.plan, other, Math.random)
    if (found.length === 0) problem.value = `${file.name} has no scenario.`
    else if (found.every(({ changes, unfit }) => changes > 0 && unfit === changes))
      problem.value = `${file.name} is of another plan: nothing that its scenarios change is here.`
    else offered.value = found
  } catch (error) {
    problem.value = `${file.name} cannot be read: ${error instanceof PlanError ? error.issues[0]!.message : (error as Error).message}`
  }
}
const take = (one: OfferedScenario): void => {
  emit('take', one.take, one.id)
  offered.value = []
}
const words = ({ changes, unfit, isHere, by }: OfferedScenario): string =>
  [
    ...(by === '' ? [] : [`by ${by}`]),
    counted(changes, 'change'),
    ...(unfit === 0 ? [] : [`${unfit} that ${unfit === 1 ? 'does' : 'do'} not fit`]),
    ...(isHere ? ['here already'] : []),
  ].join(', ')
</script>

<template>
  <FilePick accept=".json,application/json" label="Plan file of a colleague" test="scenario-file" @pick="look"
    ><ActButton>Take one from a file</ActButton></FilePick
  >
  <p v-if="problem" class="brick" role="alert" data-test="take-problem">{{ problem }}</p>
  <ul v-if="offered.length > 0" class="offered" data-test="offered">
    <li v-for="one in offered" :key="one.id">
      <ActButton kind="noun" :disabled="one.isHere" @click="take(one)">{{ one.name || 'No name' }}</ActButton>
      <small class="soft">{{ words(one) }}</small>
    </li>
  </ul>
</template>

<style scoped>
.offered {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.offered small {
  display: block;
}
</style>
