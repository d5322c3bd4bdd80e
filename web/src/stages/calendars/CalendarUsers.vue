<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { counted, type CalendarUse } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** Who goes by a calendar. @param name - of the calendar */
const props = defineProps<{ uses: CalendarUse; name: string }>()
const emit = defineEmits<{ show: [ids: readonly string[], reason: string] }>()

const plans = usePlanStore()
const ui = useUiStore()
const route = useRoute()
const router = useRouter()

/** Activities that are named one by one. */
const NAMED = 6
const onPath = computed(
  () =>
    props.uses.activities.filter((id) => plans.view!.onLongestPath[plans.byId.get(id) ?? -1] === 1).length,
)
const others = computed(() => {
  const { resources, lags, heirs } = props.uses
  return [
    resources.length > 0 ? counted(resources.length, 'resource') : '',
    lags > 0 ? counted(lags, 'lag') : '',
    heirs.length > 0 ? `${counted(heirs.length, 'calendar')} that inherit` : '',
  ].filter(Boolean)
})
const goTo = async (id: string): Promise<void> => {
  await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}
</script>

<template>
  <h3>
    {{
      uses.activities.length === 0
        ? 'No activity is on it'
        : `Used by ${counted(uses.activities.length, 'activity')}${onPath > 0 ? `, ${onPath} on the longest path` : ''}`
    }}
  </h3>
  <p>
    <template v-for="(id, k) in uses.activities.slice(0, NAMED)" :key="id"
      ><template v-if="k > 0">, </template
      ><ActButton kind="noun" @click="goTo(id)">
        {{ plans.activity(id)?.code }} {{ plans.activity(id)?.name }}
      </ActButton></template
    >
    <template v-if="uses.activities.length > NAMED">
      and
      <ActButton kind="noun" @click="emit('show', uses.activities, `on ${name}`)">
        {{ uses.activities.length - NAMED }} more
      </ActButton></template
    >
  </p>
  <p v-if="others.length > 0" class="soft">{{ others.join(', ') }}</p>
</template>
