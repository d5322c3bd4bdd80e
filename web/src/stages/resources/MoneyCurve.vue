<script setup lang="ts">
import HatchPattern from '../../controls/HatchPattern.vue'
import { computed, useTemplateRef } from 'vue'
import { amountWords, baselineOf, NONE, shortDay } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import OffBands from '../../panes/ground/OffBands.vue'
import TimeRuler from '../../panes/ground/TimeRuler.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import type { MoneyBeside } from '../../workers/questions.ts'
import { useTimeDrawing } from '../../panes/ground/useTimeDrawing.ts'

/** Cost over time: early dates solid, late dates dashed, the room that float gives hatched between; what is spent a groove, payments rings. */
const props = defineProps<{ money: MoneyBeside; calendars: CalendarLookup }>()
const plans = usePlanStore()

const AXIS = 76
const HEIGHT = 216
const box = useTemplateRef<HTMLElement>('box')
const lastDay = computed(() => props.money.curve.firstDay + props.money.curve.early.length)
const { scale, fit, context, pins, bands, statusAt } = useTimeDrawing(
  box,
  AXIS,
  () => [props.money.curve.firstDay * 1440, lastDay.value * 1440],
  () => props.calendars,
)

/** What came in less what went out by payments, in steps. */
const payments = computed(() => {
  let sum = 0
  return props.money.payments.map((payment) => {
    const before = sum
    sum += payment.direction === 'in' ? payment.amount : -payment.amount
    return { ...payment, before, sum }
  })
})
const most = computed(() => {
  const { early, late } = props.money.curve
  return Math.max(
    1,
    early.at(-1) ?? 0,
    late.at(-1) ?? 0,
    props.money.agreed?.total ?? 0,
    ...payments.value.map(({ sum }) => sum),
  )
})
const y = (amount: number): number => HEIGHT - 12 - (amount / most.value) * (HEIGHT - 30)
const ticks = computed(() => {
  const rough = most.value / 4
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 2.5, 5, 10].map((k) => k * power).find((k) => k >= rough)!
  return Array.from({ length: Math.floor(most.value / step) + 1 }, (_, k) => k * step)
})
const line = (values: Float64Array): string => {
  let path = ''
  values.forEach((value, k) => {
    const x = scale.x((props.money.curve.firstDay + k + 1) * 1440)
    path += `${path === '' ? `M${scale.x(props.money.curve.firstDay * 1440)} ${y(0)}L` : 'L'}${x.toFixed(1)} ${y(value).toFixed(1)}`
  })
  return path
}
const early = computed(() => line(props.money.curve.early))
const late = computed(() => line(props.money.curve.late))
/** Against the baseline that the plan is compared with. */
const agreed = computed(() => (props.money.agreed ? line(props.money.agreed.curve) : ''))
const agreedName = computed(() => baselineOf(plans.viewPlan!)?.name || 'the baseline')
const room = computed(() => {
  const { curve } = props.money
  const backward = Array.from(
    curve.late,
    (value, k) => `L${scale.x((curve.firstDay + k + 1) * 1440).toFixed(1)} ${y(value).toFixed(1)}`,
  ).reverse()
  return `${early.value}${backward.join('')}Z`
})
const spent = computed(() => {
  if (statusAt.value === null) return ''
  const days = Math.floor(statusAt.value / 1440) - props.money.curve.firstDay
  return days <= 0 ? '' : line(props.money.curve.early.slice(0, days))
})
const received = computed(() => {
  if (payments.value.length === 0) return ''
  let path = `M${scale.x(payments.value[0]!.at)} ${y(0)}`
  for (const { at, sum } of payments.value) path += `H${scale.x(at)}V${y(sum)}`
  return path
})
const labelOf = (i: number): string => plans.viewPlan!.activities[i]!.name
/** Labels give way to each other. */
const rings = computed(() => {
  const taken: { x1: number; x2: number; y: number }[] = []
  return payments.value.map((payment) => {
    const [x, at] = [scale.x(payment.at), y(payment.sum)]
    const text = `${amountWords(payment.amount)} ${payment.direction === 'in' ? '' : 'paid, '}${labelOf(payment.activity)}`
    const length = text.length * 6.2
    const isLeft = x + length + 14 > scale.width.value
    const box = { x1: isLeft ? x - length - 12 : x, x2: isLeft ? x : x + length + 12, y: at }
    let dy = -8
    while (taken.some((t) => t.x1 < box.x2 && box.x1 < t.x2 && Math.abs(t.y - (at + dy)) < 14) && dy < 60)
      dy += 14
    taken.push({ ...box, y: at + dy })
    return { ...payment, x, y: at, text, isLeft, textY: at + dy }
  })
})
/** Late dates before early ones: what would have to be, for all limits to be kept. */
const isBehind = computed(() => plans.view!.totalFloat.some((float) => float < 0 && float !== NONE))
const words = computed(
  () =>
    `Cost over time: ${amountWords(props.money.total.atCompletion)} ${plans.viewPlan!.project.currency} at completion, from ${shortDay(props.money.curve.firstDay * 1440)} to ${shortDay(lastDay.value * 1440, 'finish')}`,
)
defineExpose({
  zoom: (factor: number) => scale.zoom(factor),
  fit,
})
</script>

