<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, toRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { count, number } from '../use/words'

/** Groups of an application: who put their members there, and who in them is nobody. */
const props = defineProps<{ path: string }>()
const path = toRef(props, 'path')
const groups = usePages<Schemas['AppGroupView']>((cursor, signal) => api<Page<Schemas['AppGroupView']>>(`${path.value}/groups${query({ cursor })}`, { signal }), [path])
const session = useSession()
const router = useRouter()
const { isBusy, trouble, run } = useAct()
const why = ref('')

async function keep(group: string): Promise<void> {
  const kept = await run(() => api<Schemas['SettledView']>(`${path.value}/groups/keep-members`, { method: 'POST', body: { group, reason: null } }))
  if (kept?.changeSet) await router.push(`/now/change-sets/${kept.changeSet}`)
}
async function leave(group: string, reason: string | null): Promise<void> {
  await run(() => api(`${path.value}/groups/leave-alone`, { method: 'POST', body: { group, reason } }))
  why.value = ''
  await groups.reload()
}
</script>

<template>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <StateView :data="groups.items.value" :trouble="groups.trouble.value" :is-loading="groups.isLoading.value" :is-empty="!groups.items.value?.length" @retry="groups.reload">
    <template #empty>No group was seen here. They come with a sync, where the application shows them.</template>
    <table>
      <thead><tr><th>Group</th><th class="number">Accounts in it</th><th class="number">Put there by Ebb</th><th>What it means here</th><th>Owners</th><th>Groups within</th><th>Nobody's account</th></tr></thead>
      <tbody>
        <tr v-for="one in groups.items.value ?? []" :key="one.name">
          <td><bdi>{{ one.name }}</bdi></td><td class="number">{{ number(one.members) }}</td><td class="number">{{ number(one.given) }}</td>
          <td>
            <template v-if="one.leftAlone">nothing: {{ one.leftAlone.why }} <button v-if="session.may('edit-people')" type="button" class="open small" @click="leave(one.name, null)">it does after all</button></template>
            <template v-else-if="one.rules.length">given by {{ one.rules.join(', ') }}</template>
            <template v-else-if="one.given">granted</template>
            <details v-else><summary class="signal">not known</summary>
              <form v-if="session.may('edit-people')" class="decide" @submit.prevent="leave(one.name, why)">
                <Button size="small" :label="`Keep ${count(one.members, 'member', 'members')} in it`" :loading="isBusy" @click="keep(one.name)" />
                <label>It means nothing here, because <InputText v-model="why" size="small" required /></label>
                <Button type="submit" size="small" severity="secondary" label="Leave it alone" :disabled="!why.trim()" :loading="isBusy" />
              </form>
            </details>
          </td>
          <td>{{ one.owners.join(', ') }}</td><td>{{ one.inner.join(', ') }}</td>
          <td><details v-if="one.strangers.length"><summary class="signal">{{ count(one.strangers.length, 'member', 'members') }}</summary><ul class="plain small"><li v-for="who in one.strangers" :key="who"><bdi>{{ who }}</bdi></li></ul></details></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="groups.hasMore.value" label="Show more" severity="secondary" @click="groups.more" />
  </StateView>
</template>

<style scoped>
.decide { display: grid; gap: 0.4rem; justify-items: start; padding: 0.4rem 0; }
.decide label { display: grid; gap: 0.2rem; }
summary { cursor: pointer; }
.open { font: inherit; color: var(--water); background: none; border: 0; padding: 0; cursor: pointer; text-decoration: underline; }
</style>
