<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import NamedChip from '../../controls/NamedChip.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref } from 'vue'
import { counted } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** The declared starts or finishes of the network: open there by intent; every other open end is a finding. */
const props = defineProps<{ list: 'opens' | 'closes' }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()
const declared = computed(() => plans.plan!.project[props.list])
const end = computed(() => (props.list === 'opens' ? 'to' : 'from'))
/** Activities that nothing leads to, or that lead nowhere, and are not declared. */
const open = computed(() => {
  const tied = new Set(plans.plan!.links.map((link) => link[end.value]))
  return plans.plan!.activities.filter(
    (a) => a.kind !== 'hammock' && !tied.has(a.id) && !declared.value.includes(a.id),
  )
})
const text = ref('')
const set = (ids: readonly string[]): void =>
  void attempt(() => plans.edit({ kind: 'project', set: { [props.list]: ids } }))
const add = (): void => {
  const found = plans.plan!.activities.find((a) => a.code.toLowerCase() === text.value.trim().toLowerCase())
  if (!found) return void (problem.value = `there is no activity ${text.value.trim()}`)
  set([...declared.value.filter((id) => id !== found.id), found.id])
  text.value = ''
}
const nameOf = (id: string): string => {
  const a = plans.plan!.activities.find((x) => x.id === id)
  return a ? `${a.code} ${a.name}` : id
}
</script>

<template>
  <div class="ends">
    <strong>{{ list === 'opens' ? 'The network starts with' : 'The network finishes with' }}</strong>
    <NamedChip
      v-for="id in declared"
      :key="id"
      :leave="`No longer ${nameOf(id)}`"
      @leave="set(declared.filter((other) => other !== id))"
      >{{ nameOf(id) }}</NamedChip
    >
    <span v-if="declared.length === 0" class="soft">none declared</span>
    <form @submit.prevent="add">
      <TextField
        v-model="text"
        :label="list === 'opens' ? 'Code of a start to declare' : 'Code of a finish to declare'"
        placeholder="code"
        style="width: 12ch"
      /><ActButton type="submit" :disabled="text.trim() === ''">Declare</ActButton>
    </form>
    <small v-if="open.length > 0" class="soft"
      >{{ counted(open.length, 'other open end') }}, {{ open.length === 1 ? 'a finding' : 'findings' }} in
      Review:
      <template v-for="(a, k) in open.slice(0, 4)" :key="a.id"
        ><template v-if="k > 0">, </template
        ><ActButton kind="noun" @click="set([...declared, a.id])">declare {{ a.code }}</ActButton></template
      ><template v-if="open.length > 4"> and {{ open.length - 4 }} more</template></small
    >
    <small v-if="problem" class="brick" role="alert">{{ problem }}</small>
  </div>
</template>

<style scoped>
.ends {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.ends > small {
  flex-basis: 100%;
}
form {
  display: inline-flex;
  gap: 6px;
}
</style>
