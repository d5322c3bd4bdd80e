<script setup lang="ts">
import { computed, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useCalendarDraft } from '../stores/calendarDraft.ts'
import { useListStore } from '../panes/rows/listStore.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'
import ChangeList from './ChangeList.vue'
import CommandPalette from './CommandPalette.vue'
import RemovedPanel from './RemovedPanel.vue'
import ConflictPanel from './ConflictPanel.vue'
import CourseRail from './CourseRail.vue'
import EditNewsLine from './EditNewsLine.vue'
import GuideCard from './GuideCard.vue'
import HeadLine from './HeadLine.vue'
import KeptLine from './KeptLine.vue'
import RoleLine from './RoleLine.vue'
import SignInAgain from './SignInAgain.vue'
import ShortcutSheet from './ShortcutSheet.vue'
import UnscheduledPanel from './UnscheduledPanel.vue'
import { useCommandKeys } from '../commands/useCommandKeys.ts'
import { useFrameCommands } from './useFrameCommands.ts'

const route = useRoute()
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const draft = useCalendarDraft()
const id = computed(() => String(route.params.id))
watch(
  id,
  (next) => {
    if (plans.planId !== next) {
      ui.leavePlan()
      list.leavePlan()
      draft.look(null)
    }
    void plans.open(next)
  },
  { immediate: true },
)
useFrameCommands()
useCommandKeys()
</script>

<template>
  <div class="frame">
    <CourseRail />
    <div class="body">
      <HeadLine />
      <GuideCard v-if="route.name === 'network'" />
      <EditNewsLine />
      <KeptLine />
      <RoleLine />
      <RemovedPanel v-if="plans.status === 'removed'" />
      <ConflictPanel v-if="plans.setAside.length > 0" />
      <main v-if="(plans.status === 'open' || plans.status === 'removed') && plans.view" class="stage">
        <RouterView />
      </main>
      <main v-else-if="plans.status === 'open' && plans.unscheduled" class="stage scroll">
        <UnscheduledPanel />
      </main>
      <main v-else class="stage waiting" aria-live="polite">
        <template v-if="plans.status === 'failed'">
          <h1>This plan could not be opened</h1>
          <p class="soft">
            {{ plans.failure }}. <RouterLink class="noun" to="/">Back to the plans</RouterLink>
          </p>
        </template>
        <p v-else-if="plans.status === 'removed'" class="soft">
          <RouterLink class="noun" to="/">Back to the plans</RouterLink>
        </p>
        <p v-else class="soft">Opening the plan …</p>
      </main>
    </div>
    <CommandPalette />
    <ShortcutSheet />
    <ChangeList />
    <SignInAgain />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: 112px minmax(0, 1fr);
  height: 100%;
}
.body {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  border-left: 1px solid var(--hairline);
}
.stage {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.waiting {
  padding: 40px;
  gap: 8px;
}
/* On paper only the page itself: no rail, no head, no foot. */
@media print {
  .frame {
    display: block;
    height: auto;
  }
  .body {
    border: none;
  }
  .frame :deep(.rail),
  .frame :deep(.headline),
  .frame :deep(.news),
  .frame :deep(.kept .n-button),
  .frame :deep(.foot) {
    display: none;
  }
}
</style>
