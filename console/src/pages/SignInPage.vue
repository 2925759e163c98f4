<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useClock } from '../clock'
import ProblemNote from '../parts/ProblemNote.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'

const session = useSession()
const clock = useClock()
const route = useRoute()
const router = useRouter()
const name = ref('')
const password = ref('')
const code = ref('')
const needsCode = ref(false)
const { isBusy, trouble, run } = useAct()

onMounted(() => {
  document.title = 'Sign in · Ebb'
  void session.load().catch(() => undefined)
})

async function signIn(): Promise<void> {
  await run(() => session.signIn(name.value.trim(), password.value, code.value))
  if (trouble.value?.code === 'code-needed') {
    needsCode.value = true
    return
  }
  if (trouble.value) return
  void clock.load()
  const to = route.query.to
  // Only to our own pages: an address with a host would lead elsewhere.
  await router.push(typeof to === 'string' && /^\/(?!\/)/.test(to) ? to : '/now')
}
</script>

<template>
  <main class="gate">
    <section>
      <h1>Ebb</h1>
      <p class="soft">Everybody's accounts, right in every application.</p>
      <form class="fields" @submit.prevent="signIn">
        <ProblemNote v-if="trouble" :problems="trouble.problems" />
        <label for="name">Name<InputText id="name" v-model="name" autocomplete="username" autofocus required /></label>
        <label for="password">Password<InputText id="password" v-model="password" type="password" autocomplete="current-password" required /></label>
        <label v-if="needsCode" for="code">Code of your second factor<InputText id="code" v-model="code" inputmode="numeric" autocomplete="one-time-code" /></label>
        <Button type="submit" label="Sign in" :loading="isBusy" />
      </form>
      <p class="soft small">No password yet, or forgotten? An administrator makes you a link.</p>
    </section>
    <div class="water" aria-hidden="true"></div>
  </main>
</template>

<style scoped>
.gate { min-height: 100vh; display: grid; grid-template-rows: 1fr 12vh; padding: 0; max-width: none; }
section { align-self: end; margin: 0 auto; width: min(24rem, 90vw); padding: 2rem 0 2.5rem; display: grid; gap: 0.8rem; }
h1 { font-size: 2.6rem; color: var(--water); }
.water { background: var(--water); opacity: 0.9; border-top: 5px solid var(--water-soft); }
</style>
