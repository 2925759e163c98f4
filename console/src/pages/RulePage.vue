<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import BoundField, { type Bound } from '../parts/BoundField.vue'
import ConditionForm from '../parts/ConditionForm.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { attribute } from '../use/words'

/** One rule, or one that is being written: nothing of it is in force before it was shown and released. */
const props = defineProps<{ name?: string }>()
const name = toRef(props, 'name')
const session = useSession()
const router = useRouter()
const { isBusy, trouble, run } = useAct()
const mayEdit = computed(() => session.may('edit-settings'))

const NEW: Schemas['RuleView'] = { name: '', version: 0, application: '', condition: 'true', sentence: '', values: { userName: 'login' }, references: {}, groups: [], seats: [], leadDays: 14, from: null, until: null, notes: [], waitsIn: null } as unknown as Schemas['RuleView']
const rule = useResource((signal) => (name.value ? api<Schemas['RuleView']>(`/api/v1/rules/${encodeURIComponent(name.value)}`, { signal }) : Promise.resolve(NEW)), [name], false)
const applications = useResource(async (signal) => (await api<Page<Schemas['ApplicationView']>>('/api/v1/applications', { signal })).items, [], false)

const form = reactive({ name: '', application: '', condition: 'true', groups: '', leadDays: '14', byItself: '', expected: '' })
const values = ref<{ attribute: string; cel: string }[]>([])
const references = ref<{ attribute: string; cel: string }[]>([])
const seats = ref<{ seat: string; condition: string }[]>([])
const from = ref<Bound>(null)
const until = ref<Bound>(null)
const rows = (of: Record<string, string>) => Object.entries(of).map(([attribute, cel]) => ({ attribute, cel }))
const mapped = (of: { attribute: string; cel: string }[]) => Object.fromEntries(of.filter((one) => one.attribute.trim()).map((one) => [one.attribute.trim(), one.cel]))
watch(rule.data, (now) => {
  if (!now) return
  Object.assign(form, { name: now.name, application: now.application, condition: now.condition, groups: now.groups.join(', '), leadDays: String(now.leadDays), byItself: now.byItself == null ? '' : String(now.byItself), expected: '' })
  values.value = rows(now.values)
  references.value = rows(now.references)
  seats.value = now.seats.map((one) => ({ seat: one.seat, condition: one.condition ?? '' }))
  from.value = now.from ?? null
  until.value = now.until ?? null
}, { immediate: true })

async function show(): Promise<void> {
  const body = {
    ...rule.data.value!, application: form.application, condition: form.condition, values: mapped(values.value), references: mapped(references.value),
    groups: form.groups.split(',').map((one) => one.trim()).filter(Boolean),
    seats: seats.value.filter((one) => one.seat.trim()).map((one) => ({ seat: one.seat.trim(), condition: one.condition.trim() || null })), leadDays: Number(form.leadDays) || 0, byItself: form.byItself.trim() === '' ? null : Number(form.byItself), from: from.value, until: until.value
  }
  const expected = form.expected.trim() === '' ? undefined : Number(form.expected)
  const set = await run(() => api<Schemas['ChangeSetView']>(`/api/v1/rules/${encodeURIComponent(form.name.trim())}${query({ expected })}`, { method: 'PUT', body, version: rule.data.value!.version || undefined }))
  if (set) await router.push(`/now/change-sets/${set.id}`)
}
async function takeAway(): Promise<void> {
  const set = await run(() => api<Schemas['ChangeSetView']>(`/api/v1/rules/${encodeURIComponent(form.name)}`, { method: 'DELETE', version: rule.data.value!.version }))
  if (set) await router.push(`/now/change-sets/${set.id}`)
}
</script>

