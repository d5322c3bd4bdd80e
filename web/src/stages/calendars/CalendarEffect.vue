<script setup lang="ts">
import { computed } from 'vue'
import { counted, instantWords } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import StaysChoice from '../../controls/StaysChoice.vue'
import { useCalendarDraft } from '../../stores/calendarDraft.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What a calendar that is being changed would do, and whether it is to. @param name - of the calendar */
defineProps<{ name: string }>()

const plans = usePlanStore()
const draft = useCalendarDraft()

const words = computed(() => {
  const { effect } = draft
  if (!effect) return null
  const [before, after] = [plans.view!.projectFinish, effect.view.projectFinish]
  return {
    before: instantWords(before, 'finish'),
    after: instantWords(after, 'finish'),
    same: before === after,
    moved: effect.difference.moved.length,
    lost: effect.difference.lostFloat.length,
    gained: effect.difference.gainedFloat.length,
  }
})
</script>

<template>
  <section class="effect" role="status" data-test="calendar-effect">
    <p class="soft">If you change {{ name }} like this</p>
    <template v-if="words">
      <h2>{{ words.after }}</h2>
      <p>
        {{ words.same ? 'The finish does not move.' : `It finishes now on ${words.before}.` }}
        {{ counted(words.moved, 'activity') }} {{ words.moved === 1 ? 'moves' : 'move'
        }}<template v-if="words.lost > 0">, {{ words.lost }} lose float</template
        ><template v-if="words.gained > 0">, {{ words.gained }} gain float</template>.
      </p>
    </template>
    <fieldset v-if="draft.changesLength">
      <legend>A day has another length. What stays?</legend>
      <StaysChoice v-model="draft.stays" />
    </fieldset>
    <p v-if="draft.problem" class="brick" role="alert">{{ draft.problem }}</p>
    <p class="act">
      <ActButton
        kind="primary"
        :disabled="draft.problem !== ''"
        data-test="keep-calendar"
        @click="draft.keep()"
      >
        Apply it</ActButton
      ><ActButton @click="draft.drop()">Drop the change</ActButton>
    </p>
  </section>
</template>

<style scoped>
.effect {
  background: var(--wash);
  border-left: 4px solid var(--signal);
  border-radius: 4px;
  padding: 10px 12px;
  margin: -4px -4px 14px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 4px 0 0;
}
.act {
  display: flex;
  gap: 8px;
}
</style>
