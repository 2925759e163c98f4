<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { reactive } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { attribute, BY_HAND } from '../use/words'

const session = useSession()
const attributes = useResource(async (signal) => (await api<Page<Schemas['AttributeView']>>('/api/v1/attributes', { signal })).items)
const { isBusy, trouble, run } = useAct()
const TYPES = [{ value: 'text', words: 'Text' }, { value: 'number', words: 'Number' }, { value: 'date', words: 'Date' }, { value: 'yes-no', words: 'Yes or no' }, { value: 'choice', words: 'One of several' }]
const empty = { name: '', type: 'text', required: false, fallback: '', searchable: true, byHand: 'allowed', choices: '', version: undefined as number | undefined }
const form = reactive({ ...empty })

function edit(one: Schemas['AttributeView']): void {
  Object.assign(form, { ...one, fallback: one.fallback ?? '', choices: one.choices.join(', ') })
}
async function setByHand(one: Schemas['AttributeView'], byHand: string): Promise<void> {
  const { type, required, fallback, searchable, choices, version } = one
  await run(() => api(`/api/v1/attributes/${encodeURIComponent(one.name)}`, { method: 'PUT', body: { type, required, fallback, searchable, choices, byHand }, version }))
  await attributes.reload()
}
async function keep(): Promise<void> {
  const body = {
    type: form.type, required: form.required, fallback: form.fallback.trim() || null, searchable: form.searchable, byHand: form.byHand,
    choices: form.type === 'choice' ? form.choices.split(',').map((one) => one.trim()).filter(Boolean) : []
  }
  const done = await run(() => api(`/api/v1/attributes/${encodeURIComponent(form.name.trim())}`, { method: 'PUT', body, version: form.version ?? 0 }))
  if (done === undefined) return
  Object.assign(form, empty)
  await attributes.reload()
}
</script>

<template>
  <PageHead title="Attributes" place="Why" to="/why"><template #facts>What can be said of a person: in files, filters, rules and lists</template></PageHead>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <StateView :data="attributes.data.value" :trouble="attributes.trouble.value" :is-loading="attributes.isLoading.value" @retry="attributes.reload">
    <table>
      <thead><tr><th>Attribute</th><th>Name in expressions</th><th>Type</th><th>If nothing is said</th><th>Who sets it</th><th>Whose</th><th><span class="unseen">Acts</span></th></tr></thead>
      <tbody>
        <tr v-for="one in attributes.data.value ?? []" :key="one.name">
          <td>{{ attribute(one.name) }}<span v-if="one.required" class="small soft"> compulsory</span></td>
          <td><code>{{ one.name }}</code></td>
          <td>{{ one.type === 'yes-no' ? 'yes or no' : one.type }}<span v-if="one.choices.length" class="small soft"> {{ one.choices.join(', ') }}</span></td>
          <td>{{ one.fallback ?? '' }}</td>
          <td>
            <Select v-if="session.may('edit-settings')" size="small" class="by-hand" :model-value="one.byHand" :options="BY_HAND" option-label="words" option-value="value" :aria-label="`Who sets ${attribute(one.name)}`" @update:model-value="(to: string) => setByHand(one, to)" />
            <template v-else>{{ BY_HAND.find((way) => way.value === one.byHand)?.words }}</template>
          </td>
          <td>{{ one.own ? 'our own' : 'standard' }}</td>
          <td><Button v-if="one.own && session.may('edit-settings')" size="small" text label="Edit" :aria-label="`Edit ${one.name}`" @click="edit(one)" /></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <template v-if="session.may('edit-settings')">
    <h2>{{ form.version === undefined ? 'Define one of our own' : `Define ${form.name} anew` }}</h2>
    <form class="fields" @submit.prevent="keep">
      <label for="name">Its name<span class="hint">small first letter, letters and digits, as in shoeSize</span><InputText id="name" v-model="form.name" required :disabled="form.version !== undefined" autocomplete="off" /></label>
      <label>Type<Select v-model="form.type" :options="TYPES" option-label="words" option-value="value" aria-label="Type" :disabled="form.version !== undefined" /></label>
      <label v-if="form.type === 'choice'" for="choices">Its values<span class="hint">with commas between</span><InputText id="choices" v-model="form.choices" required autocomplete="off" /></label>
      <label for="fallback">If nothing is said<span class="hint">what a new person gets then; may stay empty</span><InputText id="fallback" v-model="form.fallback" autocomplete="off" /></label>
      <div class="choice"><input id="required" v-model="form.required" type="checkbox" /><label for="required">Compulsory<span class="hint">nobody is created without it</span></label></div>
      <div class="choice"><input id="searchable" v-model="form.searchable" type="checkbox" /><label for="searchable">People can be filtered by it</label></div>
      <label>Who sets it<Select v-model="form.byHand" :options="BY_HAND" option-label="words" option-value="value" aria-label="Who sets it" /></label>
      <div class="acts"><Button type="submit" :label="form.version === undefined ? 'Define it' : 'Keep it so'" :loading="isBusy" :disabled="!form.name.trim()" /><Button v-if="form.version !== undefined" label="Leave it" severity="secondary" @click="Object.assign(form, empty)" /></div>
    </form>
  </template>
</template>

<style scoped>
.by-hand { width: 16rem; }
.choice { display: grid; grid-template-columns: auto 1fr; gap: 0.6rem; align-items: start; }
</style>
