<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { reactive, ref } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'

const ROLES = ['auditor', 'helpdesk', 'steward', 'administrator']
const operators = useResource(async (signal) => (await api<Page<Schemas['OperatorView']>>('/api/v1/operators', { signal })).items)
const tokens = useResource(async (signal) => (await api<Page<Schemas['TokenView']>>('/api/v1/tokens', { signal })).items)
const { isBusy, trouble, run } = useAct()
const empty = { name: '', role: 'helpdesk', units: '', kinds: '', person: null as number | null, discreet: false, version: undefined as number | undefined }
const form = reactive({ ...empty })
const link = ref<Schemas['LinkView'] | null>(null)
const token = reactive({ label: '', operator: '', role: '', days: '90' })
const made = ref<Schemas['TokenView'] | null>(null)
const listed = (text: string): string[] => text.split(',').map((one) => one.trim()).filter(Boolean)

function edit(one: Schemas['OperatorView']): void {
  Object.assign(form, { name: one.name, role: one.role, units: one.units.join(', '), kinds: one.kinds.join(', '), person: one.person, discreet: one.discreet, version: one.version })
}
async function put(name: string, body: object, version?: number): Promise<boolean> {
  const done = await run(() => api(`/api/v1/operators/${encodeURIComponent(name)}`, { method: 'PUT', body, version }))
  await operators.reload()
  return done !== undefined
}
async function keep(): Promise<void> {
  const isNew = form.version === undefined
  const name = form.name.trim()
  if (await put(name, { role: form.role, units: listed(form.units), kinds: listed(form.kinds), person: form.person, discreet: form.discreet, ended: false }, form.version ?? 0)) {
    Object.assign(form, empty)
    if (isNew) await makeLink(name)
  }
}
const end = (one: Schemas['OperatorView']) => put(one.name, { role: one.role, units: one.units, kinds: one.kinds, person: one.person, discreet: one.discreet, ended: !one.endedAt }, one.version)
async function makeLink(name: string): Promise<void> {
  link.value = (await run(() => api<Schemas['LinkView']>(`/api/v1/operators/${encodeURIComponent(name)}/link`, { method: 'POST' }))) ?? null
}
async function makeToken(): Promise<void> {
  made.value = (await run(() => api<Schemas['TokenView']>('/api/v1/tokens', { method: 'POST', body: { label: token.label, operator: token.operator || null, role: token.role || null, days: token.days ? Number(token.days) : null } }))) ?? null
  if (made.value) token.label = ''
  await tokens.reload()
}
async function revoke(id: number): Promise<void> {
  await run(() => api(`/api/v1/tokens/${id}`, { method: 'DELETE' }))
  await tokens.reload()
}
</script>

