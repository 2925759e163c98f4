<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PickPerson from './PickPerson.vue'
import ProblemNote from './ProblemNote.vue'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { useShownSet } from '../use/set'
import { day } from '../use/words'

/** Somebody leaves: when, and who gets what they leave behind. What follows is said before it begins. */
const props = defineProps<{ person: Schemas['PersonView'] }>()
const emit = defineEmits<{ close: [] }>()
const { isBusy, trouble, run } = useAct()
const carryOut = useShownSet()
const clock = useResource((signal) => api<Schemas['ClockView']>('/api/v1/clock', { signal }), [], false)
const procedures = useResource(async (signal) => (await api<Page<Schemas['ProcedureView']>>('/api/v1/procedures', { signal })).items, [], false)
const today = computed(() => clock.data.value?.now.slice(0, 10) ?? '')
const chosen = ref('')
const lastDay = computed({ get: () => chosen.value || today.value, set: (value: string) => (chosen.value = value) })
const successor = ref<{ id: number; name: string } | null>(null)
const procedure = computed(() => {
  const kind = props.person.attributes.userType?.value.toLowerCase()
  return procedures.data.value?.find((one) => one.kind === kind) ?? procedures.data.value?.find((one) => one.kind === null)
})
function after(days: number): string {
  if (!lastDay.value) return ''
  const date = new Date(`${lastDay.value}T00:00:00Z`)
  date.setUTCDate(date.getUTCDate() + days)
  return day(date.toISOString().slice(0, 10))
}
async function begin(): Promise<void> {
  await run(async () => {
    await carryOut('/api/v1/departures', { person: props.person.id, lastDay: lastDay.value, successor: successor.value?.id ?? null })
    emit('close')
  })
}
</script>

<template>
  <Dialog visible modal :draggable="false" :header="`${person.displayName} leaves`" @update:visible="emit('close')">
    <form class="fields" @submit.prevent="begin">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <label for="l-day">Last day<span class="hint">the last on which they may use anything; yesterday or before begins at once</span><input id="l-day" v-model="lastDay" type="date" required /></label>
      <p v-if="successor">What they leave behind goes to <bdi>{{ successor.name }}</bdi>. <Button type="button" text size="small" severity="secondary" label="Rather to their manager" @click="successor = null" /></p>
      <PickPerson v-else label="Who gets what they leave behind, if not their manager" @pick="(id, name) => (successor = { id, name })" />
      <ol v-if="procedure" class="small">
        <li>After {{ day(lastDay) }} every account of theirs is switched off, and other ways in are shut.</li>
        <li v-if="procedure.asksReturn">Somebody says that they are not coming back: nothing is removed before.</li>
        <li>From {{ after(procedure.handOverDays) }} what they own is handed over and the handover is proven.</li>
        <li>From {{ after(procedure.waitDays) }} accounts are deleted, each once all its gates are open. Until then all of it can be turned back.</li>
      </ol>
      <div class="acts"><Button type="submit" severity="warn" :label="`Let ${person.displayName} leave after ${day(lastDay)}`" :disabled="!lastDay" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
ol { margin: 0; padding-left: 1.2rem; display: grid; gap: 0.25rem; }
</style>