<template>
  <div ref="box" class="curve">
    <div :style="{ paddingLeft: `${AXIS}px` }">
      <TimeRuler :scale="scale" :pins="pins" :context="context" />
    </div>
    <svg
      :width="scale.width.value + AXIS"
      :height="HEIGHT"
      role="img"
      :aria-label="words"
      data-test="money-curve"
    >
      <defs>
        <HatchPattern id="money-room" :gap="8" :thick="1.2" ink="var(--line)" />
        <clipPath id="money-clip"><rect x="0" y="0" :width="scale.width.value" :height="HEIGHT" /></clipPath>
      </defs>
      <g :transform="`translate(${AXIS} 0)`">
        <g clip-path="url(#money-clip)">
          <OffBands :bands="bands" :height="HEIGHT - 12" />
          <rect
            v-if="statusAt !== null"
            class="walked"
            x="0"
            y="0"
            :width="Math.max(0, scale.x(statusAt))"
            :height="HEIGHT - 12"
          />
        </g>
        <g v-for="tick in ticks" :key="tick">
          <line class="tick" x1="0" :x2="scale.width.value" :y1="y(tick)" :y2="y(tick)" />
          <text class="axis" x="-8" :y="y(tick) + 4" text-anchor="end">{{ amountWords(tick) }}</text>
        </g>
        <g clip-path="url(#money-clip)">
          <path class="room" :d="room" />
          <path v-if="agreed" class="agreed" :d="agreed" />
          <path class="late" :d="late" />
          <path class="early" :d="early" />
          <path v-if="spent" class="spent" :d="spent" />
          <path v-if="spent" class="groove" :d="spent" />
          <path class="received" :d="received" />
        </g>
        <g v-for="ring in rings" :key="ring.activity">
          <circle :class="['ring', { made: ring.isMade }]" :cx="ring.x" :cy="ring.y" r="5.5" />
          <text
            class="payment"
            :x="ring.isLeft ? ring.x - 10 : ring.x + 10"
            :y="ring.textY + 4"
            :text-anchor="ring.isLeft ? 'end' : 'start'"
          >
            {{ ring.text }}
          </text>
        </g>
      </g>
    </svg>
    <ul class="legend soft" aria-label="How it is drawn">
      <li>
        <svg width="18" height="10"><path class="early" d="M0 8L18 2" /></svg> cost on early dates
      </li>
      <li>
        <svg width="18" height="10"><path class="late" d="M0 8L18 2" /></svg>
        {{ isBehind ? 'on late dates, already past where float is negative' : 'on late dates' }}
      </li>
      <li v-if="agreed">
        <svg width="18" height="10"><path class="agreed" d="M0 8L18 2" /></svg> agreed, {{ agreedName }}
      </li>
      <li>
        <svg width="18" height="10"><rect class="room" width="18" height="10" /></svg>
        {{ isBehind ? 'between them' : 'the room that float gives' }}
      </li>
      <li v-if="money.payments.length > 0">
        <svg width="18" height="12"><circle class="ring" cx="9" cy="6" r="4.5" /></svg> payment, filled once
        made
      </li>
      <li data-not-saved><SaveAs name="Cost over time" :drawing="() => box" /></li>
    </ul>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
.walked {
  fill: var(--shade);
  opacity: 0.5;
}
.tick {
  stroke: var(--hairline);
}
text {
  font-size: 11.5px;
  fill: var(--soft-ink);
}
.payment {
  fill: var(--fjord);
  font-weight: 650;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.room {
  fill: url(#money-room);
}
.early,
.late,
.received {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.agreed {
  fill: none;
  stroke: var(--plum);
  stroke-width: 2;
  stroke-dasharray: 1 4;
  stroke-linecap: round;
}
.late {
  stroke-dasharray: 5 3;
  stroke-width: 1.5;
}
.spent {
  fill: none;
  stroke: var(--ink);
  stroke-width: 6;
}
.groove {
  fill: none;
  stroke: var(--paper);
  stroke-width: 2;
}
.received {
  stroke: var(--fjord);
  stroke-width: 1.8;
}
.ring {
  fill: var(--paper);
  stroke: var(--fjord);
  stroke-width: 2;
}
.ring.made {
  fill: var(--fjord);
}
.legend {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  padding: 2px 0 8px 76px;
  margin: 0;
}
.legend svg {
  display: inline-block;
  vertical-align: -1px;
}
</style>
