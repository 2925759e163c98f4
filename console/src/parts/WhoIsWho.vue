<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Page, type Schemas } from '../api/client'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import BothPeople from './BothPeople.vue'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'

/** By which keys a person is known, and who else may be the same. */
const props = defineProps<{ person: Schemas['PersonView'] }>()
const session = useSession()
const router = useRouter()
const id = toRef(() => props.person.id)
const path = computed(() => `/api/v1/people/${id.value}`)
const keys = useResource(async (signal) => (await api<Page<Schemas['KeyView']>>(`${path.value}/keys`, { signal })).items, [id])
const alike = useResource(async (signal) => (await api<Page<Schemas['AlikeView']>>(`${path.value}/alike`, { signal })).items, [id])
const { isBusy, trouble: refused, run } = useAct()
const parting = ref<Schemas['KeyView'] | null>(null)

async function part(key: Schemas['KeyView']): Promise<void> {
  const made = await run(() => api<Schemas['ChangeSetView']>(`${path.value}/part`, { method: 'POST', body: key }))
  parting.value = null
  if (made) await router.push(`/now/change-sets/${made.id}`)
}
</script>

<template>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <h2>Known as</h2>
  <StateView :data="keys.data.value" :trouble="keys.trouble.value" :is-loading="keys.isLoading.value" :is-empty="!keys.data.value?.length" :rows="2" @retry="keys.reload">
    <template #empty>No source knows them: they were added by hand.</template>
    <table class="keys">
      <thead><tr><th>Source</th><th>Key there</th><th><span class="unseen">Acts</span></th></tr></thead>
      <tbody>
        <tr v-for="one in keys.data.value ?? []" :key="one.source + one.key">
          <td>{{ one.source }}</td>
          <td><bdi>{{ one.key }}</bdi></td>
          <td>
            <template v-if="session.may('edit-people') && (keys.data.value?.length ?? 0) > 1">
              <span v-if="parting === one" class="acts"><span class="small">All that was said under it goes to a new record; you see first what follows.</span><Button size="small" :label="`Show what parting ${one.key} changes`" :loading="isBusy" @click="part(one)" /><Button size="small" severity="secondary" label="Leave it" @click="parting = null" /></span>
              <Button v-else size="small" text label="That is somebody else" :aria-label="`${one.key} of ${one.source} is somebody else`" @click="parting = one" />
            </template>
          </td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <h2>Who may be the same</h2>
  <StateView :data="alike.data.value" :trouble="alike.trouble.value" :is-loading="alike.isLoading.value" :is-empty="!alike.data.value?.length" :rows="3" @retry="alike.reload">
    <template #empty>Nobody known is much like {{ person.displayName }}.</template>
    <BothPeople v-for="one in alike.data.value ?? []" :id="person.id" :key="one.id" :name="person.displayName" :alike="one" @apart="alike.reload" />
  </StateView>
</template>

<style scoped>
.keys { max-width: 60rem; }
</style>
