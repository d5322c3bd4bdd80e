<script setup lang="ts">
import { NModal } from 'naive-ui'
import { ref } from 'vue'
import { counted } from '@geodrome/core'
import { useAttempt } from '../composables/useAttempt.ts'
import ActButton from '../controls/ActButton.vue'
import TextField from '../controls/TextField.vue'
import { account, isSignedOut, signIn, signOut } from '../stores/account.ts'
import { usePlanStore } from '../stores/planStore.ts'

/** Who works here is not signed in any more: they are again by their password, and go on where they were. */
const plans = usePlanStore()
const { problem, attemptLater } = useAttempt()
const password = ref('')
const go = (): void =>
  attemptLater(async () => {
    try {
      await signIn(account.value!.name, password.value)
    } finally {
      password.value = ''
    }
    await plans.catchUp()
  })
</script>

<template>
  <NModal
    class="again"
    preset="card"
    :show="isSignedOut"
    :closable="false"
    :mask-closable="false"
    :close-on-esc="false"
    :style="{ width: '440px' }"
    aria-label="Sign in again"
  >
    <form @submit.prevent="go">
      <h2>You are not signed in any more</h2>
      <p>
        It was too long ago, you signed out in another tab, or somebody else signed in there.
        <template v-if="plans.pending.length > 0">
          {{ counted(plans.pending.length, 'change') }} of yours
          {{ plans.pending.length === 1 ? 'waits' : 'wait' }} here, and
          {{ plans.pending.length === 1 ? 'is' : 'are' }} stored when you are back.
        </template>
      </p>
      <input
        class="sr"
        :value="account?.name"
        autocomplete="username"
        tabindex="-1"
        aria-hidden="true"
        readonly
      />
      <label
        >Password of {{ account?.name }}
        <TextField v-model="password" secret autocomplete="current-password" autofocus
      /></label>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <p class="acts">
        <ActButton kind="primary" type="submit" :disabled="password === ''">Sign in again</ActButton>
        <ActButton @click="attemptLater(signOut)">Somebody else</ActButton>
      </p>
    </form>
  </NModal>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
}
label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
}
.acts {
  display: flex;
  gap: 12px;
}
</style>
