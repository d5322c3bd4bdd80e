<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import { mayDo, ROLE_NAMES, ROLES, type PlanPeople, type Role } from '@geodrome/core'
import { api } from '../../api/client.ts'
import { useAttempt } from '../../composables/useAttempt.ts'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import { optionsByName, type Choice } from '../../controls/options.ts'
import { account } from '../../stores/account.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** Who has a part in the plan, and what each may do in it. */
const plans = usePlanStore()
const { problem, attemptLater } = useAttempt()
const told = shallowRef<PlanPeople | null>(null)
const load = async (): Promise<void> => void (told.value = await api.people(plans.planId!))
onMounted(() => attemptLater(load))

const mayGive = computed(() => mayDo(plans.role, 'manage'))
const roles: readonly Choice<Role>[] = ROLE_NAMES.map((name) => ({ value: name, label: ROLES[name].words }))
const who = ref<string | null>(null)
const role = ref<Role>('analyst')
const give = (id: string, as: Role | null): void =>
  attemptLater(async () => {
    try {
      await api.giveRole(plans.planId!, id, as)
      if (who.value === id) who.value = null
    } finally {
      // Where it was refused the choice shows again what it is.
      told.value = null
      await load()
    }
  })
const isMe = (id: string): boolean => id === account.value?.id
</script>

<template>
  <section class="people scroll">
    <div class="who">
      <h1>Who has a part in this plan</h1>
      <p v-if="told === null && !problem" class="soft">Reading them …</p>
      <p v-else-if="told?.people.length === 0" class="soft">
        Nobody yet: it is seen by the administrators of this server only.
      </p>
      <FactTable v-else-if="told" data-test="plan-people">
        <thead>
          <tr>
            <th>Name</th>
            <th>Is</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in told.people" :key="one.id">
            <td>
              <strong>{{ one.name }}</strong><span v-if="isMe(one.id)" class="soft">, you</span>
            </td>
            <td class="role">
              <ChoiceField
                v-if="mayGive"
                :model-value="one.role"
                :label="`What ${one.name} is`"
                :options="roles"
                @update:model-value="give(one.id, $event)"
              />
              <template v-else>{{ ROLES[one.role].words }}</template>
            </td>
            <td class="right">
              <ActButton
                v-if="mayGive"
                kind="bare"
                class="soft"
                :aria-label="`Take the part in the plan from ${one.name}`"
                @click="give(one.id, null)"
                >Take away</ActButton
              >
            </td>
          </tr>
        </tbody>
      </FactTable>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <template v-if="mayGive && told">
        <div v-if="told.others.length > 0" class="new">
          <ChoiceField
            v-model="who"
            label="Somebody else"
            placeholder="somebody else"
            :options="optionsByName(told.others)"
          />
          <ChoiceField v-model="role" label="What they will be" :options="roles" />
          <ActButton kind="primary" :disabled="who === null" data-test="give-part" @click="give(who!, role)"
            >Give a part in it</ActButton
          >
        </div>
        <p v-else class="soft">Everybody who signs in here has a part in it.</p>
        <p v-if="account?.administrator" class="soft">
          Somebody new is invited under <RouterLink class="noun" to="/accounts">Accounts</RouterLink>.
        </p>
      </template>
      <p v-else-if="told" class="soft">Its administrators say who has a part in it.</p>
    </div>
    <div class="may">
      <h2>What each may do</h2>
      <dl>
        <template v-for="name in ROLE_NAMES" :key="name">
          <dt>{{ ROLES[name].words }}</dt>
          <dd>{{ ROLES[name].may }}</dd>
        </template>
      </dl>
      <p class="soft">
        Who changes something signs with their account. Who has no part in a plan is told nothing of it, not
        that there is one; for those who do not sign in there are links, under Share.
      </p>
    </div>
  </section>
</template>

<style scoped>
.people {
  flex: 1;
  min-height: 0;
  padding: 20px 28px;
  display: grid;
  grid-template-columns: minmax(440px, 1fr) minmax(260px, 380px);
  gap: 48px;
  align-content: start;
}
.who,
.may {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.role {
  width: 190px;
}
.new {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 190px auto;
  gap: 12px;
  align-items: center;
}
dl {
  margin: 0;
  display: grid;
  gap: 2px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0 0 10px;
}
</style>
