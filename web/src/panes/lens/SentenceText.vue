<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import type { Sentence } from '@geodrome/core'
import { useRoute, useRouter } from 'vue-router'
import { useUiStore } from '../../stores/uiStore.ts'

defineProps<{ sentence: Sentence }>()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
/** Every noun leads to what it names. */
const openActivity = async (id: string): Promise<void> => {
  ui.filter = null
  if (route.name !== 'network') await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}
const openCalendar = (id: string): void =>
  void router.push({ name: 'calendars', params: route.params, query: { calendar: id } })
</script>

<template>
  <template v-for="(part, k) in sentence" :key="k">
    <template v-if="typeof part === 'string'">{{ part }}</template>
    <strong v-else-if="'strong' in part">{{ part.strong }}</strong>
    <ActButton kind="noun" v-else-if="'activity' in part" @click="openActivity(part.activity)">
      {{ part.text }}
    </ActButton>
    <ActButton kind="noun" v-else @click="openCalendar(part.calendar)">{{ part.text }}</ActButton>
  </template>
</template>
