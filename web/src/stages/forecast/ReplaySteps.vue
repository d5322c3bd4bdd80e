<script setup lang="ts">
import { computed, ref } from 'vue'
import { instantOf, instantWords } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'

/** One iteration of the run, drawn again and put over the plan on the Ground. */
const props = defineProps<{ run: SimulationRun; percent: number }>()
const emit = defineEmits<{ ground: [] }>()
const forecast = useForecastStore()
const problem = ref('')
const replay = computed(() => (forecast.replay?.run.id === props.run.id ? forecast.replay.at : null))
const look = async (which: { iteration: number } | { percent: number }): Promise<boolean> => {
  problem.value = ''
  try {
    await forecast.lookAtIteration(props.run, which)
    return true
  } catch (error) {
    problem.value = (error as Error).message
    return false
  }
}
const onGround = async (): Promise<void> => {
  if (replay.value || (await look({ percent: props.percent }))) emit('ground')
}
const day = (date: string): string => instantWords(instantOf(date, 'start'), 'finish', { time: false })
</script>

<template>
  <section class="replay">
    <h3>Replay</h3>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p v-if="replay" data-test="replayed">
      Iteration <strong>{{ replay.iteration.toLocaleString('en') }}</strong> finishes on
      {{ day(replay.finish) }}, {{ replay.rank.toLocaleString('en') }} of
      {{ replay.of.toLocaleString('en') }} by finish.
    </p>
    <p class="ways">
      <ActButton v-if="!replay" kind="noun" data-test="replay" @click="look({ percent })"
        >The iteration at {{ percent }} in 100</ActButton
      >
      <template v-else>
        <ActButton kind="noun" data-test="replay-ground" @click="onGround">See it on the Ground</ActButton>
        <ActButton
          v-if="replay.before !== null"
          kind="noun"
          data-test="replay-before"
          @click="look({ iteration: replay.before })"
          >◂ one earlier</ActButton
        >
        <ActButton
          v-if="replay.after !== null"
          kind="noun"
          data-test="replay-after"
          @click="look({ iteration: replay.after })"
          >one later ▸</ActButton
        >
        <ActButton kind="noun" @click="look({ percent })">at {{ percent }} in 100</ActButton>
      </template>
    </p>
  </section>
</template>

<style scoped>
.replay {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
</style>
