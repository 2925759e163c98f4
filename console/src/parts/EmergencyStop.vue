<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, onUnmounted, ref, useId } from 'vue'
import { useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import WhenText from './WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'

/** Shuts a person out of everything at once; shows how far that has come, and lifts it. */
const props = defineProps<{ person: Schemas['PersonView'] }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const router = useRouter()
const id = useId()
const path = computed(() => `/api/v1/people/${props.person.id}/emergency-stop`)
const stop = computed(() => props.person.emergencyStop)
const isMoving = computed(() => stop.value?.accounts.some((one) => [one.signIn, one.waysIn].some((word) => word === 'being shut' || word === 'refused')))
const isAsking = ref(false)
const reason = ref('')
const now = ref(Date.now())
const ticking = window.setInterval(() => (now.value = Date.now()), 1000)
onUnmounted(() => window.clearInterval(ticking))
const { isBusy, trouble, run } = useAct()
const begun = ref<number | null>(null)

async function act(lifts: boolean): Promise<void> {
  const done = await run(async () => ({ set: await api<Schemas['ChangeSetView'] | null>(lifts ? `${path.value}/lift` : path.value, { method: 'POST', body: { reason: reason.value } }) }))
  if (!done) return
  isAsking.value = false
  reason.value = ''
  begun.value = Date.now()
  emit('done')
  if (lifts && done.set) await router.push(`/now/change-sets/${done.set.id}`)
}

/** The clock of each application runs until it is seen to be shut. */
function standing(word: string, shutAt: string | null | undefined): string {
  if (!stop.value) return ''
  if (word === 'being shut') return begun.value ? `being shut, ${Math.max(0, Math.round((now.value - begun.value) / 1000))} s` : 'being shut'
  return shutAt ? `shut after ${((Date.parse(shutAt) - Date.parse(stop.value.since)) / 1000).toFixed(1)} s` : word
}

defineExpose({ ask: () => (isAsking.value = true) })
</script>

<template>
  <section v-if="stop" class="stop" aria-label="Emergency stop">
    <h2>Emergency stop</h2>
    <p role="status">{{ isMoving ? 'Being shut out' : stop.isShut ? 'Shut out of everything' : 'Shut out, as far as it is known' }}: {{ stop.reason }} <span class="soft small">{{ stop.by }}, <WhenText :at="stop.since" full /></span></p>
    <p v-if="!stop.accounts.length">There is no account of theirs. None will be made while this holds.</p>
    <table v-else>
      <thead><tr><th>Application</th><th>Sign-in</th><th>Sessions and other ways in</th></tr></thead>
      <tbody>
        <tr v-for="one in stop.accounts" :key="one.application">
          <td>{{ one.application }} <span class="soft small"><bdi>{{ one.name }}</bdi></span></td>
          <td :class="{ signal: one.signIn !== 'shut' }">{{ standing(one.signIn, one.signInShutAt) }}</td>
          <td :class="{ signal: one.waysIn !== 'shut' }">{{ one.waysIn === 'not known' ? 'not known here: end sessions there by hand' : standing(one.waysIn, one.waysInShutAt) }}<p v-if="one.problem" class="small soft why">{{ one.problem.what }} {{ one.problem.remedy }}</p></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="!isAsking && session.may('lift-emergency-stop')" label="Lift it …" severity="secondary" @click="isAsking = true" />
  </section>
  <form v-if="isAsking" class="ask" @submit.prevent="act(!!stop)">
    <p>{{ stop ? 'What comes back is shown first, and waits for its release.' : `Sign-in, sessions, tokens and all other ways in are shut in every application at once, past every pause, limit and release. ${person.displayName} stays shut out until somebody lifts it.` }}</p>
    <label :for="id">Why, for the journal</label>
    <InputText :id="id" v-model="reason" required autofocus />
    <Button type="submit" :severity="stop ? undefined : 'warn'" :label="stop ? `Lift the stop of ${person.displayName}` : `Shut ${person.displayName} out now`" :loading="isBusy" :disabled="!reason.trim()" />
    <Button label="Rather not" severity="secondary" @click="isAsking = false" />
  </form>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
</template>

<style scoped>
.stop { border-left: 0.35rem solid var(--signal); padding: 0.2rem 0 0.6rem 1rem; margin-bottom: 1rem; }
.stop h2 { margin-top: 0.2rem; }
td:nth-child(2) { white-space: nowrap; }
.why { margin: 0; font-weight: 400; }
.stop table { margin: 0.4rem 0 0.6rem; }
.ask { display: flex; flex-wrap: wrap; gap: 0.5rem; align-items: center; background: var(--signal-soft); padding: 0.6rem 0.8rem; margin-bottom: 1rem; }
.ask p { flex-basis: 100%; margin: 0; }
.ask input { flex: 1; min-width: 16rem; }
</style>
