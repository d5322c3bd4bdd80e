<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, onMounted, ref, watch } from 'vue'
import { breakDown, durationWords, handedOn, readParts, type Handed } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useListCommands } from './useListCommands.ts'
import { useListStore } from './listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** Work broken down into parts, typed one a line: where everything that hangs on it goes, and what that does, before it is done. */
const props = defineProps<{ activity: string }>()
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const { attempt } = useListCommands()
const calendars = useCalendars(() => plans.viewPlan)
const lines = ref<InstanceType<typeof TextField> | null>(null)
const text = ref('')
const close = (): void => void (list.breaking = null)

const whole = computed(() => plans.activity(props.activity))
watch(whole, (now) => !now && close())
const lengths = computed(() => calendars.value!.lengthsOf(whole.value!))
const read = computed(() => readParts(text.value, lengths.value))
const made = computed(() =>
  read.value.ok && whole.value
    ? breakDown(plans.viewPlan!, props.activity, read.value.parts, Math.random)
    : null,
)
const foreseen = useForesight(() => made.value?.change ?? null)
const sum = computed(() => {
  if (!read.value.ok || !whole.value) return ''
  const minutes = read.value.parts.reduce((total, part) => total + part.duration, 0)
  const more = minutes - whole.value.duration
  const said = durationWords(Math.abs(more), lengths.value)
  return `${durationWords(minutes, lengths.value)} in all, ${more === 0 ? 'as now' : more > 0 ? `${said} more than now` : `${said} less than now`}`
})
const GOES: readonly (readonly [Handed['to'], string])[] = [
  ['first', 'Stays with the first part'],
  ['last', 'Goes to the last part'],
  ['each', 'On each part'],
]
const goes = computed(() => {
  const handed = whole.value ? handedOn(plans.viewPlan!, props.activity) : []
  return GOES.flatMap(([to, words]) => {
    const what = handed.filter((h) => h.to === to).map((h) => h.what)
    return what.length > 0 ? [`${words}: ${what.join(', ')}.`] : []
  })
})
const take = (): void => {
  const now = made.value
  if (!now || !attempt(() => plans.edit(now.change))) return
  ui.select(now.parts[0]!, { show: true })
  close()
}
onMounted(() => lines.value?.focus())
</script>

<template>
  <form
    v-if="whole"
    class="over-rows"
    aria-label="Break down into parts"
    data-test="break-down"
    @submit.prevent="take"
    @keydown.esc.stop="close"
  >
    <strong
      >{{ whole.code }} {{ whole.name }}, {{ durationWords(whole.duration, lengths) }}, becomes a group of its
      parts</strong
    >
    <TextField
      ref="lines"
      v-model="text"
      :rows="4"
      label="Its parts, one a line, in the order in which they are done"
      :placeholder="'Cut out wasted plates, 3d\nFit and weld new ones, 6d\nTest and hand over, 2d'"
      @keydown.ctrl.enter.prevent="take"
      @keydown.meta.enter.prevent="take"
    />
    <p role="status" :class="{ soft: text === '', brick: text !== '' && !read.ok }">
      {{ read.ok ? [sum, foreseen].filter(Boolean).join('; ') : read.why }}
    </p>
    <p v-for="line in goes" :key="line" class="soft">{{ line }}</p>
    <p class="commands">
      <ActButton type="submit" :disabled="!made">Break it down</ActButton>
      <ActButton type="button" @click="close">Leave it whole</ActButton>
      <span class="soft">Ctrl Enter</span>
    </p>
  </form>
</template>

<style scoped>
p {
  margin: 0;
}
.commands {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
