<script setup lang="ts">
import { computed } from 'vue'
import { availableWords, counted, priceWords, type Resource } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import MenuButton from '../../controls/MenuButton.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { LoadView } from '../../workers/questions.ts'

/** The resources by kind, each with what it costs, how many there are, and on how many days too much is asked of it. */
const props = defineProps<{
  loads: readonly LoadView[]
  chosen: string | null
  calendars: CalendarLookup
}>()
const emit = defineEmits<{ choose: [id: string]; add: [kind: Resource['kind']]; paste: [] }>()
const plans = usePlanStore()

const KINDS = [
  ['people', 'People'],
  ['plant', 'Plant'],
  ['material', 'Material'],
  ['fee', 'Fees'],
] as const
const groups = computed(() =>
  KINDS.map(([kind, label]) => ({
    kind,
    label,
    resources: plans.viewPlan!.resources.filter((r) => r.kind === kind),
  })).filter(({ resources }) => resources.length > 0),
)
const loadOf = computed(() => new Map(props.loads.map((load) => [load.resource.id, load])))
const uses = computed(() => {
  const counts = new Map<string, number>()
  for (const { resource } of plans.viewPlan!.assignments)
    counts.set(resource, (counts.get(resource) ?? 0) + 1)
  return counts
})
const shortOn = (id: string): number =>
  (loadOf.value.get(id)?.overloads ?? []).reduce((sum, { days }) => sum + days, 0)
const currency = computed(() => plans.viewPlan!.project.currency)
const NEW = [
  { key: 'people', label: 'People' },
  { key: 'plant', label: 'Plant' },
  { key: 'material', label: 'Material' },
  { key: 'fee', label: 'Fee' },
] as const
</script>

<template>
  <nav class="list scroll" aria-label="Resources">
    <template v-for="group in groups" :key="group.kind">
      <h3>{{ group.label }}<small class="soft"> activities</small></h3>
      <ActButton
        v-for="r in group.resources"
        :key="r.id"
        kind="row"
        :aria-current="r.id === chosen"
        data-test="resource"
        @click="emit('choose', r.id)"
      >
        <span class="top"
          ><strong>{{ r.name || r.code }}</strong
          ><span>{{ uses.get(r.id) ?? 0 }}</span></span
        >
        <small class="soft"
          >{{ priceWords(r, currency)
          }}<template v-if="loadOf.has(r.id)"> · {{ availableWords(r) }}</template></small
        >
        <small v-if="loadOf.has(r.id) && r.calendar" class="soft">{{ calendars.name(r.calendar) }}</small>
        <small v-if="shortOn(r.id) > 0" class="signal">short on {{ counted(shortOn(r.id), 'day') }}</small>
      </ActButton>
    </template>
    <p class="new">
      <MenuButton
        label="New resource"
        :options="NEW"
        data-test="new-resource"
        @choose="emit('add', $event)"
      />
      <ActButton kind="noun" data-test="paste-resources" @click="emit('paste')">Paste a list</ActButton>
    </p>
  </nav>
</template>

<style scoped>
.list {
  background: var(--raised);
  border-right: 1px solid var(--hairline);
}
h3 {
  display: flex;
  justify-content: space-between;
  padding: 10px 14px 2px;
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.new {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 12px 14px 30px;
}
</style>
