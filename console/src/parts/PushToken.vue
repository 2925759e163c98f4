<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { number } from '../use/words'

/** By what whoever pushes to a feed shows who it is; the token is seen once. */
const props = defineProps<{ feed: Schemas['FeedView'] }>()
const emit = defineEmits<{ made: [] }>()
const session = useSession()
const { isBusy, trouble, run } = useAct()
const made = ref<Schemas['FeedTokenView']>()
const isCopied = ref(false)

const waitsFor = computed(() => {
  if (props.feed.state !== 'on') return 'until it is switched on.'
  return props.feed.last?.outcome === 'stopped' ? 'with the delivery that is stopped. What is sent meanwhile joins it; what is put right there goes on by itself.' : 'for the next delivery.'
})

async function make(): Promise<void> {
  const done = await run(() => api<Schemas['FeedTokenView']>(`/api/v1/feeds/${encodeURIComponent(props.feed.source)}/token`, { method: 'POST' }))
  if (done) {
    made.value = done
    isCopied.value = false
    emit('made')
  }
}
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(made.value?.token ?? '')
  isCopied.value = true
}
</script>

<template>
  <section class="token">
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <p v-if="feed.waiting">{{ feed.waiting === 1 ? '1 change waits' : `${number(feed.waiting)} changes wait` }} {{ waitsFor }}</p>
    <template v-if="made">
      <dl>
        <dt>address</dt><dd><code>{{ made.address }}</code></dd>
        <dt>token</dt><dd><code class="secret">{{ made.token }}</code> <Button :label="isCopied ? 'Copied' : 'Copy it'" severity="secondary" size="small" @click="copy" /></dd>
      </dl>
      <p class="small soft">Give both to whoever looks after the HR system. The token is shown this once; a token made before is good for nothing now.</p>
    </template>
    <template v-else>
      <p v-if="!feed.hasSecret">Whoever sends needs a token to show who it is.</p>
      <Button v-if="session.may('edit-settings')" :label="feed.hasSecret ? 'Replace its token' : 'Make its token'" :severity="feed.hasSecret ? 'secondary' : undefined" :loading="isBusy" @click="make" />
    </template>
  </section>
</template>

<style scoped>
.token { display: grid; gap: 0.6rem; justify-items: start; margin: 1rem 0; }
.token p { margin: 0; max-width: 46rem; }
.token dl { margin: 0; }
.secret { overflow-wrap: anywhere; }
</style>