<template>
  <PageHead :title="name ?? 'A new rule'" place="Rules" to="/why/rules">
    <template #facts>
      <span v-if="rule.data.value?.application">gives accounts in <RouterLink :to="`/where/${encodeURIComponent(rule.data.value.application)}`">{{ rule.data.value.application }}</RouterLink></span>
      <span v-if="rule.data.value?.waitsIn" class="signal">an edit of it <RouterLink :to="`/now/change-sets/${rule.data.value.waitsIn}`">waits for its release</RouterLink></span>
    </template>
    <Button v-if="name && mayEdit" label="Take this rule away" severity="secondary" :loading="isBusy" @click="takeAway" />
  </PageHead>
  <StateView :data="rule.data.value" :trouble="rule.trouble.value" :is-loading="rule.isLoading.value" @retry="rule.reload">
    <template v-if="rule.data.value" #default>
      <form class="rule" @submit.prevent="show">
        <div class="fields">
          <label v-if="!name">Name<span class="hint">as it is to be known, for instance mail-for-deck</span><InputText v-model="form.name" required autocomplete="off" pattern="[^/]+" /></label>
          <label v-if="!name">Application<select v-model="form.application" required><option v-for="one in applications.data.value ?? []" :key="one.name" :value="one.name">{{ one.name }}</option></select></label>
        </div>
        <h2>Who</h2>
        <ConditionForm v-model="form.condition" />
        <h2>What they get</h2>
        <div class="fields">
          <label>Groups<span class="hint">with commas between; left empty, none</span><InputText v-model="form.groups" autocomplete="off" :disabled="!mayEdit" /></label>
          <label>Prepared ahead<span class="hint">days before the first day</span><InputText v-model="form.leadDays" inputmode="numeric" class="few" :disabled="!mayEdit" /></label>
          <label>Goes by itself<span class="hint">for how many people a day, where a feed or a date brings it about; left empty, as many as the guard lets through</span><InputText v-model="form.byItself" inputmode="numeric" class="few" :disabled="!mayEdit" /></label>
        </div>
        <h3>Seats</h3>
        <p class="soft small">The first whose condition holds is taken; one without a condition is for everyone.</p>
        <div v-for="(one, i) in seats" :key="i" class="acts">
          <InputText v-model="one.seat" size="small" :aria-label="`Seat ${i + 1}`" placeholder="seat" autocomplete="off" :disabled="!mayEdit" />
          <InputText v-model="one.condition" size="small" class="code wide" :aria-label="`Who may take seat ${i + 1}`" placeholder="everyone, or for instance person.location in ['Skerrow', 'Holm']" spellcheck="false" autocomplete="off" :disabled="!mayEdit" />
          <Button v-if="mayEdit" text size="small" severity="secondary" label="Take away" :aria-label="`Take away seat ${i + 1}`" @click="seats.splice(i, 1)" />
        </div>
        <div v-if="mayEdit" class="acts"><Button size="small" severity="secondary" label="One more seat" @click="seats.push({ seat: '', condition: '' })" /></div>
        <h2>From when until when</h2>
        <div class="fields">
          <BoundField v-model="from" label="From" none="always" :disabled="!mayEdit" />
          <BoundField v-model="until" label="Until, that day included" none="without end" :disabled="!mayEdit" />
        </div>
        <h2>How the account is filled</h2>
        <p v-for="note in rule.data.value.notes" :key="note" class="small">{{ note }}</p>
        <table class="mappings">
          <thead><tr><th>There</th><th>From</th><th><span class="unseen">Acts</span></th></tr></thead>
          <tbody>
            <tr v-for="(one, i) in values" :key="i">
              <td><InputText v-if="mayEdit" v-model="one.attribute" size="small" :aria-label="`Attribute ${i + 1} there`" autocomplete="off" /><template v-else>{{ attribute(one.attribute) }}</template></td>
              <td class="from"><InputText v-if="mayEdit" v-model="one.cel" size="small" class="code" spellcheck="false" :aria-label="`What fills ${one.attribute}`" autocomplete="off" /><code v-else>{{ one.cel }}</code></td>
              <td><Button v-if="mayEdit" text size="small" severity="secondary" label="Take away" :aria-label="`Take away ${one.attribute}`" @click="values.splice(i, 1)" /></td>
            </tr>
            <tr v-for="(one, i) in references" :key="`r${i}`"><td>{{ attribute(one.attribute) }}</td><td class="soft">the account of their {{ attribute(one.cel).toLowerCase() }}</td><td /></tr>
          </tbody>
        </table>
        <div v-if="mayEdit" class="acts"><Button size="small" severity="secondary" label="Fill one more" @click="values.push({ attribute: '', cel: '' })" /></div>
        <template v-if="mayEdit">
          <h2>Then</h2>
          <div class="acts">
            <label class="inline">Expected to change something for <InputText v-model="form.expected" inputmode="numeric" class="few" aria-label="For how many people it is expected to change something" /> people <span class="soft small">left empty where nobody knows; if it is others, it is stopped</span></label>
          </div>
          <ProblemNote v-if="trouble" :problems="trouble.problems" />
          <div class="acts"><Button type="submit" label="Show what follows" :loading="isBusy" :disabled="!form.name.trim() || !form.application" /><span class="soft small">Nothing of it is in force before you have seen that and released it.</span></div>
        </template>
      </form>
    </template>
  </StateView>
</template>

<style scoped>
.rule { max-width: 62rem; }
.mappings td { padding-top: 0.15rem; padding-bottom: 0.15rem; }
.from { width: 60%; }
.from > * { width: 100%; }
.code { font-family: ui-monospace, monospace; }
.few { width: 5rem; }
.wide { flex: 1; min-width: 18rem; }
.inline { display: inline-flex; flex-wrap: wrap; gap: 0.4rem; align-items: center; }
</style>
