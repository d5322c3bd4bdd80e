<script setup lang="ts">
import NumberField from '../../controls/NumberField.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { onKeyStroke } from '@vueuse/core'
import { computed, ref } from 'vue'
import { codeRuleNear, counted, recode, type Change, type CodeRule } from '@geodrome/core'
import { useListCommands } from './useListCommands.ts'
import { useListStore } from './listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'

/** New codes for what is selected, by a rule, in the order of the plan; what each becomes is shown first. */
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const { attempt } = useListCommands()
onKeyStroke('Escape', () => (list.recodeOpen = false))

const ids = computed(() =>
  ui.selection.filter((id) => plans.byId.has(id)).sort((a, b) => plans.byId.get(a)! - plans.byId.get(b)!),
)
const near = codeRuleNear(ids.value.map((id) => plans.activity(id)!.code))
const prefix = ref(near.prefix)
const step = ref(near.step)
const digits = ref(near.digits)
const made = computed((): { change: Change | null; why: string } => {
  const rule: CodeRule = { prefix: prefix.value.trim(), step: step.value, digits: digits.value }
  if (/\s/.test(rule.prefix)) return { change: null, why: 'a code has no spaces' }
  if (!(rule.step >= 1 && rule.digits >= 1 && rule.digits <= 8))
    return { change: null, why: 'the step and the digits are whole numbers from 1' }
  try {
    return { change: recode(plans.viewPlan!, ids.value, rule), why: '' }
  } catch (error) {
    return { change: null, why: (error as Error).message }
  }
})
const pairs = computed(() => {
  const { change } = made.value
  if (change?.kind !== 'all') return []
  return change.changes.flatMap((c) =>
    c.kind === 'set' ? [[plans.activity(c.key)!.code, String(c.set.code)] as const] : [],
  )
})
const keep = (): void => {
  if (made.value.change && attempt(() => plans.edit(made.value.change!))) list.recodeOpen = false
}
</script>

<template>
  <form class="recode over-rows" aria-label="New codes" @submit.prevent="keep">
    <strong>New codes for {{ counted(ids.length, 'activity') }}</strong>
    <label>prefix <TextField v-model="prefix" style="width: 10ch" maxlength="20" /></label>
    <label>step <NumberField v-model="step" label="step" :min="1" :max="1000" /></label>
    <label>digits <NumberField v-model="digits" label="digits" :min="1" :max="8" /></label>
    <span class="soft"
      >{{
        pairs
          .slice(0, 3)
          .map(([a, b]) => `${a} → ${b}`)
          .join(', ')
      }}{{ pairs.length > 3 ? ' …' : '' }}</span
    >
    <span v-if="made.why" class="brick" role="alert">{{ made.why }}</span>
    <ActButton type="submit" :disabled="made.change === null || ids.length === 0">Give them</ActButton>
    <ActButton type="button" @click="list.recodeOpen = false">Leave</ActButton>
  </form>
</template>

<style scoped>
.recode {
  flex-flow: row wrap;
  gap: 8px 12px;
  align-items: center;
  width: 620px;
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.number-field {
  width: 62px;
}
</style>
