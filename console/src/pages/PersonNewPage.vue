<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref, useId } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import PickPerson from '../parts/PickPerson.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { attribute } from '../use/words'

/** Somebody new, by hand: as few fields as there can be first, the rest below. */
const router = useRouter()
const { isBusy, trouble, run } = useAct()
const attributes = useResource(async (signal) => (await api<Page<Schemas['AttributeView']>>('/api/v1/attributes', { signal })).items, [], false)
const units = useResource(async (signal) => (await api<Page<string>>('/api/v1/people/values?attribute=department', { signal })).items, [], false)
const kinds = useResource(async (signal) => (await api<Page<string>>('/api/v1/people/values?attribute=userType', { signal })).items, [], false)
const FIRST = ['name.givenName', 'name.familyName', 'userType', 'department', 'title', 'startDate', 'endDate', 'emails.home']
const lists: Record<string, string> = { department: useId(), userType: useId() }
const fields = reactive<Record<string, string>>({})
const manager = ref<{ id: number; name: string } | null>(null)
const shown = computed(() => {
  const all = (attributes.data.value ?? []).filter((one) => one.byHand !== 'forbidden' && one.type !== 'person' && one.name !== 'displayName')
  return {
    first: FIRST.flatMap((name) => all.filter((one) => one.name === name)).concat(all.filter((one) => one.required && !FIRST.includes(one.name))),
    rest: all.filter((one) => !one.required && !FIRST.includes(one.name))
  }
})
const isReady = computed(() => shown.value.first.filter((one) => one.required).every((one) => fields[one.name]?.trim()))

async function show(): Promise<void> {
  const said: Record<string, string> = Object.fromEntries(Object.entries(fields).filter(([, value]) => value.trim()))
  if (manager.value) said.manager = String(manager.value.id)
  const made = await run(() => api<Schemas['ChangeSetView']>('/api/v1/people', { method: 'POST', body: { attributes: said, until: null } }))
  if (made) await router.push(`/now/change-sets/${made.id}`)
}
</script>

<template>
  <PageHead title="Somebody new" place="Who" to="/who"><template #facts>Nobody is made before you have seen what they would get, and released it. Dates may lie ahead: access opens and closes by itself.</template></PageHead>
  <form class="person" @submit.prevent="show">
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <div class="grid">
      <label v-for="one in shown.first" :key="one.name">{{ attribute(one.name) }}<span v-if="one.required" class="hint">needed</span>
        <InputText v-model="fields[one.name]" :type="one.type === 'date' ? 'date' : 'text'" :list="lists[one.name]" dir="auto" autocomplete="off" />
      </label>
    </div>
    <datalist :id="lists.department"><option v-for="one in units.data.value ?? []" :key="one" :value="one" /></datalist>
    <datalist :id="lists.userType"><option v-for="one in kinds.data.value ?? []" :key="one" :value="one" /></datalist>
    <p v-if="manager">Manager: <bdi>{{ manager.name }}</bdi> <Button type="button" text size="small" severity="secondary" label="Another" @click="manager = null" /></p>
    <PickPerson v-else label="Manager, who also answers for them" @pick="(id, name) => (manager = { id, name })" />
    <details><summary>More about them</summary>
      <div class="grid">
        <label v-for="one in shown.rest" :key="one.name">{{ attribute(one.name) }}<InputText v-model="fields[one.name]" :type="one.type === 'date' ? 'date' : 'text'" dir="auto" autocomplete="off" /></label>
      </div>
    </details>
    <div class="acts"><Button type="submit" label="Show what they would get" :disabled="!isReady" :loading="isBusy" /></div>
  </form>
</template>

<style scoped>
.person { max-width: 46rem; }
.grid { display: grid; grid-template-columns: repeat(2, minmax(12rem, 1fr)); gap: 0.6rem 1.2rem; margin: 0.6rem 0 1rem; }
label { display: grid; gap: 0.15rem; font-weight: 600; font-size: 0.9rem; align-content: start; }
label .hint { font-weight: 400; }
details { margin: 0.8rem 0; }
.acts { margin-top: 1rem; }
@media (max-width: 700px) { .grid { grid-template-columns: 1fr; } }
</style>
