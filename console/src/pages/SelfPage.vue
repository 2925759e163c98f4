<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref } from 'vue'
import { api, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'

const session = useSession()
const now = ref('')
const next = ref('')
const code = ref('')
const begun = ref<Schemas['SecondFactorView'] | null>(null)
const said = ref('')
const password = useAct()
const factor = useAct()

async function change(): Promise<void> {
  said.value = ''
  await password.run(() => api('/api/v1/session/password', { method: 'PUT', body: { now: now.value, next: next.value } }))
  if (password.trouble.value) return
  now.value = next.value = ''
  said.value = 'The password is changed; all other sign-ins of yours are over.'
}
async function begin(): Promise<void> {
  begun.value = (await factor.run(() => api<Schemas['SecondFactorView']>('/api/v1/session/second-factor', { method: 'POST' }))) ?? null
}
async function confirm(path: string, method: 'PUT' | 'POST'): Promise<void> {
  const who = await factor.run(() => api<Schemas['SessionView']>(`/api/v1/session/second-factor${path}`, { method, body: { code: code.value } }))
  if (!who) return
  session.who = who
  begun.value = null
  code.value = ''
}
</script>

<template>
  <PageHead :title="session.who?.name ?? 'You'"><template #facts>{{ session.who?.role }}; you may {{ session.who?.acts.length }} kinds of things</template></PageHead>
  <div class="columns">
    <form class="fields" @submit.prevent="change">
      <h2>Password</h2>
      <ProblemNote v-if="password.trouble.value" :problems="password.trouble.value.problems" />
      <p role="status">{{ said }}</p>
      <label for="s-now">The one you have now<InputText id="s-now" v-model="now" type="password" autocomplete="current-password" required /></label>
      <label for="s-next">A new one<span class="hint">twelve characters or more; a few words in a row will do</span><InputText id="s-next" v-model="next" type="password" autocomplete="new-password" required /></label>
      <div><Button type="submit" label="Change the password" :loading="password.isBusy.value" /></div>
    </form>
    <div class="fields">
      <h2>Second factor</h2>
      <ProblemNote v-if="factor.trouble.value" :problems="factor.trouble.value.problems" />
      <template v-if="begun">
        <p>Give this to your authenticator, then type the code it shows.</p>
        <p><a :href="begun.address">Open it in an authenticator on this device</a>, or type the secret:<br /><code>{{ begun.secret.match(/.{1,4}/g)?.join(' ') }}</code></p>
        <form class="fields" @submit.prevent="confirm('', 'PUT')"><label for="s-code">Code<InputText id="s-code" v-model="code" inputmode="numeric" autocomplete="one-time-code" required /></label><div><Button type="submit" label="Turn it on" :loading="factor.isBusy.value" /></div></form>
      </template>
      <template v-else-if="session.who?.secondFactor">
        <p>It is on: every sign-in asks for a code of your authenticator.</p>
        <form class="fields" @submit.prevent="confirm('/end', 'POST')"><label for="s-code">Code<InputText id="s-code" v-model="code" inputmode="numeric" autocomplete="one-time-code" required /></label><div><Button type="submit" severity="secondary" label="Turn it off" :loading="factor.isBusy.value" /></div></form>
      </template>
      <template v-else>
        <p>Off. With it, a stolen password alone lets nobody in: each sign-in asks for a code from an authenticator on your phone.</p>
        <div><Button label="Begin" :loading="factor.isBusy.value" @click="begin" /></div>
      </template>
    </div>
  </div>
</template>
