import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, onSignInOver, type Schemas } from './api/client'

export const useSession = defineStore('session', () => {
  const who = ref<Schemas['SessionView'] | null>(null)
  /** A sign-in ended in the middle of something: the page waits beneath a dialog. */
  const isOver = ref(false)
  let goOn: (() => void)[] = []

  const isSignedIn = computed(() => !!who.value?.name)
  const may = (act: string): boolean => who.value?.acts.includes(act) ?? false

  async function load(): Promise<void> {
    who.value = await api<Schemas['SessionView']>('/api/v1/session')
  }

  async function signIn(name: string, password: string, code: string | null): Promise<void> {
    who.value = await api<Schemas['SessionView']>('/api/v1/session', {
      method: 'POST',
      body: { name, password, code: code || null }
    })
    isOver.value = false
    goOn.forEach((one) => one())
    goOn = []
  }

  async function welcome(link: string, password: string): Promise<void> {
    who.value = await api<Schemas['SessionView']>('/api/v1/session/link', {
      method: 'POST',
      body: { link, password }
    })
  }

  async function signOut(): Promise<void> {
    await api('/api/v1/session', { method: 'DELETE' })
    who.value = null
  }

  onSignInOver(() => {
    isOver.value = true
    return new Promise((resolve) => goOn.push(resolve))
  })

  return { who, isOver, isSignedIn, may, load, signIn, welcome, signOut }
})
