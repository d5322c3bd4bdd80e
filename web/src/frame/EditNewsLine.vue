<script setup lang="ts">
import { X } from '@lucide/vue'
import ActButton from '../controls/ActButton.vue'
import IconButton from '../controls/IconButton.vue'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { finishWords } from '../composables/finishWords.ts'
import { useCalendars } from '../composables/useCalendars.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useUiStore } from '../stores/uiStore.ts'
import EffectPanel from './EffectPanel.vue'

const plans = usePlanStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const calendars = useCalendars(() => plans.plan)

/** Whether every float that changed is listed: over the part at which it was asked for, and of the edit that was last then. */
const isOpen = ref(false)
watch([() => plans.news, () => route.path], () => (isOpen.value = false))

const finish = computed(() => {
  const { news } = plans
  return !news || news.finishBefore === null || news.finishAfter === null || !calendars.value
    ? ''
    : finishWords(news.finishBefore, news.finishAfter, calendars.value)
})
const consequences = computed(() => {
  const effect = plans.news?.effect
  if (!effect) return []
  const { joinedLongestPath: joined, leftLongestPath: left } = effect
  const words = [
    joined + left === 0 ? 'longest path unchanged' : `longest path: ${joined} joined, ${left} left`,
  ]
  if (effect.moved > 0) words.push(`${effect.moved} moved`)
  if (effect.lostFloat > 0) words.push(`${effect.lostFloat} lost float`)
  if (effect.gainedFloat > 0) words.push(`${effect.gainedFloat} gained float`)
  return words
})
const touchesAny = computed(() => plans.news?.effect?.touched.includes(1) ?? false)
const showThem = async (): Promise<void> => {
  const touched = plans.news?.effect?.touched
  const ids = new Set(plans.viewPlan?.activities.filter((_, i) => touched?.[i] === 1).map((a) => a.id))
  ui.filter = { ids, reason: 'touched by the last edit' }
  await router.push({ name: 'network', params: route.params })
}
const isOwnLast = computed(
  () => plans.news?.uid != null && plans.stacks.undo.length + plans.stacks.redo.length > 0,
)
</script>

<template>
  <div v-if="plans.news" class="news" role="status" data-test="news">
    <strong>{{ plans.news.author ? `${plans.news.author}: ` : '' }}{{ plans.news.label }}</strong>
    <span data-test="news-effect">{{ [finish, ...consequences].filter(Boolean).join(' · ') }}</span>
    <ActButton
      kind="bare"
      v-if="plans.news.offer"
      class="act"
      data-test="news-offer"
      title="The work stayed; a day of the new calendar has another length"
      @click="plans.edit(plans.news.offer.change)"
    >
      {{ plans.news.offer.label }}
    </ActButton>
    <ActButton
      kind="bare"
      v-if="touchesAny && plans.news.before"
      class="act"
      :aria-expanded="isOpen"
      @click="isOpen = !isOpen"
    >
      By how much
    </ActButton>
    <ActButton kind="bare" v-if="touchesAny" class="act" @click="showThem">Show them</ActButton>
    <ActButton kind="bare" v-if="isOwnLast && plans.stacks.undo.length > 0" class="act" @click="plans.undo()">
      Undo
    </ActButton>
    <ActButton kind="bare" v-if="plans.stacks.redo.length > 0" class="act" @click="plans.redo()"
      >Redo</ActButton
    >
    <IconButton :icon="X" class="act close" label="Put this line away" @click="plans.news = null" />
    <EffectPanel v-if="isOpen && plans.news.before" :before="plans.news.before" @close="isOpen = false" />
  </div>
</template>

<style scoped>
.news {
  position: relative;
  display: flex;
  align-items: center;
  gap: 4px 16px;
  min-height: 30px;
  padding: 3px 18px;
  background: var(--wash);
  border-bottom: 1px solid var(--hairline);
  flex: none;
}
strong {
  max-width: 46%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.act {
  border-bottom: 1.5px dotted var(--ink);
  min-height: 22px;
  white-space: nowrap;
}
.close {
  margin-left: auto;
  border: 0;
  padding: 0 8px;
  font-size: 16px;
}
</style>
