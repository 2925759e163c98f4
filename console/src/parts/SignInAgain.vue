<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import ProblemNote from './ProblemNote.vue'

/** Over the page when a sign-in ends in the middle of something; what was typed waits beneath. */
const session = useSession()
const password = ref('')
const code = ref('')
const { isBusy, trouble, run } = useAct()

async function signIn(): Promise<void> {
  await run(() => session.signIn(session.who?.name ?? '', password.value, code.value))
  if (!trouble.value) password.value = code.value = ''
}
</script>

<template>
  <Dialog :visible="session.isOver" modal :closable="false" :draggable="false" header="Your sign-in is over">
    <p>Nothing you typed is lost: sign in again, and it goes on where it was.</p>
    <form class="fields" @submit.prevent="signIn">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <label for="again-password">Password of {{ session.who?.name }}<InputText id="again-password" v-model="password" type="password" autocomplete="current-password" autofocus /></label>
      <label v-if="session.who?.secondFactor" for="again-code">Code<InputText id="again-code" v-model="code" inputmode="numeric" autocomplete="one-time-code" /></label>
      <Button type="submit" label="Sign in again" :loading="isBusy" />
    </form>
  </Dialog>
</template>
