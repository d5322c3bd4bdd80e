<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import { computed } from 'vue'
import {
  hoursDifferences,
  originNow,
  originOf,
  takeOrigin,
  type CalendarsOfPlan,
  type Item,
  type PlanCalendar,
} from '@geodrome/core'

/** Where a copied calendar came from, and what has changed there since; taking that in is tried like any other change of hours. */
const props = defineProps<{
  calendar: PlanCalendar
  plans: readonly CalendarsOfPlan[] | null
  isDraft: boolean
}>()
const emit = defineEmits<{ take: [fields: Item]; leave: [origin: unknown] }>()

const origin = computed(() => originOf(props.calendar))
const now = computed(() => (origin.value && props.plans ? originNow(origin.value, props.plans) : null))
const differences = computed(() =>
  origin.value && now.value ? hoursDifferences(origin.value.taken, now.value) : [],
)
const taken = computed(() =>
  origin.value && now.value ? takeOrigin(props.calendar, origin.value, now.value) : null,
)
</script>

<template>
  <section
    v-if="origin"
    class="origin"
    :class="{ changed: differences.length > 0 }"
    data-test="calendar-origin"
  >
    <p v-if="differences.length === 0" class="soft">
      Copied from {{ origin.calendar }} of {{ origin.plan
      }}<template v-if="plans && !now">, which is not here any more</template
      ><template v-else-if="now">, which says the same since</template>.
    </p>
    <template v-else>
      <p>
        <strong>{{ origin.calendar }} of {{ origin.plan }} has changed since it was copied.</strong>
      </p>
      <ul>
        <li v-for="d in differences.slice(0, 6)" :key="d">{{ d }}</li>
        <li v-if="differences.length > 6">and {{ differences.length - 6 }} more</li>
      </ul>
      <p v-if="taken!.kept.length > 0" class="soft">
        This copy would keep {{ taken!.kept.join(' and ') }}, changed here as well.
      </p>
      <p class="act">
        <ActButton
          :disabled="isDraft"
          :title="
            isDraft
              ? 'Apply or drop the change that is open first'
              : 'What it moves is shown before it is kept'
          "
          @click="emit('take', taken!.set)"
        >
          See what taking it moves
        </ActButton>
        <ActButton kind="noun" @click="emit('leave', taken!.set.origin)">Leave it as it is here</ActButton>
      </p>
    </template>
  </section>
</template>

<style scoped>
.origin {
  margin: 8px 0 0;
}
.changed {
  background: var(--wash);
  border-left: 4px solid var(--signal);
  border-radius: 4px;
  padding: 8px 12px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  max-width: 720px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
.act {
  display: flex;
  gap: 14px;
  align-items: center;
  flex-wrap: wrap;
}
</style>
