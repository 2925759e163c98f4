<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, useId } from 'vue'
import { api, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import WhenText from './WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'

/** Stops work until somebody lets it go on: on one application, or on all. */
const props = defineProps<{ stopped?: Schemas['PauseView'] | null; stopPath: string; goOnPath: string; what: string }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const id = useId()
const isAsking = ref(false)
const why = ref('')
const { isBusy, trouble, run } = useAct()

async function act(path: string, body?: { why: string }): Promise<void> {
  const done = await run(() => api(path, { method: 'POST', body }))
  if (done) {
    isAsking.value = false
    why.value = ''
    emit('done')
  }
}
</script>

<template>
  <section :aria-label="what">
    <template v-if="stopped">
      <p class="signal" role="status">Nothing is sent: {{ stopped.why }} <span class="soft small">{{ stopped.by }}, <WhenText :at="stopped.at" /></span></p>
      <Button v-if="session.may('stop-work')" :label="`Let ${what} go on`" :loading="isBusy" @click="act(props.goOnPath)" />
    </template>
    <form v-else-if="isAsking" @submit.prevent="act(props.stopPath, { why })">
      <p>What is under way is finished and recorded; nothing else is sent. What waits stays where it is.</p>
      <label :for="id">Why, for everybody to read</label>
      <InputText :id="id" v-model="why" required autofocus />
      <Button type="submit" :label="`Stop ${what}`" :loading="isBusy" :disabled="!why.trim()" />
      <Button label="Rather not" severity="secondary" @click="isAsking = false" />
    </form>
    <Button v-else-if="session.may('stop-work')" :label="`Stop ${what} …`" severity="secondary" @click="isAsking = true" />
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
  </section>
</template>

<style scoped>
form { display: flex; flex-wrap: wrap; gap: 0.5rem; align-items: center; }
form p { flex-basis: 100%; margin: 0; }
input { flex: 1; min-width: 16rem; }
</style>
