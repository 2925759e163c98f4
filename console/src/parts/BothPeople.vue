<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { attribute } from '../use/words'
import ProblemNote from './ProblemNote.vue'

/** Two records that may be one person, side by side, and what can be said of it. */
const props = defineProps<{ id: number; name: string; alike: Schemas['AlikeView'] }>()
const emit = defineEmits<{ apart: [] }>()
const session = useSession()
const router = useRouter()
const { isBusy, trouble: refused, run } = useAct()
const path = computed(() => `/api/v1/people/${props.id}`)
const values = computed(() => props.alike.values.filter((one) => one.attribute !== 'manager' && one.attribute !== 'photos.photo'))

async function merge(): Promise<void> {
  const made = await run(() => api<Schemas['ChangeSetView']>(`${path.value}/merge`, { method: 'POST', body: { other: props.alike.id } }))
  if (made) await router.push(`/now/change-sets/${made.id}`)
}
async function apart(): Promise<void> {
  const done = await run(() => api(`${path.value}/apart`, { method: 'POST', body: { other: props.alike.id } }))
  if (done !== undefined) emit('apart')
}
defineExpose({ merge, apart })
</script>

<template>
  <section class="both">
    <ProblemNote v-if="refused" :problems="refused.problems" />
    <div class="scroll">
      <table>
        <thead><tr><th><span class="unseen">Attribute</span></th><th><RouterLink :to="`/who/${id}`"><bdi>{{ name }}</bdi></RouterLink> <span class="small soft">person {{ id }}</span></th><th><RouterLink :to="`/who/${alike.id}`"><bdi>{{ alike.displayName }}</bdi></RouterLink> <span class="small soft">person {{ alike.id }}, {{ alike.stage }}</span></th></tr></thead>
        <tbody>
          <tr><th scope="row">Why they may be one</th><td colspan="2">{{ alike.reasons.join(', ') }} <span class="small soft">likeness {{ alike.score }} of 100</span></td></tr>
          <tr v-for="both in values" :key="both.attribute"><th scope="row">{{ attribute(both.attribute) }}</th><td><bdi>{{ both.one ?? '—' }}</bdi></td><td :class="{ other: both.one !== both.other }"><bdi>{{ both.other ?? '—' }}</bdi></td></tr>
        </tbody>
      </table>
    </div>
    <div v-if="session.may('edit-people')" class="acts">
      <Button size="small" label="They are one: show what follows" :disabled="isBusy" @click="merge" /><Button size="small" severity="secondary" label="They are two" :disabled="isBusy" @click="apart" />
      <span class="small soft">The record on the left is kept; accounts of the other are closed by the gates of a departure.</span>
    </div>
  </section>
</template>

<style scoped>
.both { border-left: 3px solid var(--water); padding: 0 0 0.6rem 1rem; margin: 0 0 1.6rem; }
.acts { margin-top: 0.8rem; }
.other { border-left: 3px solid var(--signal); padding-left: 0.5rem; }
th[scope='row'] { width: 12rem; }
</style>
