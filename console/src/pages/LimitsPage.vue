<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { reactive, ref } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { number } from '../use/words'

type Limit = Schemas['LimitView']
const session = useSession()
const limits = useResource(async (signal) => (await api<Page<Limit>>('/api/v1/limits', { signal })).items)
const { isBusy, trouble, run } = useAct()
const edited = ref<Limit | null>(null)
const form = reactive({ value: '', of: '', reason: '' })

function words(limit: Limit, value: number): string {
  return limit.unit === 'share' ? `${number(Math.round(value * 1000) / 10)}%` : number(value)
}
function edit(limit: Limit): void {
  edited.value = limit
  Object.assign(form, { value: String(limit.unit === 'share' ? Math.round(limit.value * 1000) / 10 : limit.value), of: '', reason: '' })
}
async function keep(): Promise<void> {
  const limit = edited.value!
  const typed = form.value.trim()
  const value = typed === '' ? null : Number(typed.replace(',', '.')) / (limit.unit === 'share' ? 100 : 1)
  const body = { value, of: form.of.trim() || null, reason: form.reason.trim() || null }
  const done = await run(() => api(`/api/v1/limits/${limit.name}`, { method: 'PUT', body }))
  if (done === undefined) return
  edited.value = null
  await limits.reload()
}
</script>

<template>
  <PageHead title="Limits" place="Why" to="/why"><template #facts>Beyond these the guard stops an import or a change set, until somebody lets it pass with a reason</template></PageHead>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <StateView :data="limits.data.value" :trouble="limits.trouble.value" :is-loading="limits.isLoading.value" @retry="limits.reload">
    <table>
      <thead><tr><th class="number">Limit</th><th>Of what</th><th>Why this number</th><th>Other for</th><th><span class="unseen">Acts</span></th></tr></thead>
      <tbody>
        <tr v-for="one in limits.data.value ?? []" :key="one.name">
          <td class="number"><strong>{{ words(one, one.value) }}</strong><span v-if="one.value !== one.usual" class="small soft"><br />usually {{ words(one, one.usual) }}</span></td>
          <td>{{ one.of }}</td>
          <td class="soft">{{ one.why }}</td>
          <td><span v-for="other in one.exceptions" :key="other.name">{{ other.name }} {{ words(one, other.value) }}<br /></span></td>
          <td><Button v-if="session.may('edit-settings')" size="small" text label="Change" :aria-label="`Change ${one.name}`" @click="edit(one)" /></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <template v-if="edited">
    <h2>Change: {{ edited.of }}</h2>
    <form class="fields" @submit.prevent="keep">
      <label for="value">{{ edited.unit === 'share' ? 'Percent' : 'Number' }}<span class="hint">left empty: what is usual, {{ words(edited, edited.usual) }}</span><InputText id="value" v-model="form.value" inputmode="decimal" autocomplete="off" /></label>
      <label for="of">Only for<span class="hint">a source or an application; left empty, for all</span><InputText id="of" v-model="form.of" autocomplete="off" /></label>
      <label for="reason">Reason<span class="hint">goes into the journal</span><InputText id="reason" v-model="form.reason" autocomplete="off" /></label>
      <div class="acts"><Button type="submit" label="Keep it so" :loading="isBusy" /><Button label="Leave it" severity="secondary" @click="edited = null" /></div>
    </form>
  </template>
</template>
