<script setup lang="ts">
import { computed } from 'vue'
import { roundMoneyWords, type Contingency } from '@geodrome/core'
import NumberField from '../../controls/NumberField.vue'

/** What to set aside so that a share of the iterations stays within it, and what that is made of. */
const props = defineProps<{
  found: Contingency | null
  percent: number
  currency: string
  problem: string
}>()
const emit = defineEmits<{ percent: [percent: number] }>()
const days = (value: number): string => `${(Math.round(value * 10) / 10).toLocaleString('en')} d`
const money = (amount: number): string => roundMoneyWords(amount, props.currency)
const parts = computed(() => {
  const found = props.found?.money
  if (!found) return []
  return [
    ['hammocks that run on', found.overhead],
    ['damages', found.damages],
    ['what risks cost themselves', found.risks],
    ['the work itself', found.work],
  ] as const
})
</script>

<template>
  <section class="set-aside">
    <h3>
      Contingency to P
      <NumberField
        class="percent"
        :model-value="percent"
        label="Confidence in 100"
        :min="1"
        :max="99"
        @update:model-value="emit('percent', $event)"
      />
    </h3>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <template v-else-if="found">
      <p class="fact" data-test="set-aside-days">
        <strong>Time, working days</strong><strong>{{ days(found.days.all) }}</strong>
      </p>
      <p class="fact part">
        <span>spread and weather</span><span>{{ days(found.days.spread) }}</span>
      </p>
      <p v-if="found.days.risks !== 0" class="fact part">
        <span>the risks on top</span><span>{{ days(found.days.risks) }}</span>
      </p>
      <template v-if="found.money">
        <p class="fact" data-test="set-aside-money">
          <strong>Money</strong><strong>{{ money(found.money.all) }}</strong>
        </p>
        <template v-for="[name, amount] in parts" :key="name">
          <p v-if="Math.round(amount) !== 0" class="fact part">
            <span>{{ name }}</span><span>{{ money(amount) }}</span>
          </p>
        </template>
        <p class="soft">
          The plan as it is costs {{ money(found.money.planned) }}, damages and mitigation included; so many
          stay within {{ money(found.money.cost) }}.
        </p>
        <p v-if="found.both !== null" class="soft" data-test="both-kept">
          Both together are kept in {{ Math.round(found.both * 100) }} of 100.
        </p>
      </template>
    </template>
    <p v-else class="soft">Adding it up …</p>
  </section>
</template>

<style scoped>
.set-aside {
  display: flex;
  flex-direction: column;
  gap: 3px;
}
h3 {
  display: flex;
  align-items: center;
  gap: 6px;
}
.percent {
  width: 52px;
}
.fact {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.fact > :last-child {
  white-space: nowrap;
}
.part {
  color: var(--soft-ink);
  padding-left: 10px;
}
</style>
