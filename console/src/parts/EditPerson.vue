<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { attribute } from '../use/words'
import ProblemNote from './ProblemNote.vue'

const props = defineProps<{ person: Schemas['PersonView'] }>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const FIELDS = ['name.givenName', 'name.familyName', 'title', 'department', 'furtherUnits', 'location', 'userType', 'emails.home', 'phoneNumbers.mobile', 'startDate', 'endDate', 'awayFrom', 'awayUntil']
const valueOf = (person: Schemas['PersonView'], name: string): string => person.attributes[name]?.value ?? ''

/** What was there when the editing began: others may write meanwhile, and the page beneath goes with them. */
const before = Object.fromEntries(FIELDS.map((name) => [name, valueOf(props.person, name)]))
const version = ref(props.person.version)
const fields = reactive({ ...before })
/** What somebody else wrote meanwhile, beside what was typed. */
const theirs = ref<Schemas['PersonView'] | null>(null)
const until = ref('')
const { isBusy, trouble, run } = useAct()
const changed = computed(() => FIELDS.filter((name) => fields[name].trim() !== before[name]))
const isTheirs = (name: string): boolean => theirs.value !== null && valueOf(theirs.value, name) !== before[name]

async function show(): Promise<void> {
  const attributes = Object.fromEntries(changed.value.map((name) => [name, fields[name].trim() || null]))
  const made = await run(() => api<Schemas['ChangeSetView']>(`/api/v1/people/${props.person.id}`, { method: 'PATCH', body: { attributes, until: until.value || null }, version: version.value }))
  if (made) {
    emit('close')
    await router.push(`/now/change-sets/${made.id}`)
  } else if (trouble.value?.status === 412) {
    const kept = trouble.value
    theirs.value = (await run(() => api<Schemas['PersonView']>(`/api/v1/people/${props.person.id}`))) ?? null
    if (theirs.value) version.value = theirs.value.version
    trouble.value ??= kept
  }
}
</script>

<template>
  <Dialog visible modal :draggable="false" :header="`Edit ${person.displayName}`" @update:visible="emit('close')">
    <p class="small soft">A value you change is yours until you take it away again by emptying it; a source then fills it anew. Next you see what follows in each application.</p>
    <form @submit.prevent="show">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <div class="grid">
        <label v-for="name in FIELDS" :key="name" :for="`e-${name}`">
          {{ attribute(name) }}
          <InputText :id="`e-${name}`" v-model="fields[name]" dir="auto" :placeholder="name.includes('Date') || name.startsWith('away') ? 'like 2026-12-31' : ''" />
          <span v-if="isTheirs(name)" class="signal small" role="status">now: <bdi>{{ theirs ? valueOf(theirs, name) || 'empty' : '' }}</bdi></span>
          <span v-else-if="person.attributes[name]" class="soft small">from {{ person.attributes[name].source }}</span>
        </label>
      </div>
      <label for="e-until" class="until">Up to and with<span class="soft small">then its sources have the say again; left empty it holds for good</span><input id="e-until" v-model="until" type="date" /></label>
      <div class="acts"><Button type="submit" label="Show what it would change" :disabled="!changed.length" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.grid { display: grid; grid-template-columns: repeat(2, minmax(12rem, 20rem)); gap: 0.6rem 1.2rem; margin: 0.8rem 0 1.2rem; }
label { display: grid; gap: 0.15rem; font-weight: 600; font-size: 0.9rem; align-content: start; }
label span { font-weight: 400; }
.until { margin: 0 0 1.2rem; max-width: 20rem; }
@media (max-width: 700px) { .grid { grid-template-columns: 1fr; } }
</style>
