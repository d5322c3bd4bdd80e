<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { counted, type MadeInvitation, type PersonAccount } from '@geodrome/core'
import { api } from '../../api/client.ts'
import { momentWords } from '../../composables/momentWords.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import OnceShown from '../../controls/OnceShown.vue'
import TextField from '../../controls/TextField.vue'
import TickBox from '../../controls/TickBox.vue'
import { account } from '../../stores/account.ts'

/** Who signs in at this server: invited by a link that is given to them, closed when they leave. */
const { problem, attemptLater } = useAttempt()
const accounts = shallowRef<readonly PersonAccount[] | null>(null)
const made = shallowRef<MadeInvitation | null>(null)
const name = ref('')
const isAdministrator = ref(false)

const load = async (): Promise<void> => void (accounts.value = await api.accounts())
onMounted(() => attemptLater(load))
const invite = (): void =>
  attemptLater(async () => {
    made.value = await api.invite(name.value, isAdministrator.value)
    name.value = ''
    isAdministrator.value = false
    await load()
  })
const linkFor = ({ id }: PersonAccount): void =>
  attemptLater(async () => {
    made.value = await api.welcomeAgain(id)
    await load()
  })
const change = (of: PersonAccount, what: Parameters<typeof api.changeAccount>[1]): void =>
  attemptLater(async () => {
    await api.changeAccount(of.id, what)
    if (made.value?.id === of.id) made.value = null
    await load()
  })
const address = computed(() => (made.value ? `${location.origin}/welcome#${made.value.token}` : ''))
const STATES = {
  invited: 'has not come in yet',
  open: 'signs in',
  closed: 'may not sign in any more',
} as const
const isMe = ({ id }: PersonAccount): boolean => id === account.value?.id
</script>

<template>
  <main class="accounts scroll">
    <div class="column">
      <RouterLink class="noun" to="/">All plans</RouterLink>
      <h1>Who signs in here</h1>
      <p class="soft lead">
        Everybody makes plans of their own and sees those in which they were given a part, in Handover under
        People. Administrators see every plan, and this page.
      </p>
      <form class="new" @submit.prevent="invite">
        <label
          >Somebody new <TextField v-model="name" maxlength="100" placeholder="what they are called"
        /></label>
        <TickBox v-model="isAdministrator">administrator of this server</TickBox>
        <ActButton kind="primary" type="submit" :disabled="name.trim() === ''" data-test="invite"
          >Invite</ActButton
        >
      </form>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <OnceShown v-if="made" :address="address" data-test="invitation"
        >Give this link to {{ made.name }}, who chooses a password by it, once, until
        {{ momentWords(made.until) }}.</OnceShown
      >
      <p v-if="accounts === null && !problem" class="soft">Reading them …</p>
      <FactTable v-if="accounts" data-test="accounts">
        <thead>
          <tr>
            <th>Name</th>
            <th>Is</th>
            <th>Plans</th>
            <th>Last seen</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in accounts" :key="one.id" :class="{ soft: one.state === 'closed' }">
            <td>
              <strong>{{ one.name }}</strong><span v-if="isMe(one)" class="soft">, you</span>
            </td>
            <td>{{ STATES[one.state] }}{{ one.administrator ? ', administrator' : '' }}</td>
            <td>
              {{ one.administrator ? 'every plan' : one.plans === 0 ? 'none' : counted(one.plans, 'plan') }}
            </td>
            <td>{{ one.seenAt === null ? 'never' : momentWords(one.seenAt) }}</td>
            <td class="acts">
              <template v-if="one.state !== 'closed'">
                <ActButton
                  kind="bare"
                  class="soft"
                  :aria-label="`A link for ${one.name} to choose a password`"
                  @click="linkFor(one)"
                  >{{ one.state === 'invited' ? 'Invite again' : 'New password' }}</ActButton
                >
                <ActButton
                  v-if="!isMe(one)"
                  kind="bare"
                  class="soft"
                  :aria-label="`${one.administrator ? 'Administrator no longer' : 'Make administrator'}: ${one.name}`"
                  @click="change(one, { administrator: !one.administrator })"
                  >{{ one.administrator ? 'Administrator no longer' : 'Make administrator' }}</ActButton
                >
              </template>
              <ActButton
                v-if="!isMe(one)"
                kind="bare"
                class="soft"
                :aria-label="`${one.state === 'closed' ? 'Open again' : 'Close'}: ${one.name}`"
                @click="change(one, { closed: one.state !== 'closed' })"
                >{{ one.state === 'closed' ? 'Open again' : 'Close' }}</ActButton
              >
            </td>
          </tr>
        </tbody>
      </FactTable>
    </div>
  </main>
</template>

<style scoped>
.accounts {
  height: 100%;
  padding: 48px 40px;
}
.column {
  max-width: 920px;
  margin: 0 auto;
  display: flex;
  flex-direction: column;
  gap: 18px;
  align-items: flex-start;
}
.column > table,
.column > .once {
  width: 100%;
}
.lead {
  max-width: 560px;
}
.new {
  display: flex;
  gap: 18px;
  align-items: flex-end;
}
.new label {
  display: flex;
  flex-direction: column;
  gap: 3px;
  width: 280px;
  font-weight: 600;
}
td {
  vertical-align: baseline;
}
.acts {
  text-align: right;
  white-space: nowrap;
}
.acts > * + * {
  margin-left: 14px;
}
</style>
