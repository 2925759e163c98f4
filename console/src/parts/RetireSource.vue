<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { attribute, count, number } from '../use/words'
import ProblemNote from './ProblemNote.vue'

/** What would become of all that a source says, and the act of taking it away. */
const props = defineProps<{ source: string }>()
const router = useRouter()
const path = computed(() => `/api/v1/sources/${encodeURIComponent(props.source)}/retirement`)
const { isBusy, trouble: refused, run } = useAct()
const found = ref<Schemas['RetirementView'] | null>(null)

async function look(): Promise<void> {
  found.value = (await run(() => api<Schemas['RetirementView']>(path.value))) ?? null
}
async function retire(): Promise<void> {
  const made = await run(() => api<Schemas['ChangeSetView']>(path.value, { method: 'POST' }))
  if (made) await router.push(`/now/change-sets/${made.id}`)
}
</script>

<template>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <Button v-if="!found" label="See what would fall back to whom" severity="secondary" :loading="isBusy" @click="look" />
  <template v-else>
    <p>{{ source }} knows {{ found.isWhole ? '' : 'more than ' }}{{ count(found.people, 'person', 'people') }}.<strong v-if="found.alone" class="signal"> Of {{ number(found.alone) }} nobody else says anything: they would have left.</strong></p>
    <table>
      <thead><tr><th>Attribute</th><th class="number">People</th><th>Falls to</th><th class="number">With another value</th></tr></thead>
      <tbody><tr v-for="one in found.fallbacks" :key="one.attribute + one.to"><td>{{ attribute(one.attribute) }}</td><td class="number">{{ number(one.people) }}</td><td>{{ one.to ?? 'nobody' }}</td><td class="number">{{ one.to ? number(one.others) : '' }}</td></tr></tbody>
    </table>
    <div class="acts"><Button :label="`Show what taking away all that ${source} says changes`" severity="secondary" :loading="isBusy" @click="retire" /><Button label="Leave it" severity="secondary" @click="found = null" /></div>
  </template>
</template>
