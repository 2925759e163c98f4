<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Page, type Schemas } from '../api/client'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import ProblemNote from './ProblemNote.vue'

/** The next step after a feed was tried out: back to it, and on. */
const props = defineProps<{ source: string }>()
const session = useSession()
const router = useRouter()
const { isBusy, trouble, run } = useAct()
const feeds = useResource(async (signal) => (await api<Page<Schemas['FeedView']>>('/api/v1/feeds', { signal })).items)
const feed = computed(() => feeds.data.value?.find((one) => one.source === props.source && one.state !== 'on') ?? null)
const page = computed(() => `/where/feeds/${encodeURIComponent(props.source)}`)

async function switchOn(): Promise<void> {
  const done = await run(() => api(`/api/v1/feeds/${encodeURIComponent(props.source)}/on`, { method: 'POST' }))
  if (done !== undefined) await router.push(page.value)
}
</script>

<template>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <div v-if="feed" class="tried">
    <p>So <RouterLink :to="page">feed {{ source }}</RouterLink> would bring it. Once it is on, its deliveries come in by themselves, and what is shown here is given up.</p>
    <Button v-if="session.may('edit-settings') && feed.isMapped" :label="`Switch feed ${source} on`" :loading="isBusy" @click="switchOn" />
  </div>
</template>

<style scoped>
.tried { border-left: 3px solid var(--water); padding: 0.1rem 0 0.1rem 1rem; margin: 1rem 0; display: grid; gap: 0.6rem; justify-items: start; }
.tried p { margin: 0; max-width: 46rem; }
</style>
