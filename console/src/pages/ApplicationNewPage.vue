<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Password from 'primevue/password'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import InspectionNote from '../parts/InspectionNote.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import { useAct } from '../use/act'

const router = useRouter()
const name = ref('')
const kind = ref<'scim' | 'ldap'>('scim')
const settings = reactive<Record<string, string>>({})
const secret = ref('')
const isInternal = ref(false)
const found = ref<Schemas['InspectionView'] | null>(null)
const { isBusy, trouble, run } = useAct()

/** What is asked of each kind; the rest is in docs/applications.md. */
const FIELDS: Record<string, { key: string; label: string; hint?: string; needed?: boolean }[]> = {
  scim: [
    { key: 'address', label: 'Where its SCIM begins', hint: 'https://house.example/scim/v2', needed: true },
    { key: 'tokenAddress', label: 'Where Ebb asks for tokens', hint: 'only if it takes no token of its own' },
    { key: 'clientId', label: 'By which name it asks there' },
    { key: 'companion', label: 'Where its companion interface begins', hint: 'only if it has one' }
  ],
  ldap: [
    { key: 'host', label: 'Host', needed: true },
    { key: 'port', label: 'Port', needed: true },
    { key: 'bindDn', label: 'As whom Ebb signs in', hint: 'cn=ebb,dc=skerrow,dc=example', needed: true },
    { key: 'people', label: 'Below which entry people are', needed: true },
    { key: 'groups', label: 'Below which entry groups are' }
  ]
}
const fields = computed(() => FIELDS[kind.value] ?? [])
const edit = computed(() => {
  const filled = fields.value.map((one) => [one.key, settings[one.key]?.trim() ?? ''] as const).filter(([, value]) => value)
  const more = settings.trusted?.trim() ? [['trusted', settings.trusted.trim()] as const] : []
  const network = isInternal.value ? [['network', 'internal'] as const] : []
  return { kind: kind.value, settings: Object.fromEntries([...filled, ...more, ...network]), secrets: secret.value ? { token: secret.value } : undefined }
})
const path = computed(() => `/api/v1/applications/${encodeURIComponent(name.value.trim())}`)

async function tryOut(): Promise<void> {
  found.value = null
  found.value = (await run(() => api<Schemas['InspectionView']>(`${path.value}/try`, { method: 'POST', body: edit.value }))) ?? null
}

async function connect(): Promise<void> {
  const made = await run(() => api<Schemas['ApplicationView']>(path.value, { method: 'PUT', body: edit.value }))
  if (made) await router.push(`/where/${encodeURIComponent(made.name)}`)
}
</script>

<template>
  <PageHead title="Connect an application" place="Where" to="/where">
    <template #facts>First it is looked at; nothing is kept or written there before you say so.</template>
  </PageHead>
  <form @submit.prevent="tryOut" @input="found = null">
    <label for="name">What it is called here</label>
    <InputText id="name" v-model="name" required maxlength="60" placeholder="mail-house" />
    <label for="kind">What it speaks</label>
    <select id="kind" v-model="kind"><option value="scim">SCIM 2.0</option><option value="ldap">LDAP</option></select>
    <template v-for="one in fields" :key="one.key">
      <label :for="one.key">{{ one.label }}</label>
      <InputText :id="one.key" v-model="settings[one.key]" :required="one.needed" :placeholder="one.hint" />
    </template>
    <label for="secret">{{ kind === 'ldap' ? 'Its password' : 'Token, or the secret for asking' }}</label>
    <Password v-model="secret" input-id="secret" :feedback="false" autocomplete="off" fluid />
    <template v-if="kind === 'scim'">
      <label for="trusted">Who vouches for its certificate</label>
      <Textarea id="trusted" v-model="settings.trusted" rows="2" placeholder="-----BEGIN CERTIFICATE----- … only if it is none of the usual" />
    </template>
    <span></span>
    <label><input v-model="isInternal" type="checkbox" /> It stands within our own network</label>
    <span></span>
    <div><Button type="submit" :label="found ? 'Look again' : 'Look at it'" :severity="found ? 'secondary' : undefined" :loading="isBusy" /></div>
  </form>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <template v-if="found">
    <h2>What was found</h2>
    <InspectionNote :found="found" />
    <p>Connecting writes nothing there either. Then sync it: accounts that are there are taken over as they are, and a rule says who gets one.</p>
    <Button :label="`Connect ${name}`" :loading="isBusy" @click="connect" />
  </template>
</template>

<style scoped>
form { display: grid; grid-template-columns: minmax(12rem, 16rem) minmax(16rem, 36rem); gap: 0.6rem 1rem; align-items: center; margin: 1rem 0; }
select { justify-self: start; }
</style>
