<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed } from 'vue'
import { counted, doneTogether } from '@geodrome/core'
import { usePart } from '../../composables/usePart.ts'
import { useShowActivity } from '../../composables/useShowActivity.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import ActButton from '../../controls/ActButton.vue'
import PartedStage from '../../controls/PartedStage.vue'
import { useCalendars } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { usePlanStore } from '../../stores/planStore.ts'
import BaselinesPart from './BaselinesPart.vue'
import LookAheadPart from './LookAheadPart.vue'
import PeriodsPart from './PeriodsPart.vue'
import PromisesPart from './PromisesPart.vue'
import UpdatePart from './UpdatePart.vue'
import VariancePart from './VariancePart.vue'

const PARTS = [
  ['update', 'Update'],
  ['variance', 'Variance'],
  ['baselines', 'Baselines'],
  ['periods', 'Periods'],
  ['promises', 'Promises'],
  ['ahead', 'Look-ahead'],
] as const

const plans = usePlanStore()
const calendars = useCalendars(() => plans.viewPlan)
const { part, go } = usePart('progress', PARTS, 'update')
const show = useShowActivity()
const finished = computed(
  () => plans.viewPlan?.activities.filter(({ progress }) => progress.actualFinish !== null).length ?? 0,
)
const { answer: done } = useQuestion('done', () => ({}))
const share = computed(() => done.value && doneTogether(done.value, done.value.share.keys()))
const { problem, attempt } = useAttempt()
const WEIGHTINGS = [
  { key: 'duration', label: 'duration' },
  { key: 'work', label: 'hours of people' },
  { key: 'cost', label: 'cost' },
  { key: 'count', label: 'number of activities' },
]
const weighting = computed(
  () => WEIGHTINGS.find(({ key }) => key === plans.viewPlan?.project.weighting)?.label ?? 'duration',
)
const weigh = (weighting: string): void =>
  void attempt(() => plans.edit({ kind: 'project', set: { weighting } }))
</script>

<template>
  <PartedStage label="Parts of progress" :part="part" :parts="PARTS" @go="go">
    <template v-if="calendars && plans.view">
      <UpdatePart v-if="part === 'update'" :calendars="calendars" @show="show" />
      <VariancePart
        v-else-if="part === 'variance'"
        :calendars="calendars"
        @show="show"
        @freeze="go('baselines')"
      />
      <BaselinesPart v-else-if="part === 'baselines'" :calendars="calendars" />
      <PeriodsPart v-else-if="part === 'periods'" :calendars="calendars" @show="show" />
      <LookAheadPart v-else-if="part === 'ahead'" :calendars="calendars" @show="show" />
      <PromisesPart v-else :calendars="calendars" @show="show" />
    </template>
  </PartedStage>
  <FootLine>
    <span
      >{{ counted(plans.viewPlan?.activities.length ?? 0, 'activity') }}: {{ finished }} finished,
      {{ (plans.viewPlan?.activities.length ?? 0) - finished }} to go</span
    >
    <span data-test="done"
      >{{ share === null ? 'nothing to weigh' : `${Math.floor(share * 100)} % done` }}, by
      <NDropdown trigger="click" :options="WEIGHTINGS" @select="weigh">
        <ActButton kind="noun" aria-haspopup="menu" aria-label="By what activities are weighed together"
          >{{ weighting }} ▾</ActButton
        >
      </NDropdown>
      <span v-if="problem" class="brick" role="alert">{{ problem }}</span></span
    >
    <span
      >{{ counted(plans.viewPlan?.baselines.length ?? 0, 'baseline') }},
      {{ counted(plans.viewPlan?.periods.length ?? 0, 'period') }}</span
    >
  </FootLine>
</template>
