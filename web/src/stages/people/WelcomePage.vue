<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { LEAST_PASSWORD, type Welcome } from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { accept } from '../../stores/account.ts'
import DoorPage from './DoorPage.vue'

/** Somebody opens their link: they choose a password; the first administrator says who they are as well. */
const route = useRoute()
const router = useRouter()
const { problem, attemptLater } = useAttempt()
const welcome = shallowRef<Welcome | null>(null)
const name = ref('')
const password = ref('')
const again = ref('')
const token = route.hash.slice(1)
onMounted(() => attemptLater(async () => void (welcome.value = await api.welcome(token))))

const isFirst = computed(() => welcome.value !== null && welcome.value.name === null)
const title = computed(() =>
  welcome.value === null
    ? problem.value === ''
      ? 'One moment …'
      : 'This link opens nothing'
    : isFirst.value
      ? 'Who looks after this server?'
      : welcome.value.again
        ? `A new password, ${welcome.value.name}`
        : `Welcome, ${welcome.value.name}`,
)
const missing = computed(() => {
  if (isFirst.value && name.value.trim() === '') return 'Say what you are called.'
  if (password.value.length < LEAST_PASSWORD) return `At least ${LEAST_PASSWORD} letters; a sentence is best.`
  if (again.value !== password.value) return 'Type it a second time, the same.'
  return ''
})
const go = (): void => {
  if (missing.value !== '') return
  attemptLater(async () => {
    await accept(token, password.value, isFirst.value ? name.value : undefined)
    await router.push(isFirst.value ? { name: 'accounts' } : '/')
  })
}
</script>

<template>
  <DoorPage :title="title" @go="go">
    <template v-if="welcome">
      <p v-if="isFirst" class="soft">
        You are its administrator: you invite the others, and see every plan. What you are called stands under
        what you change.
      </p>
      <label v-if="isFirst"
        >What you are called <TextField v-model="name" maxlength="100" autocomplete="username" autofocus
      /></label>
      <input
        v-else
        class="sr"
        :value="welcome.name"
        autocomplete="username"
        tabindex="-1"
        aria-hidden="true"
        readonly
      />
      <label>Password <TextField v-model="password" secret autocomplete="new-password" /></label>
      <label>The same again <TextField v-model="again" secret autocomplete="new-password" /></label>
      <p class="soft" role="status">{{ missing }}</p>
      <p><ActButton kind="primary" type="submit" :disabled="missing !== ''">Come in</ActButton></p>
    </template>
    <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
    <p v-if="!welcome && problem">
      <RouterLink class="noun" to="/sign-in">Sign in</RouterLink>
    </p>
  </DoorPage>
</template>
