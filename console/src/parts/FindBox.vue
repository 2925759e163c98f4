<script setup lang="ts">
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { placeOf } from '../places'
import ProblemNote from './ProblemNote.vue'

const isOpen = defineModel<boolean>('open', { required: true })
const router = useRouter()
const text = ref('')
const found = ref<Schemas['FoundView'][]>([])
const chosen = ref(0)
const looked = ref('')
const input = ref<{ $el: HTMLInputElement } | null>(null)
const { trouble, run } = useAct()
let running: AbortController | null = null
/** Enter was pressed before what was typed had been looked for: whoever is found first is meant. */
let isMeantFirst = false

const kinds: Record<string, string> = { person: 'person', unit: 'unit', application: 'application', 'change-set': 'change set' }
const said = computed(() =>
  looked.value && looked.value === text.value.trim()
    ? found.value.length
      ? `${found.value.length} found`
      : `Nothing is called ${looked.value}. Names are looked for by how they begin.`
    : ''
)

watch(text, async (now) => {
  running?.abort()
  isMeantFirst = false
  const wanted = now.trim()
  if (!wanted) {
    found.value = []
    looked.value = ''
    return
  }
  const mine = (running = new AbortController())
  trouble.value = null
  try {
    const page = await api<Page<Schemas['FoundView']>>(`/api/v1/find${query({ text: wanted })}`, { signal: mine.signal })
    found.value = page.items
    looked.value = wanted
    chosen.value = 0
    if (isMeantFirst) go(page.items[0])
  } catch (e) {
    if (!mine.signal.aborted) await run(() => Promise.reject(e))
  }
})
watch(isOpen, (now) => {
  if (now) text.value = ''
})

function move(by: number): void {
  if (found.value.length) chosen.value = (chosen.value + by + found.value.length) % found.value.length
}
function enter(): void {
  if (looked.value === text.value.trim()) go(found.value[chosen.value])
  else isMeantFirst = true
}
function go(one: Schemas['FoundView'] | undefined): void {
  if (!one) return
  isOpen.value = false
  void router.push(placeOf(one.kind, one.key))
}
</script>

<template>
  <Dialog v-model:visible="isOpen" modal header="Find" class="find" position="top" :draggable="false" @show="nextTick(() => input?.$el.focus())">
    <label class="soft small" for="find-text">A person, unit, application or change set: by name, login or number</label>
    <InputText
      id="find-text" ref="input" v-model="text" role="combobox" aria-controls="found" aria-autocomplete="list" :aria-expanded="found.length > 0"
      :aria-activedescendant="found.length ? `found-${chosen}` : undefined" autocomplete="off" autofocus fluid
      @keydown.down.prevent="move(1)" @keydown.up.prevent="move(-1)" @keydown.enter.prevent="enter"
    />
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <p role="status" class="small soft">{{ said }}</p>
    <ul id="found" role="listbox" aria-label="Found" class="plain">
      <li
        v-for="(one, i) in found" :id="`found-${i}`" :key="one.kind + one.key" role="option" :aria-selected="i === chosen"
        :class="{ chosen: i === chosen }" @click="go(one)" @mousemove="chosen = i"
      >
        <bdi>{{ one.name }}</bdi> <span class="soft small">{{ one.detail === kinds[one.kind] ? one.detail : `${kinds[one.kind]} · ${one.detail}` }}</span>
      </li>
    </ul>
  </Dialog>
</template>

<style scoped>
li { padding: 0.4rem 0.6rem; cursor: pointer; display: flex; justify-content: space-between; gap: 1rem; border-left: 3px solid transparent; }
li.chosen { background: var(--water-faint); border-left-color: var(--water); }
</style>
