<script setup lang="ts">
import { useRoute, useRouter } from 'vue-router'
import { usePart } from '../../composables/usePart.ts'
import { useShowActivity } from '../../composables/useShowActivity.ts'
import PartedStage from '../../controls/PartedStage.vue'
import { useCalendars } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import ChainPart from './ChainPart.vue'
import CrashPart from './CrashPart.vue'
import EstimatesPart from './EstimatesPart.vue'
import PertPart from './PertPart.vue'
import RisksPart from './RisksPart.vue'
import SimulationPart from './SimulationPart.vue'

const PARTS = [
  ['estimates', 'Estimates'],
  ['risks', 'Risks'],
  ['pert', 'PERT'],
  ['simulation', 'Simulation'],
  ['crash', 'Crashing'],
  ['chain', 'Critical chain'],
] as const

const plans = usePlanStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.viewPlan)
const { part, go } = usePart('forecast', PARTS, 'simulation')
const show = useShowActivity()
const toScenario = (id: string): void =>
  void router.push({ name: 'scenarios', params: { id: route.params.id as string }, query: { of: id } })
</script>

<template>
  <PartedStage label="Parts of the forecast" :part="part" :parts="PARTS" @go="go">
    <SimulationPart v-if="part === 'simulation'" />
    <template v-else-if="calendars && plans.view">
      <EstimatesPart v-if="part === 'estimates'" :calendars="calendars" @show="show" />
      <RisksPart v-else-if="part === 'risks'" :calendars="calendars" @show="show" />
      <PertPart v-else-if="part === 'pert'" :calendars="calendars" @show="show" />
      <ChainPart v-else-if="part === 'chain'" :calendars="calendars" @show="show" @scenario="toScenario" />
      <CrashPart v-else :calendars="calendars" @show="show" @scenario="toScenario" />
    </template>
  </PartedStage>
</template>
