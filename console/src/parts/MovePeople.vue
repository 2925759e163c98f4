<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, ref, useId } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { count } from '../use/words'
import PickPerson from './PickPerson.vue'
import ProblemNote from './ProblemNote.vue'

/** Moves people to another unit, with another manager if need be; what each gains and loses is shown next. */
const props = defineProps<{ people: number[]; names: string[] }>()
const emit = defineEmits<{ close: []; shown: [] }>()
const router = useRouter()
const { isBusy, trouble, run } = useAct()
const units = useResource(async (signal) => (await api<Page<string>>('/api/v1/people/values?attribute=department', { signal })).items, [], false)
const list = useId()
const unit = ref('')
const manager = ref<{ id: number; name: string } | null>(null)
const until = ref('')
const isNew = computed(() => unit.value.trim() !== '' && units.data.value !== null && !units.data.value.includes(unit.value.trim()))
const whom = computed(() => (props.names.length === 1 ? props.names[0] : count(props.people.length, 'person', 'people')))

async function show(): Promise<void> {
  const attributes: Record<string, string> = { department: unit.value.trim() }
  if (manager.value) attributes.manager = String(manager.value.id)
  const made = await run(() => api<Schemas['ChangeSetView']>('/api/v1/people/edits', { method: 'POST', body: { people: props.people, attributes, until: until.value || null } }))
  if (!made) return
  emit('shown')
  emit('close')
  await router.push(`/now/change-sets/${made.id}`)
}
</script>

<template>
  <Dialog visible modal :draggable="false" :header="`Move ${whom}`" @update:visible="emit('close')">
    <form class="fields" @submit.prevent="show">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <label>To the unit<InputText v-model="unit" :list="list" required autocomplete="off" /></label>
      <datalist :id="list"><option v-for="one in units.data.value ?? []" :key="one" :value="one" /></datalist>
      <p v-if="isNew" class="signal small" role="status">Nobody is in {{ unit.trim() }} yet. Rules go by the exact name.</p>
      <p v-if="manager">Their manager: <bdi>{{ manager.name }}</bdi> <Button type="button" text size="small" severity="secondary" label="Leave the one they have" @click="manager = null" /></p>
      <PickPerson v-else label="Another manager, if there is one" @pick="(id, name) => (manager = { id, name })" />
      <label>Up to and with<span class="hint">then its sources have the say again; empty for good</span><input v-model="until" type="date" /></label>
      <p class="small soft">Next you see what each gains and loses in each application. Nothing is written before you release it.</p>
      <div class="acts"><Button type="submit" label="Show what they gain and lose" :disabled="!unit.trim()" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>
