<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import {
  chanceOf,
  chanceStep,
  chanceWords,
  type Activity,
  type Risk,
  type RiskScale,
  type RiskWorth,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'

interface Reach {
  readonly low: number
  readonly likely: number
  readonly high: number
}
/** One risk of the register: its pegs of probability, its reach in days, what it costs and whether mitigation pays. */
const props = defineProps<{
  risk: Risk
  /** Days; null where it moves nothing. */
  reach: Reach | null
  /** Days that all rows are drawn over. */
  range: { readonly low: number; readonly high: number }
  isOpen: boolean
  fallsOn: readonly Activity[]
  worth: RiskWorth | null
  verdict: string
  scale: RiskScale
  money: (amount: number) => string
}>()
const emit = defineEmits<{ open: []; show: [activity: string] }>()

const PEGS = 20
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const probability = computed(() => chanceOf(props.risk))
/** The word of the scale, where it has one, with its figure. */
const chance = computed(() => {
  const step = chanceStep(props.scale, probability.value)
  return `${step ? `${step.name}, ` : ''}${chanceWords(probability.value)}`
})
/** How much of each peg is filled. */
const pegs = computed(() =>
  Array.from({ length: PEGS }, (_, k) => Math.min(1, Math.max(0, probability.value * PEGS - k))),
)
const x = (day: number): number =>
  6 + ((day - props.range.low) / (props.range.high - props.range.low)) * Math.max(1, width.value - 12)
const after = computed((): Reach | null => {
  const { mitigation } = props.risk
  if (!mitigation || !props.reach) return null
  const { low, likely, high } = props.reach
  return { low: low * mitigation.scale, likely: likely * mitigation.scale, high: high * mitigation.scale }
})
const reachWords = computed(() => {
  if (!props.reach) return props.risk.cost ? 'moves nothing, costs money' : 'moves nothing yet'
  const [least, most] = [Math.abs(props.reach.low), Math.abs(props.reach.high)].sort((a, b) => a - b)
  const round = (days: number): string => (Math.round(days * 10) / 10).toLocaleString('en')
  return `${round(least!)} to ${round(most!)} d ${props.risk.sign === 'threat' ? 'later' : 'earlier'}`
})
const owedWords = computed(() => {
  if (!props.worth) return ''
  const { days, money } = props.worth.owed
  const size = (Math.round(Math.abs(days) * 10) / 10).toLocaleString('en')
  const time = Math.abs(days) < 0.05 ? 'no day' : days > 0 ? `${size} d` : `saves ${size} d`
  return `${time}, ${money < 0 ? 'saves ' : ''}${props.money(Math.abs(money))}`
})
</script>

<template>
  <div class="risk-row" :class="{ open: isOpen }">
    <div class="who">
      <ActButton kind="noun" class="code" :aria-pressed="isOpen" @click="emit('open')">{{
        risk.code || 'risk'
      }}</ActButton>
      {{ risk.name }}
      <span class="on">
        <ActButton
          v-for="activity in fallsOn"
          :key="activity.id"
          kind="noun"
          class="code"
          @click="emit('show', activity.id)"
          >{{ activity.code }}</ActButton
        >
      </span>
    </div>
    <div class="chance">
      <svg :width="PEGS * 5" height="16" aria-hidden="true">
        <template v-for="(fill, k) in pegs" :key="k">
          <line class="peg" :x1="k * 5 + 2" :x2="k * 5 + 2" y1="2" y2="15" />
          <line v-if="fill > 0" class="told" :x1="k * 5 + 2" :x2="k * 5 + 2" :y1="15 - 13 * fill" y2="15" />
        </template>
      </svg>
      <span class="soft">{{ chance }}</span>
    </div>
    <div ref="box" class="reach">
      <svg :width="width" height="26" aria-hidden="true">
        <line class="zero" :x1="x(0)" :x2="x(0)" y1="0" y2="26" />
        <template v-if="reach">
          <rect
            class="bar"
            :x="x(reach.low)"
            y="5"
            :width="Math.max(3, x(reach.high) - x(reach.low))"
            height="8"
            rx="4"
          />
          <circle class="likely" :cx="x(reach.likely)" cy="9" r="4" />
        </template>
        <template v-if="after">
          <line class="after" :x1="x(after.low)" :x2="x(after.high)" y1="19" y2="19" />
          <circle class="after-likely" :cx="x(after.likely)" cy="19" r="3" />
        </template>
      </svg>
      <span class="soft">{{ reachWords }}</span>
    </div>
    <div class="owed" :data-test="`owed-${risk.code}`">
      <strong>{{ owedWords }}</strong>
      <span v-if="verdict" class="soft">{{ verdict }}</span>
    </div>
  </div>
</template>

<style scoped>
.risk-row {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) 104px minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 4px 14px;
  align-items: center;
  padding: 6px 6px;
  border-bottom: 1px solid var(--hairline);
}
.risk-row.open {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
.on {
  display: inline-flex;
  gap: 6px;
}
.chance,
.reach,
.owed {
  display: flex;
  flex-direction: column;
  font-size: 12.5px;
}
svg {
  display: block;
}
.peg {
  stroke: var(--line);
  stroke-width: 1;
}
.told {
  stroke: var(--ink);
  stroke-width: 3;
}
.zero {
  stroke: var(--line);
}
.bar {
  fill: var(--paper);
  stroke: var(--ink);
}
.likely {
  fill: var(--ink);
}
.after {
  stroke: var(--moss);
  stroke-width: 2;
  stroke-dasharray: 4 2;
}
.after-likely {
  fill: var(--paper);
  stroke: var(--moss);
  stroke-width: 2;
}
</style>
