<script setup lang="ts">
import { computed } from 'vue'
import ActButton from '../../controls/ActButton.vue'
import { useListCommands } from '../rows/useListCommands.ts'

/** Commands of the list that are offered for what is selected; one that cannot be done says why. */
const props = defineProps<{ ids: readonly string[] }>()
const { commands } = useListCommands()
const offered = computed(() => commands.value.filter(({ id }) => props.ids.includes(id)))
</script>

<template>
  <p class="acts" role="group" aria-label="With what is selected">
    <ActButton
      v-for="command in offered"
      :key="command.id"
      :title="command.closed || `${command.explains} (${command.keys[0] ?? 'Ctrl K'})`"
      :aria-disabled="command.closed !== ''"
      @click="command.run()"
    >
      {{ command.label }}
    </ActButton>
  </p>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 10px 0;
}
.acts [aria-disabled='true'] {
  color: var(--soft-ink);
  border-style: dashed;
}
</style>
