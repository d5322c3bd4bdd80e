<script setup lang="ts">
import { usePart } from '../../composables/usePart.ts'
import PartTabs from '../../controls/PartTabs.vue'
import { optionsOf } from '../../controls/options.ts'
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
  <div class="handover">
    <div class="parts">
      <PartTabs
        label="Parts of the handover"
        :model-value="part"
        :parts="optionsOf(PARTS)"
        @update:model-value="go"
      />
    </div>
    <ReportPart v-if="part === 'report'" />
    <SharePart v-else-if="part === 'share'" />
    <PeoplePart v-else-if="part === 'people'" />
    <FilesPart v-else-if="part === 'files'" />
    <ChangesPart v-else />
  </div>
  <FootLine
    ><span>Revision {{ plans.revision }}</span></FootLine
  >
</template>

<style scoped>
.handover {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.parts {
  padding: 4px 18px 0;
  border-bottom: 1px solid var(--hairline);
}
@media print {
  .handover {
    display: block;
  }
  .parts {
    display: none;
  }
}
</style>
