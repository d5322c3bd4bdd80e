<script setup lang="ts">
import { usePart } from '../../composables/usePart.ts'
import PartedStage from '../../controls/PartedStage.vue'
import FootLine from '../../frame/FootLine.vue'
import { account } from '../../stores/account.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import ChangesPart from './ChangesPart.vue'
import FilesPart from './FilesPart.vue'
import PeoplePart from './PeoplePart.vue'
import ReportPart from './ReportPart.vue'
import SharePart from './SharePart.vue'

const PARTS = [
  ['report', 'Report'],
  ['share', 'Share'],
  // Where nobody signs in, nobody is given a part.
  ...(account.value === null ? [] : ([['people', 'People']] as const)),
  ['files', 'Files'],
  ['changes', 'Changes'],
] as const

const plans = usePlanStore()
const { part, go } = usePart('handover', PARTS, 'report')
</script>

<template>
  <PartedStage label="Parts of the handover" :part="part" :parts="PARTS" @go="go">
    <ReportPart v-if="part === 'report'" />
    <SharePart v-else-if="part === 'share'" />
    <PeoplePart v-else-if="part === 'people'" />
    <FilesPart v-else-if="part === 'files'" />
    <ChangesPart v-else />
  </PartedStage>
  <FootLine
    ><span>Revision {{ plans.revision }}</span></FootLine
  >
</template>
