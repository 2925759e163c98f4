<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useClock } from '../clock'
import ProblemNote from '../parts/ProblemNote.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'

const session = useSession()
const clock = useClock()
const route = useRoute()
const router = useRouter()
const password = ref('')
const again = ref('')
const { isBusy, trouble, run } = useAct()
const differ = computed(() => again.value !== '' && again.value !== password.value)

onMounted(() => {
  document.title = 'Choose a password · Ebb'
  void session.load().catch(() => undefined)
})

async function choose(): Promise<void> {
  if (password.value !== again.value) return
  await run(() => session.welcome(route.hash.slice(1), password.value))
  if (trouble.value) return
  void clock.load()
  await router.push('/now')
}
</script>

<template>
  <main class="gate">
    <h1>Choose your password</h1>
    <p class="soft">Twelve characters or more; a few words in a row will do. The link is used up by it.</p>
    <form class="fields" @submit.prevent="choose">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <label for="password">Password<InputText id="password" v-model="password" type="password" autocomplete="new-password" minlength="12" autofocus required /></label>
      <label for="again">The same again<InputText id="again" v-model="again" type="password" autocomplete="new-password" required aria-describedby="differ" /></label>
      <p id="differ" class="signal" role="status">{{ differ ? 'The two are not the same yet.' : '' }}</p>
      <Button type="submit" label="Choose it and sign in" :disabled="differ" :loading="isBusy" />
    </form>
  </main>
</template>

<style scoped>
.gate { max-width: 26rem; margin: 12vh auto; padding: 0 1rem; display: grid; gap: 0.8rem; }
</style>
