<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { usePages } from '../use/pages'
import { capital, number } from '../use/words'

const session = useSession()
const route = useRoute()
const router = useRouter()
const TABS = [['sets', 'Change sets', 'see'], ['imports', 'Imports', 'see-imports'], ['notices', 'Notices', 'see'], ['journal', 'Journal', 'see']] as const
const tabs = computed(() => TABS.filter(([, , act]) => session.may(act)))
const tab = computed(() => String(route.query.tab ?? 'sets'))
const none = <T>(): Promise<Page<T>> => Promise.resolve({ items: [], next: null, total: 0, moreThan: null })
const pages = <T>(name: string, path: string) => usePages<T>((cursor, signal) => (tab.value === name ? api<Page<T>>(`${path}${query({ cursor })}`, { signal }) : none<T>()), [tab])
const sets = pages<Schemas['ChangeSetView']>('sets', '/api/v1/change-sets')
const imports = pages<Schemas['ImportView']>('imports', '/api/v1/imports')
const notices = pages<Schemas['NoticeView']>('notices', '/api/v1/notices')
const journal = pages<Schemas['JournalEntryView']>('journal', '/api/v1/journal')
const shown = computed(() => ({ sets, imports, notices, journal })[tab.value] ?? sets)
const failed = (set: Schemas['ChangeSetView']): number => set.counts.filter((one) => one.state === 'refused' || one.state === 'blocked').reduce((n, one) => n + one.count, 0)
</script>

<template>
  <PageHead title="Behind"><template #facts>What happened, newest first</template></PageHead>
  <div class="switch tabs" role="group" aria-label="What happened"><button v-for="[value, words] in tabs" :key="value" type="button" :aria-pressed="tab === value" @click="router.replace({ query: { tab: value === 'sets' ? undefined : value } })">{{ words }}</button></div>
  <StateView :data="shown.items.value as unknown[] | null" :trouble="shown.trouble.value" :is-loading="shown.isLoading.value" :is-empty="!shown.items.value?.length" @retry="shown.reload">
    <template #empty>Nothing has happened yet.</template>
    <table v-if="tab === 'sets'">
      <thead><tr><th class="number">Set</th><th>What</th><th>State</th><th class="number">People</th><th>By</th><th>When</th></tr></thead>
      <tbody><tr v-for="one in sets.items.value ?? []" :key="one.id"><td class="number">{{ one.id }}</td><td><RouterLink :to="`/now/change-sets/${one.id}`"><bdi>{{ capital(one.title) }}</bdi></RouterLink></td><td>{{ one.takenBackBy ? 'taken back' : one.state }}<span v-if="failed(one)" class="signal">, {{ number(failed(one)) }} failed</span></td><td class="number">{{ number(one.people) }}</td><td>{{ one.releasedBy ?? one.createdBy }}</td><td><WhenText :at="one.releasedAt ?? one.createdAt" /></td></tr></tbody>
    </table>
    <table v-else-if="tab === 'imports'">
      <thead><tr><th class="number">Import</th><th>File</th><th>Source</th><th>New, changed, set aside, refused</th><th>By</th><th>When</th></tr></thead>
      <tbody><tr v-for="one in imports.items.value ?? []" :key="one.id"><td class="number">{{ one.id }}</td><td><RouterLink :to="`/now/imports/${one.id}`"><bdi>{{ one.file }}</bdi></RouterLink></td><td>{{ one.source }}</td><td>{{ ['new', 'changed', 'set aside', 'refused'].map((v) => number(one.counts[v] ?? 0)).join(', ') }}</td><td>{{ one.createdBy }}</td><td><WhenText :at="one.createdAt" /></td></tr></tbody>
    </table>
    <table v-else-if="tab === 'notices'">
      <thead><tr><th>Notice</th><th>Person</th><th>To</th><th>State</th><th>When</th></tr></thead>
      <tbody><tr v-for="one in notices.items.value ?? []" :key="one.id"><td>{{ one.subject }}</td><td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td><td>{{ one.recipient }}</td><td :class="{ signal: one.state === 'undeliverable' }">{{ one.state }}</td><td><WhenText :at="one.sentAt ?? one.createdAt" /></td></tr></tbody>
    </table>
    <table v-else>
      <thead><tr><th>When</th><th>Who</th><th>What</th><th>Why</th></tr></thead>
      <tbody><tr v-for="one in journal.items.value ?? []" :key="one.id"><td><WhenText :at="one.at" full /></td><td>{{ one.actor === 'ebb' ? 'Ebb' : one.actor }}</td><td><RouterLink v-if="one.person" :to="`/who/${one.person}`">person {{ one.person }}</RouterLink> {{ one.act }}</td><td>{{ one.reason }}</td></tr></tbody>
    </table>
    <Button v-if="shown.hasMore.value" label="Show more" severity="secondary" @click="shown.more" />
  </StateView>
</template>

<style scoped>
.tabs { margin-bottom: 0.6rem; }
</style>
