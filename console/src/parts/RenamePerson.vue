<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, Trouble, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { attribute } from '../use/words'
import ProblemNote from './ProblemNote.vue'

/** New names as one event: all that follows from them is beside what it was, while they are typed. */
const props = defineProps<{ person: Schemas['PersonView'] }>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const { isBusy, trouble, run } = useAct()
const valueOf = (name: string): string => props.person.attributes[name]?.value ?? ''
const version = props.person.version
const fields = reactive({ given: valueOf('name.givenName'), family: valueOf('name.familyName'), shown: '', login: '' })
const keepsShown = ref(false)
const keepsLogin = ref(false)
const request = computed(() => ({
  givenName: fields.given.trim() || null,
  familyName: fields.family.trim() || null,
  displayName: keepsShown.value ? props.person.displayName : fields.shown.trim() || null,
  login: keepsLogin.value ? props.person.login : fields.login.trim() || null
}))
const referring = useResource(async (signal) => (await api<Page<Schemas['ReferringView']>>(`/api/v1/people/${props.person.id}/references`, { signal })).items, [], false)
const preview = ref<Schemas['RenameView'] | null>(null)
const amiss = ref<Trouble | null>(null)
let asked = 0
let timer: number | undefined
async function look(): Promise<void> {
  const mine = ++asked
  try {
    const found = await api<Schemas['RenameView']>(`/api/v1/people/${props.person.id}/rename/preview`, { method: 'POST', body: request.value })
    if (mine === asked) [preview.value, amiss.value] = [found, null]
  } catch (e) {
    if (!(e instanceof Trouble)) throw e
    if (mine === asked) amiss.value = e
  }
}
watch(request, () => {
  window.clearTimeout(timer)
  timer = window.setTimeout(look, 250)
}, { immediate: true })

const own = computed(() => preview.value?.derived.filter((one) => !one.application) ?? [])
/** What is the same in several applications is one row. */
const elsewhere = computed(() => {
  const rows = new Map<string, Schemas['DerivedView'] & { applications: string[] }>()
  for (const one of preview.value?.derived.filter((each) => each.application) ?? []) {
    const key = JSON.stringify([one.attribute, one.before, one.after])
    const row = rows.get(key) ?? { ...one, applications: [] }
    row.applications.push(one.application)
    rows.set(key, row)
  }
  return [...rows.values()]
})
const differs = (one: Schemas['DerivedView']): boolean => one.before.join() !== one.after.join()
const WORDS: Record<string, string> = { displayName: 'How others see them', login: 'How they sign in' }

async function show(): Promise<void> {
  const made = await run(() => api<Schemas['ChangeSetView']>(`/api/v1/people/${props.person.id}/rename`, { method: 'POST', body: request.value, version }))
  if (!made) return
  emit('close')
  await router.push(`/now/change-sets/${made.id}`)
}
</script>

<template>
  <Dialog visible modal :draggable="false" :header="`Rename ${person.displayName}`" @update:visible="emit('close')">
    <form @submit.prevent="show">
      <ProblemNote v-if="trouble ?? amiss" :problems="(trouble ?? amiss)!.problems" />
      <div class="grid">
        <label for="r-given">Given name<InputText id="r-given" v-model="fields.given" dir="auto" autocomplete="off" /></label>
        <label for="r-family">Family name<InputText id="r-family" v-model="fields.family" dir="auto" autocomplete="off" /></label>
      </div>
      <table>
        <thead><tr><th>What</th><th>Now</th><th>Then</th><th>Keep it</th></tr></thead>
        <tbody>
          <tr v-for="one in own" :key="one.attribute">
            <td>{{ WORDS[one.attribute] }}</td>
            <td><bdi>{{ one.before.join(', ') }}</bdi></td>
            <td :class="{ differs: differs(one) }"><bdi>{{ one.after.join(', ') }}</bdi></td>
            <td><input v-if="one.attribute === 'login'" v-model="keepsLogin" type="checkbox" aria-label="Keep how they sign in" /><input v-else v-model="keepsShown" type="checkbox" aria-label="Keep how others see them" /></td>
          </tr>
          <tr v-for="one in elsewhere" :key="`${one.applications.join()} ${one.attribute}`">
            <td>{{ attribute(one.attribute) }}<span class="soft small">, {{ one.applications.join(', ') }}</span></td>
            <td><bdi>{{ one.before.join(', ') }}</bdi></td>
            <td class="differs"><bdi>{{ one.after.join(', ') || 'nothing' }}</bdi></td>
            <td />
          </tr>
          <tr v-for="key in preview?.keys ?? []" :key="key.source + key.key"><td>Key of {{ key.source }}</td><td>{{ key.key }}</td><td class="soft">as before: they are found again</td><td /></tr>
        </tbody>
      </table>
      <p v-for="one in referring.data.value ?? []" :key="one.application" class="small">
        <template v-if="one.count">References in {{ one.application }} that {{ one.follow ? 'follow the new name' : 'stay right whatever the name' }}: <strong>{{ one.count }}</strong> (<bdi>{{ one.some.join(', ') }}</bdi>{{ one.count > one.some.length ? ', and more' : '' }})</template>
        <span v-else-if="one.count === 0" class="soft">Nothing in {{ one.application }} refers to them.</span>
        <span v-else class="soft">What refers to them in {{ one.application }} is not known: {{ one.problem?.what ?? 'it cannot say.' }}</span>
      </p>
      <p class="small soft">The login they had stays theirs as an alias, and is given to nobody else.</p>
      <details class="small"><summary>Another login, or another visible name</summary>
        <div class="grid">
          <label for="r-login">Login<InputText id="r-login" v-model="fields.login" autocomplete="off" :disabled="keepsLogin" /></label>
          <label for="r-shown">How others see them<InputText id="r-shown" v-model="fields.shown" dir="auto" autocomplete="off" :disabled="keepsShown" /></label>
        </div>
      </details>
      <div class="acts"><Button type="submit" label="Show what it would change" :disabled="!preview || !!amiss" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
form { width: min(52rem, 88vw); }
.grid { display: grid; grid-template-columns: repeat(2, minmax(12rem, 20rem)); gap: 0.6rem 1.2rem; margin: 0.6rem 0 1rem; }
label { display: grid; gap: 0.15rem; font-weight: 600; font-size: 0.9rem; }
td { overflow-wrap: anywhere; }
.differs { font-weight: 600; }
.acts { margin-top: 1rem; }
@media (max-width: 700px) { .grid { grid-template-columns: 1fr; } }
</style>
