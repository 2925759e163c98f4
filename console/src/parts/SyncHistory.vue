<script setup lang="ts">
import Button from 'primevue/button'
import { toRef } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import StateView from './StateView.vue'
import WhenText from './WhenText.vue'
import { usePages } from '../use/pages'
import { number } from '../use/words'

/** When an application was read, and what came of it. */
const props = defineProps<{ path: string }>()
const path = toRef(props, 'path')
const syncs = usePages<Schemas['SyncRunView']>((cursor, signal) => api<Page<Schemas['SyncRunView']>>(`${path.value}/syncs${query({ cursor, limit: 5 })}`, { signal }), [path])
</script>

<template>
  <StateView :data="syncs.items.value" :trouble="syncs.trouble.value" :is-loading="syncs.isLoading.value" :is-empty="!syncs.items.value?.length" @retry="syncs.reload">
    <template #empty>It was never read.</template>
    <table>
      <thead><tr><th>Read</th><th>By</th><th class="number">Accounts</th><th class="number">Changed</th><th class="number">New</th><th class="number">Gone</th><th class="number">Drifted</th><th class="number">Nobody's</th><th>How it ended</th></tr></thead>
      <tbody>
        <tr v-for="one in syncs.items.value ?? []" :key="one.id">
          <td><WhenText :at="one.begunAt" /></td><td>{{ one.by }}</td>
          <td class="number">{{ number(one.read) }}<span v-if="!one.everything" class="soft small"> that changed</span></td>
          <td class="number">{{ number(one.changed) }}</td><td class="number">{{ number(one.found) }}</td><td class="number">{{ number(one.missing) }}</td><td class="number">{{ number(one.drifted) }}</td><td class="number">{{ number(one.unmatched) }}</td>
          <td><span v-if="one.problem" class="signal">{{ one.problem.what }}</span><span v-else-if="!one.endedAt" role="status">going on</span><RouterLink v-else-if="one.changeSet" :to="`/now/change-sets/${one.changeSet}`">what drifted</RouterLink><span v-else class="soft">in step</span></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="syncs.hasMore.value" label="Show earlier ones" severity="secondary" @click="syncs.more" />
  </StateView>
</template>
