<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAttempt } from '../../composables/useAttempt.ts'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { signIn } from '../../stores/account.ts'
import DoorPage from './DoorPage.vue'

const route = useRoute()
const router = useRouter()
const { problem, attemptLater } = useAttempt()
const name = ref('')
const password = ref('')
/** Where they were going; a page of ours, whatever the address says. */
const aim = (): string => {
  const to = String(route.query.to ?? '/')
  return /^\/(?![/\\])/.test(to) ? to : '/'
}
const go = (): void =>
  attemptLater(async () => {
    await signIn(name.value, password.value)
    await router.push(aim())
  })
</script>

<template>
  <DoorPage title="Who is it?" @go="go">
    <label>Name <TextField v-model="name" maxlength="100" autocomplete="username" autofocus /></label>
    <label>Password <TextField v-model="password" secret autocomplete="current-password" /></label>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p>
      <ActButton kind="primary" type="submit" :disabled="name.trim() === '' || password === ''"
        >Sign in</ActButton
      >
    </p>
    <p class="soft">
      No account, or the password is lost? An administrator of this server gives you a link to choose one.
    </p>
  </DoorPage>
</template>
