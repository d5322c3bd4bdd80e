<script setup lang="ts">
import { computed } from 'vue'
import {
  agreedFinishOf,
  baselineOf,
  counted,
  doneTogether,
  durationWords,
  instantOf,
  instantWords,
} from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** The plan in figures: how long in each way of counting, how much work, what it costs, what is done. */
const plans = usePlanStore()
const calendars = useCalendars(() => plans.viewPlan)

const { answer: done } = useQuestion('done', () => ({}))
const WEIGHED = {
  duration: 'by duration',
  work: 'by hours of people',
  cost: 'by cost',
  count: 'each counting the same',
} as const
const figures = computed((): readonly (readonly [string, string])[] => {
  const { viewPlan: plan, view } = plans
  if (!plan || !view || !calendars.value) return []
  const { project, projectLengths } = calendars.value
  const worked = project.countBefore(view.projectFinish) - project.countBefore(view.projectStart)
  const days = Math.ceil((view.projectFinish - view.projectStart) / 1440)
  let [work, fixed] = [0, 0]
  for (const a of plan.activities) {
    if (a.kind === 'work') work += a.duration
    fixed += a.cost.fixed
  }
  const found: [string, string][] = [
    ['Working time', durationWords(worked, projectLengths)],
    ['Calendar days', counted(days, 'calendar day')],
    [
      'In weeks',
      days < 7
        ? counted(days, 'calendar day')
        : `${counted(Math.floor(days / 7), 'week')}${days % 7 === 0 ? '' : ` and ${counted(days % 7, 'calendar day')}`}`,
    ],
    [
      'Work in all',
      `${Math.round(work / 60).toLocaleString('en')} h in ${counted(plan.activities.filter((a) => a.kind === 'work').length, 'activity')}`,
    ],
  ]
  const share = done.value && doneTogether(done.value, done.value.share.keys())
  if (share) found.push(['Done', `${Math.floor(share * 100)} %, ${WEIGHED[plan.project.weighting]}`])
  if (fixed !== 0) found.push(['Fixed costs', `${fixed.toLocaleString('en')} ${plan.project.currency}`])
  if (plan.project.requiredFinish !== null) {
    const spare =
      project.countBefore(instantOf(plan.project.requiredFinish, 'finish')) -
      project.countBefore(view.projectFinish)
    found.push([
      'To the required finish',
      spare < 0
        ? `${durationWords(-spare, projectLengths)} short`
        : `${durationWords(spare, projectLengths)} to spare`,
    ])
  }
  const baseline = baselineOf(plan)
  found.push(['Compared with', baseline ? baseline.name || 'a baseline without a name' : 'no baseline yet'])
  const agreed = baseline && agreedFinishOf(plan, baseline)
  if (agreed !== null) {
    const by = project.countBefore(view.projectFinish) - project.countBefore(agreed)
    found.push(
      ['Agreed finish', instantWords(agreed, 'finish')],
      [
        'Against it',
        by === 0
          ? 'as agreed'
          : `${durationWords(Math.abs(by), projectLengths)} ${by > 0 ? 'later' : 'earlier'}`,
      ],
    )
  }
  return found
})
</script>

<template>
  <section class="figures">
    <h2>The plan in figures</h2>
    <dl>
      <template v-for="[name, value] in figures" :key="name"
        ><dt>{{ name }}</dt>
        <dd>{{ value }}</dd></template
      >
    </dl>
  </section>
</template>

<style scoped>
.figures {
  margin-bottom: 26px;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 16px;
  margin: 10px 0 0;
  border-top: 1.5px solid var(--ink);
  padding-top: 8px;
}
dt {
  color: var(--soft-ink);
}
dd {
  margin: 0;
  text-align: right;
  font-weight: 600;
}
</style>
