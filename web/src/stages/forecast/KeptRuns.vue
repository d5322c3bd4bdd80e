<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import { ref } from 'vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { runWords } from './runWords.ts'

/** The runs of the plan and its scenarios: which one is looked at, which are laid over it, what they are called. */
const props = defineProps<{
  chosen: SimulationRun | null
  /** With their marks. */
  overlaid: readonly { readonly run: SimulationRun; readonly mark: string; readonly colour: string }[]
  most: number
}>()
const emit = defineEmits<{ choose: [run: string]; lay: [run: string, isOver: boolean] }>()
const plans = usePlanStore()
const forecast = useForecastStore()
const problem = ref('')
const naming = ref<string | null>(null)
const markOf = (run: SimulationRun) => props.overlaid.find((one) => one.run.id === run.id)
const keep = async (run: SimulationRun, name: string): Promise<void> => {
  naming.value = null
  if (name.trim() === (run.name ?? '')) return
  await tried(() => forecast.rename(run, name))
}
const tried = async (act: () => Promise<void>): Promise<void> => {
  problem.value = ''
  try {
    await act()
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <section v-if="forecast.finished.length > 0" class="kept">
    <h3>Runs</h3>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <ul data-test="kept-runs">
      <li v-for="run in forecast.finished" :key="run.id" :aria-current="run.id === chosen?.id || undefined">
        <span class="mark" :style="{ color: markOf(run)?.colour }" aria-hidden="true">{{
          run.id === chosen?.id ? '●' : (markOf(run)?.mark ?? '')
        }}</span>
        <TextField
          v-if="naming === run.id"
          :kept="run.name ?? ''"
          label="Name of the run"
          placeholder="a name keeps it"
          maxlength="120"
          data-test="run-name"
          @keep="keep(run, $event)"
          @blur="naming = null"
        />
        <ActButton
          v-else
          kind="bare"
          class="name"
          :title="run.id === chosen?.id ? 'Give it a name' : 'Look at this run'"
          @click="run.id === chosen?.id ? (naming = run.id) : emit('choose', run.id)"
          >{{ runWords(run, plans.plan!) }}</ActButton
        >
        <span class="ways">
          <ActButton
            v-if="run.id === chosen?.id && naming !== run.id"
            kind="noun"
            data-test="name-run"
            @click="naming = run.id"
            >{{ run.name ? 'rename' : 'name it' }}</ActButton
          >
          <template v-if="run.id !== chosen?.id">
            <TickBox
              :model-value="markOf(run) !== undefined"
              :disabled="markOf(run) === undefined && overlaid.length >= most"
              @update:model-value="emit('lay', run.id, $event)"
              ><span class="lay">lay over</span></TickBox
            >
            <IconButton
              :icon="Trash2"
              :label="`Drop the run ${runWords(run, plans.plan!)}`"
              @click="tried(() => forecast.drop(run))"
            />
          </template>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.kept ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 2px;
}
li {
  display: grid;
  grid-template-columns: 14px minmax(0, 1fr);
  align-items: center;
  gap: 4px;
  min-height: 26px;
  font-size: 12.5px;
}
li[aria-current] {
  font-weight: 600;
}
.mark {
  font-size: 12px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 24px;
}
.ways {
  grid-column: 2;
  display: flex;
  align-items: center;
  gap: 8px;
  font-weight: 400;
}
.lay {
  font-size: 12px;
}
</style>
