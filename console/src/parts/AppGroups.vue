<script setup lang="ts">
import Button from 'primevue/button'
import { toRef } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import StateView from './StateView.vue'
import { usePages } from '../use/pages'
import { count, number } from '../use/words'

/** Groups of an application: who put their members there, and who in them is nobody. */
const props = defineProps<{ path: string }>()
const path = toRef(props, 'path')
const groups = usePages<Schemas['AppGroupView']>((cursor, signal) => api<Page<Schemas['AppGroupView']>>(`${path.value}/groups${query({ cursor })}`, { signal }), [path])
</script>

<template>
  <StateView :data="groups.items.value" :trouble="groups.trouble.value" :is-loading="groups.isLoading.value" :is-empty="!groups.items.value?.length" @retry="groups.reload">
    <template #empty>No group was seen here. They come with a sync, where the application shows them.</template>
    <table>
      <thead><tr><th>Group</th><th class="number">Accounts in it</th><th class="number">Put there by Ebb</th><th>Owners</th><th>Groups within</th><th>Nobody's account</th></tr></thead>
      <tbody>
        <tr v-for="one in groups.items.value ?? []" :key="one.name">
          <td><bdi>{{ one.name }}</bdi></td><td class="number">{{ number(one.members) }}</td><td class="number">{{ number(one.given) }}</td>
          <td>{{ one.owners.join(', ') }}</td><td>{{ one.inner.join(', ') }}</td>
          <td><details v-if="one.strangers.length"><summary class="signal">{{ count(one.strangers.length, 'member', 'members') }}</summary><ul class="plain small"><li v-for="who in one.strangers" :key="who"><bdi>{{ who }}</bdi></li></ul></details></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="groups.hasMore.value" label="Show more" severity="secondary" @click="groups.more" />
  </StateView>
</template>
