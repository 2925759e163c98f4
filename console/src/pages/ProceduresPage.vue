<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { reactive } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { count } from '../use/words'

/** How departures go, by kind of people. */
const session = useSession()
const list = useResource(async (signal) => (await api<Page<Schemas['ProcedureView']>>('/api/v1/procedures', { signal })).items)
const { isBusy, trouble, run } = useAct()
const empty = { kind: '', handOverDays: '3', waitDays: '30', asksReturn: false, replyText: '', replyDays: '90', forgetDays: '', isNew: true }
const form = reactive({ ...empty })
const path = (kind: string | null): string => `/api/v1/procedures/${encodeURIComponent(kind || 'others')}`

function edit(one: Schemas['ProcedureView']): void {
  Object.assign(form, { kind: one.kind ?? 'others', handOverDays: String(one.handOverDays), waitDays: String(one.waitDays), asksReturn: one.asksReturn, replyText: one.replyText ?? '', replyDays: String(one.replyDays ?? 90), forgetDays: String(one.forgetDays ?? ''), isNew: false })
}
async function keep(): Promise<void> {
  const done = await run(() => api(path(form.kind.trim()), { method: 'PUT', body: { handOverDays: Number(form.handOverDays), waitDays: Number(form.waitDays), asksReturn: form.asksReturn, replyText: form.replyText.trim() || null, replyDays: Number(form.replyDays), forgetDays: form.forgetDays.trim() ? Number(form.forgetDays) : null } }))
  if (done === undefined) return
  Object.assign(form, empty)
  await list.reload()
}
async function drop(kind: string): Promise<void> {
  await run(() => api(path(kind), { method: 'DELETE' }))
  await list.reload()
}
</script>

<template>
  <PageHead title="How departures go" place="Why" to="/why">
    <template #facts><span>By kind of people, in days from the last day. What is under way goes on by the procedure with which it began.</span></template>
  </PageHead>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <StateView :data="list.data.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" @retry="list.reload">
    <table>
      <thead><tr><th>Kind</th><th>Handed over after</th><th>May be deleted after</th><th>Before anything is removed</th><th>Whoever writes to them</th><th>What is known of them</th><th v-if="session.may('edit-settings')"><span class="unseen">Acts</span></th></tr></thead>
      <tbody>
        <tr v-for="one in list.data.value ?? []" :key="one.kind ?? ''">
          <td>{{ one.kind ?? 'all others' }}</td><td>{{ count(one.handOverDays, 'day', 'days') }}</td><td>{{ count(one.waitDays, 'day', 'days') }}</td>
          <td>{{ one.asksReturn ? 'somebody says that they are not coming back' : 'nobody is asked: their last day says it' }}</td>
          <td>{{ one.replyText ? `is answered for ${count(one.replyDays ?? 0, 'day', 'days')}` : 'gets no answer' }}</td>
          <td>{{ one.forgetDays ? `is forgotten ${count(one.forgetDays, 'day', 'days')} after the end` : 'stays' }}</td>
          <td v-if="session.may('edit-settings')"><Button size="small" text label="Edit" :aria-label="`Edit ${one.kind ?? 'all others'}`" @click="edit(one)" /><Button v-if="one.kind" size="small" text severity="secondary" label="As all others" :aria-label="`Let ${one.kind} go as all others`" @click="drop(one.kind)" /></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <form v-if="session.may('edit-settings')" class="fields" @submit.prevent="keep">
    <h2>{{ form.isNew ? 'Another kind of people' : form.kind === 'others' ? 'All others' : `Kind ${form.kind}` }}</h2>
    <label v-if="form.isNew" for="p-kind">Kind<span class="hint">as its source writes it: contractor, seasonal</span><InputText id="p-kind" v-model="form.kind" required autocomplete="off" /></label>
    <label for="p-over">Days until what they own is handed over<span class="hint">a mistake in a file shows within a day or two; a handover does not come back by itself</span><InputText id="p-over" v-model="form.handOverDays" inputmode="numeric" required /></label>
    <label for="p-wait">Days until accounts may be deleted<span class="hint">long enough for somebody back from holiday to miss something</span><InputText id="p-wait" v-model="form.waitDays" inputmode="numeric" required /></label>
    <label class="tick"><input v-model="form.asksReturn" type="checkbox" /> Somebody has to say that they are not coming back</label>
    <label for="p-reply">What answers whoever writes to them<span class="hint">the subject in the first line; {name}, {recipient}, {address} and {lastDay} are filled in, and a line for which there is nothing is left out. Empty: nothing answers</span><Textarea id="p-reply" v-model="form.replyText" rows="5" /></label>
    <label v-if="form.replyText.trim()" for="p-days">Days for which it is sent<InputText id="p-days" v-model="form.replyDays" inputmode="numeric" required /></label>
    <label for="p-forget">Days after the end until what is known of them is forgotten<span class="hint">for good: names, values, what was sent and read. That somebody was here, what was done and who did it stays. Empty: never</span><InputText id="p-forget" v-model="form.forgetDays" inputmode="numeric" /></label>
    <div class="acts"><Button type="submit" label="Keep it" :loading="isBusy" /><Button v-if="!form.isNew" type="button" severity="secondary" label="Leave it" @click="Object.assign(form, empty)" /></div>
  </form>
</template>

<style scoped>
form { margin-top: 1rem; }
</style>
