<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Password from 'primevue/password'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import { computed, reactive } from 'vue'
import { api, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import { useAct } from '../use/act'

/** How a feed is set up; without one, a new one. */
const props = defineProps<{ feed?: Schemas['FeedView'] }>()
const emit = defineEmits<{ kept: [source: string]; left: [] }>()
const { isBusy, trouble, run } = useAct()

const KINDS = [
  { value: 'folder', words: 'Files that come into a folder' },
  { value: 'http', words: 'A list at a web address' },
  { value: 'sftp', words: 'Files on an SFTP server' },
  { value: 'push', words: 'Sent to us over SCIM, as it changes' }
]
const MISSING = [
  { value: 'undecided', words: 'is asked about' },
  { value: 'leaver', words: 'is taken for a leaver' },
  { value: 'still-here', words: 'is still here' }
]
const FIELDS: Record<string, { name: string; label: string; hint: string; isNeeded: boolean }[]> = {
  folder: [
    { name: 'path', label: 'Folder', hint: 'on the machine of the service, as in /srv/hr', isNeeded: true },
    { name: 'names', label: 'Which files', hint: 'as in *.csv; all if left empty', isNeeded: false }
  ],
  http: [
    { name: 'address', label: 'Address', hint: 'as in https://hr.example/people.csv', isNeeded: true },
    { name: 'user', label: 'User', hint: 'left empty, the secret is sent as a bearer token', isNeeded: false }
  ],
  sftp: [
    { name: 'host', label: 'Server', hint: '', isNeeded: true },
    { name: 'port', label: 'Port', hint: '22 if left empty', isNeeded: false },
    { name: 'user', label: 'User', hint: '', isNeeded: true },
    { name: 'path', label: 'File or folder there', hint: '', isNeeded: true },
    { name: 'names', label: 'Which files', hint: 'as in *.csv; all if left empty', isNeeded: false },
    { name: 'hostKey', label: 'Print of the server’s key', hint: 'as in SHA256:…; left empty, the first try shows it', isNeeded: false }
  ],
  push: [
    { name: 'groupsIn', label: 'Application its groups are in', hint: 'as in mail-house; left empty, no groups are taken', isNeeded: false }
  ]
}
const form = reactive({
  source: props.feed?.source ?? '',
  kind: props.feed?.kind ?? 'folder',
  settings: { ...(props.feed?.settings ?? {}) } as Record<string, string>,
  secret: '',
  cron: props.feed?.cron ?? '',
  zone: props.feed?.zone ?? '',
  blackouts: (props.feed?.blackouts ?? []).join(', '),
  grace: props.feed?.graceMinutes ?? 60,
  complete: props.feed?.complete ?? true,
  missing: props.feed?.missing ?? 'undecided'
})
const isPushed = computed(() => form.kind === 'push')
const timesLabel = computed(() => (isPushed.value ? 'When all is gone through again' : form.kind === 'folder' ? 'When it is expected' : 'When it is got'))
const fields = computed(() => FIELDS[form.kind] ?? [])

async function keep(): Promise<void> {
  const settings: Record<string, string> = {}
  for (const field of fields.value) {
    const value = form.settings[field.name]?.trim()
    if (value) settings[field.name] = value
  }
  const body = {
    kind: form.kind, settings, secret: form.secret.trim() || null, cron: form.cron.trim() || null, zone: form.zone.trim() || null,
    blackouts: form.blackouts.split(',').map((day) => day.trim()).filter(Boolean), graceMinutes: form.grace, complete: form.complete && !isPushed.value, missing: form.missing
  }
  const source = form.source.trim()
  const done = await run(() => api(`/api/v1/feeds/${encodeURIComponent(source)}`, { method: 'PUT', body, version: props.feed?.version ?? 0 }))
  if (done !== undefined) emit('kept', source)
}
</script>

<template>
  <form class="fields" @submit.prevent="keep">
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <label v-if="!feed" for="source">Its name<span class="hint">where the people come from, as in hr</span><InputText id="source" v-model="form.source" required autocomplete="off" /></label>
    <label>How deliveries come<Select v-model="form.kind" :options="KINDS" option-label="words" option-value="value" aria-label="How deliveries come" /></label>
    <label v-for="field in fields" :key="field.name" :for="`set-${field.name}`">{{ field.label }}<span v-if="field.hint" class="hint">{{ field.hint }}</span><InputText :id="`set-${field.name}`" v-model="form.settings[field.name]" :required="field.isNeeded" autocomplete="off" /></label>
    <label v-if="form.kind === 'http'" for="secret">Password or token<span class="hint">{{ feed?.hasSecret ? 'there is one; left empty, it stays' : 'may stay empty' }}</span><Password v-model="form.secret" input-id="secret" :feedback="false" :input-props="{ autocomplete: 'off' }" /></label>
    <label v-if="form.kind === 'sftp'" for="secret">Password or private key<span class="hint">{{ feed?.hasSecret ? 'there is one; left empty, it stays' : '' }}</span><Textarea id="secret" v-model="form.secret" rows="2" autocomplete="off" /></label>
    <label for="cron">{{ timesLabel }}<span class="hint">seconds, minutes, hours, days, months, weekdays: 0 30 5 * * * is half past five each morning. {{ form.kind === 'folder' ? 'Files are taken as they come; after this time they are late.' : isPushed ? 'What is sent comes in by itself within seconds; this finds again what somebody gave up.' : '' }}</span><InputText id="cron" v-model="form.cron" autocomplete="off" /></label>
    <div v-if="!isPushed" class="choice"><input id="complete" v-model="form.complete" type="checkbox" /><label for="complete">Each delivery names everybody</label></div>
    <label v-if="form.complete || isPushed">{{ isPushed ? 'Whoever is deleted there' : 'Whoever it does not name' }}<Select v-model="form.missing" :options="MISSING" option-label="words" option-value="value" :aria-label="isPushed ? 'Whoever is deleted there' : 'Whoever it does not name'" /></label>
    <details>
      <summary>Time zone, days off{{ form.kind === 'folder' ? ', grace' : '' }}</summary>
      <label for="zone">Time zone<span class="hint">as in Europe/Oslo; the organisation’s if left empty</span><InputText id="zone" v-model="form.zone" autocomplete="off" /></label>
      <label for="blackouts">Days on which nothing comes<span class="hint">as in 2026-12-25, 2027-01-01</span><InputText id="blackouts" v-model="form.blackouts" autocomplete="off" /></label>
      <label v-if="form.kind === 'folder'" for="grace">Minutes until it is late<input id="grace" v-model.number="form.grace" type="number" min="0" /></label>
    </details>
    <div class="acts"><Button type="submit" :label="feed ? 'Keep it so' : 'Set it up as a draft'" :loading="isBusy" :disabled="!form.source.trim()" /><Button label="Leave it" severity="secondary" @click="emit('left')" /></div>
  </form>
</template>

<style scoped>
.choice { display: grid; grid-template-columns: auto 1fr; gap: 0.6rem; align-items: start; }
details label { margin-top: 0.8rem; }
details input[type='number'] { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--line-strong); padding: 0.3rem 0.5rem; width: 7rem; }
summary { cursor: pointer; }
</style>
