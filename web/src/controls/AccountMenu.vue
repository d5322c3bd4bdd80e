<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { account, signOut } from '../stores/account.ts'
import MenuButton from './MenuButton.vue'

/** Who is signed in, and what they can do about it; nothing where people do not sign in. */
const router = useRouter()
const options = computed(() => [
  ...(account.value?.administrator ? [{ key: 'accounts' as const, label: 'Who signs in here' }] : []),
  { key: 'out' as const, label: 'Sign out' },
])
const choose = (key: 'accounts' | 'out'): void =>
  void (key === 'out' ? signOut() : router.push({ name: 'accounts' }))
</script>

<template>
  <span v-if="account" class="account">
    <MenuButton
      :label="`${account.name}, signed in`"
      :options="options"
      data-test="account"
      @choose="choose"
      >{{ account.name }}</MenuButton
    >
  </span>
</template>

<style scoped>
.account {
  font-size: 12.5px;
  color: var(--soft-ink);
  overflow-wrap: anywhere;
}
</style>
