<script setup lang="ts">
import { ref } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import WhenText from './WhenText.vue'
import { useAct } from '../use/act'

/** What went over the wire for a change, try by try; read when it is opened. */
const props = defineProps<{ change: number }>()
const tries = ref<Schemas['AttemptView'][] | null>(null)
const { trouble, run } = useAct()

async function read(event: Event): Promise<void> {
  if ((event.target as HTMLDetailsElement).open) {
    tries.value = (await run(() => api<Page<Schemas['AttemptView']>>(`/api/v1/changes/${props.change}/attempts`)))?.items ?? null
  }
}
const millis = (one: Schemas['ExchangeView']): number => new Date(one.answeredAt).getTime() - new Date(one.askedAt).getTime()
</script>

<template>
  <details class="small" @toggle="read">
    <summary>what was sent</summary>
    <p v-if="trouble" class="signal">{{ trouble.problems[0]?.what }}</p>
    <p v-else-if="tries && !tries.length" class="soft">Nothing is kept of it: nothing went over the web, or it is long ago.</p>
    <ol v-else-if="tries" class="plain">
      <li v-for="one in tries" :key="one.number">
        <strong>Try {{ one.number }}</strong> <span class="soft">then {{ one.outcome }}</span>
        <div v-for="(exchange, i) in one.exchanges" :key="i" class="pair">
          <span class="soft"><WhenText :at="exchange.askedAt" />, {{ millis(exchange) }} ms</span>
          <pre>{{ exchange.request }}</pre>
          <pre>{{ exchange.answer }}</pre>
        </div>
      </li>
    </ol>
  </details>
</template>

<style scoped>
summary { cursor: pointer; }
pre { white-space: pre-wrap; overflow-wrap: anywhere; margin: 0.2rem 0; padding: 0.3rem 0.5rem; border-left: 3px solid var(--line); max-height: 12rem; overflow-y: auto; }
.pair { margin: 0.3rem 0 0.6rem; }
</style>
