<script setup lang="ts">
import Button from 'primevue/button'
import { computed, toRef } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'

/** People a file that names everybody does not name, each with what is true of them. */
const props = defineProps<{ made: Schemas['ImportView']; decides: boolean }>()
const emit = defineEmits<{ decided: [] }>()
const id = toRef(() => props.made.id)
const path = computed(() => `/api/v1/imports/${id.value}/missing`)
const { isBusy, trouble: refused, run } = useAct()
const DECISIONS = [['leaver', 'Has left'], ['still-here', 'Is still here'], ['unknown', 'Not known']] as const
const missing = usePages<Schemas['MissingView']>((cursor, signal) => api<Page<Schemas['MissingView']>>(`${path.value}${query({ cursor })}`, { signal }), [id])

async function decide(key: string, decision: string): Promise<void> {
  await run(() => api(`${path.value}/${encodeURIComponent(key)}`, { method: 'PUT', body: { decision } }))
  await missing.reload()
  emit('decided')
}
</script>

<template>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="missing.items.value" :trouble="missing.trouble.value" :is-loading="missing.isLoading.value" :is-empty="!missing.items.value?.length" @retry="missing.reload">
    <template #empty>{{ made.complete ? 'The file names everybody it named before.' : 'The file does not say that it names everybody, so nobody is missing.' }}</template>
    <table>
      <thead><tr><th>Key</th><th>Person</th><th>What is true of them</th></tr></thead>
      <tbody>
        <tr v-for="one in missing.items.value ?? []" :key="one.key">
          <td><bdi>{{ one.key }}</bdi></td>
          <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
          <td>
            <div v-if="decides" class="switch" role="group" :aria-label="`What is true of ${one.displayName}`">
              <button v-for="[value, words] in DECISIONS" :key="value" type="button" :aria-pressed="one.decision === value" :disabled="isBusy" @click="decide(one.key, value)">{{ words }}</button>
            </div>
            <template v-else>{{ one.decision }}</template>
          </td>
        </tr>
      </tbody>
    </table>
    <Button v-if="missing.hasMore.value" label="Show more" severity="secondary" @click="missing.more" />
  </StateView>
</template>