<template>
  <PageHead title="Operators"><template #facts><span>Who works with Ebb, as what, and for whom</span><span><RouterLink to="/why/rules">Who gets what: rules</RouterLink></span><span><RouterLink to="/why/attributes">What can be said of people: attributes</RouterLink></span><span><RouterLink to="/why/logins">What people are called: logins</RouterLink></span><span><RouterLink to="/why/procedures">How departures go: procedures</RouterLink></span><span><RouterLink to="/why/limits">What the guard stops: limits</RouterLink></span></template></PageHead>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <p v-if="link" class="once" role="status">Send {{ link.operator }} this link; it is shown only now, and good once, until <WhenText :at="link.expiresAt" full />:<br /><code>{{ link.address }}</code></p>
  <StateView :data="operators.data.value" :trouble="operators.trouble.value" :is-loading="operators.isLoading.value" @retry="operators.reload">
    <table>
      <thead><tr><th>Name</th><th>Role</th><th>Answers for</th><th>Sign-in</th><th><span class="unseen">Acts</span></th></tr></thead>
      <tbody>
        <tr v-for="one in operators.data.value ?? []" :key="one.name">
          <td><bdi>{{ one.name }}</bdi></td><td>{{ one.role }}</td><td>{{ [...one.units, ...one.kinds].join(', ') || 'everybody' }}{{ one.discreet ? '; discreet cases' : '' }}</td>
          <td>{{ one.endedAt ? 'ended' : one.password ? (one.secondFactor ? 'password and second factor' : 'password') : 'no password yet' }}</td>
          <td><div class="acts"><Button size="small" text label="Edit" :aria-label="`Edit ${one.name}`" @click="edit(one)" /><Button v-if="!one.endedAt" size="small" text label="Make a link" :aria-label="`Make a link for ${one.name}`" @click="makeLink(one.name)" /><Button size="small" text :label="one.endedAt ? 'Let work again' : 'End'" :aria-label="`${one.endedAt ? 'Let work again' : 'End'} ${one.name}`" @click="end(one)" /></div></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <div class="columns">
    <form class="fields" @submit.prevent="keep">
      <h2>{{ form.version === undefined ? 'A new operator' : `Edit ${form.name}` }}</h2>
      <label v-if="form.version === undefined" for="o-name">Name<InputText id="o-name" v-model="form.name" required /></label>
      <label for="o-role">Role<Select id="o-role" v-model="form.role" :options="ROLES" aria-label="Role" /></label>
      <label for="o-units">Units<span class="hint">with commas between; empty for all</span><InputText id="o-units" v-model="form.units" /></label>
      <label for="o-kinds">Kinds of people<span class="hint">with commas between; empty for all</span><InputText id="o-kinds" v-model="form.kinds" /></label>
      <label v-if="form.role !== 'helpdesk'" class="tick"><input v-model="form.discreet" type="checkbox" /> Sees why somebody is suspended where that is discreet</label>
      <div class="acts"><Button type="submit" :label="form.version === undefined ? 'Make the operator and a link' : 'Keep it'" :loading="isBusy" /><Button v-if="form.version !== undefined" type="button" severity="secondary" label="Leave it" @click="Object.assign(form, empty)" /></div>
    </form>
    <form class="fields" @submit.prevent="makeToken">
      <h2>A token, for programs and the client</h2>
      <label for="t-label">What it is for<InputText id="t-label" v-model="token.label" required /></label>
      <label for="t-operator">Whose<span class="hint">empty for your own</span><InputText id="t-operator" v-model="token.operator" /></label>
      <label for="t-role">At most<Select id="t-role" v-model="token.role" :options="['auditor', 'helpdesk', 'steward']" show-clear placeholder="what its operator may" aria-label="At most" /></label>
      <label for="t-days">Days until it ends<span class="hint">empty: when it is revoked</span><InputText id="t-days" v-model="token.days" inputmode="numeric" /></label>
      <div><Button type="submit" label="Make the token" :loading="isBusy" /></div>
      <p v-if="made" class="once" role="status">Shown only now:<br /><code>{{ made.token }}</code></p>
    </form>
  </div>
  <h2>Tokens</h2>
  <StateView :data="tokens.data.value" :trouble="tokens.trouble.value" :is-loading="tokens.isLoading.value" :is-empty="!tokens.data.value?.length" @retry="tokens.reload">
    <template #empty>There is no token.</template>
    <table>
      <thead><tr><th class="number">Number</th><th>What for</th><th>Whose</th><th>At most</th><th>Ends</th><th><span class="unseen">Acts</span></th></tr></thead>
      <tbody><tr v-for="one in tokens.data.value ?? []" :key="one.id"><td class="number">{{ one.id }}</td><td>{{ one.label }}</td><td>{{ one.operator }}</td><td>{{ one.role ?? 'what they may' }}</td><td><template v-if="one.revokedAt">revoked <WhenText :at="one.revokedAt" /></template><WhenText v-else-if="one.expiresAt" :at="one.expiresAt" /><template v-else>when revoked</template></td><td><Button v-if="!one.revokedAt" size="small" text label="Revoke" :aria-label="`Revoke token ${one.id}`" @click="revoke(one.id)" /></td></tr></tbody>
    </table>
  </StateView>
</template>

<style scoped>
.once { background: var(--water-soft); padding: 0.7rem 1rem; max-width: 60rem; }
.acts { gap: 0; }
.fields .acts { gap: 0.5rem; }
</style>
