import { computed, ref, shallowRef } from 'vue'
import type { Me } from '@geodrome/core'
import { api, asksAs } from '../api/client.ts'

/** Who asks, as the server says; null until it has said. */
export const me = shallowRef<Me | null>(null)
/** Who is signed in here; null where nobody is, or where nobody signs in at all. */
export const account = computed(() => me.value?.account ?? null)
/** Whether who was signed in here is not any more: what they do waits until they are again. */
export const isSignedOut = ref(false)
/** Whether nothing can be looked at before somebody signs in. */
export const mustSignIn = computed(() => me.value !== null && me.value.people && account.value === null)

const take = (told: Me): void => {
  me.value = told
  isSignedOut.value = false
  asksAs(told.account?.id ?? null)
}

/** Asks who it is. In a page where somebody works, somebody else takes nothing over: they are signed out there. */
export const loadMe = async (): Promise<void> => {
  const told = await api.me()
  if (account.value === null || told.account?.id === account.value.id) take(told)
  else isSignedOut.value = true
}
/** @throws Error with why not */
export const signIn = async (name: string, password: string): Promise<void> =>
  take(await api.signIn(name, password))
/** Chooses a password by a link, and signs in. @throws Error with why not */
export const accept = async (token: string, password: string, name?: string): Promise<void> =>
  take(await api.acceptWelcome(token, password, name))
/** Signs out here, and begins anew: nothing of whoever it was stays in view. */
export const signOut = async (): Promise<void> => {
  if (!isSignedOut.value) await api.signOut()
  window.location.assign('/sign-in')
}

/** The server said that who asks is not signed in. */
export const noticeSignedOut = (): void => {
  if (account.value !== null) isSignedOut.value = true
}
