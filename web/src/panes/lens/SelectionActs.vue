<script setup lang="ts">
import { computed } from 'vue'
import ActButton from '../../controls/ActButton.vue'
import { useListCommands } from '../rows/useListCommands.ts'

/**
 * Commands of the list that are offered for what is selected; one that cannot be done says why.
 * @prop ifOpen - those that are offered only where they can be done
 */
const props = withDefaults(defineProps<{ ids: readonly string[]; ifOpen?: readonly string[] }>(), {
  ifOpen: () => [],
})
const { commands } = useListCommands()
const offered = computed(() =>
  commands.value.filter(
    ({ id, closed }) => props.ids.includes(id) || (props.ifOpen.includes(id) && closed === ''),
  ),
)
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
  background: var(--paper);
}
</style>
