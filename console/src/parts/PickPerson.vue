<script setup lang="ts">
import InputText from 'primevue/inputtext'
import { ref, useId, watch } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'

/** Chooses one person by typing the beginning of a name. */
defineProps<{ label: string }>()
const emit = defineEmits<{ pick: [person: number, name: string] }>()
const id = useId()
const text = ref('')
const found = ref<Schemas['FoundView'][]>([])
/** Those who are off: nothing new goes to them. */
const left = ref(0)
let running: AbortController | null = null
watch(text, async (now) => {
  running?.abort()
  found.value = []
  left.value = 0
  if (!now.trim()) return
  const mine = (running = new AbortController())
  try {
    const page = await api<Page<Schemas['FoundView']>>(`/api/v1/find${query({ text: now.trim() })}`, { signal: mine.signal })
    const people = page.items.filter((one) => one.kind === 'person')
    found.value = people.filter((one) => !one.off)
    left.value = people.length - found.value.length
  } catch (e) {
    if (!mine.signal.aborted) throw e
  }
})
</script>

<template>
  <div class="pick">
    <label :for="id">{{ label }}<InputText :id="id" v-model="text" autocomplete="off" /></label>
    <ul v-if="found.length" class="plain"><li v-for="one in found" :key="one.key"><button type="button" @click="emit('pick', Number(one.key), one.name)"><bdi>{{ one.name }}</bdi> <span class="soft small">{{ one.detail }}</span></button></li></ul>
    <p v-if="left" class="soft small" role="status">{{ left === 1 ? 'One more is' : `${left} more are` }} suspended, on leave or departed, and not offered.</p>
  </div>
</template>

<style scoped>
label { display: grid; gap: 0.2rem; font-weight: 600; font-size: 0.9rem; max-width: 24rem; }
li button { font: inherit; color: var(--ink); background: none; border: 0; border-left: 3px solid var(--line); padding: 0.25rem 0.6rem; cursor: pointer; text-align: left; }
li button:hover, li button:focus-visible { background: var(--water-faint); border-left-color: var(--water); }
</style>
