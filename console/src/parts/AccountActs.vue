<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, useId } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PickPerson from './PickPerson.vue'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'
import WhenText from './WhenText.vue'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'

/** What can be decided about one account: whose it is, and whether it is left as it is. */
const props = defineProps<{ account: Schemas['AccountView'] }>()
const emit = defineEmits<{ done: [linked: Schemas['LinkedView']] }>()
const id = useId()
const why = ref('')
const isPicking = ref(false)
const { isBusy, trouble, run } = useAct()
const path = `/api/v1/accounts/${props.account.id}`
const candidates = useResource<Page<Schemas['CandidateView']>>(
  async (signal) => (props.account.person ? { items: [], next: null, total: null, moreThan: null } : api(`${path}/candidates`, { signal })), [])
const details = useResource((signal) => api<Schemas['DetailsView']>(`${path}/details`, { signal }), [])

async function act(what: string, body?: object): Promise<void> {
  const linked = await run(() => api<Schemas['LinkedView']>(`${path}/${what}`, { method: 'POST', body }))
  if (linked) emit('done', linked)
}
</script>

<template>
  <section class="decide" :aria-label="`What becomes of ${account.name}`">
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <template v-if="!account.person">
      <h3>Whose is it?</h3>
      <StateView :data="candidates.data.value" :trouble="candidates.trouble.value" :is-loading="candidates.isLoading.value" :is-empty="!candidates.data.value?.items.length" @retry="candidates.reload">
        <template #empty>It is like nobody who is known.</template>
        <ul class="plain candidates">
          <li v-for="one in candidates.data.value?.items ?? []" :key="one.person">
            <RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink>
            <span class="soft">{{ one.department }}</span>
            <span>{{ one.why.join(', ') }}</span>
            <span v-if="one.account" class="signal">has {{ one.accountName }} here already</span>
            <Button v-else :label="`It is ${one.displayName}'s`" size="small" :loading="isBusy" @click="act('link', { other: one.person })" />
          </li>
        </ul>
      </StateView>
      <PickPerson v-if="isPicking" label="Whose it is: the beginning of a name" @pick="(person) => act('link', { other: person })" />
      <Button v-else label="Somebody else's …" severity="secondary" size="small" @click="isPicking = true" />
    </template>
    <p v-if="account.strippedAt">Stripped of what is personal <WhenText :at="account.strippedAt" />. Nothing is put back while it is off.</p>
    <p v-if="account.leftAlone">Left as it is: {{ account.leftAlone.why }} <span class="soft small">{{ account.leftAlone.by }}, <WhenText :at="account.leftAlone.at" /></span>
      <Button label="Keep it as it should be" severity="secondary" size="small" :loading="isBusy" @click="act('keep')" /></p>
    <form v-else @submit.prevent="act('leave-alone', { reason: why })">
      <label :for="id">{{ account.person ? 'It may differ, because' : 'It is nobody’s, and meant to be there, because' }}</label>
      <InputText :id="id" v-model="why" required />
      <Button type="submit" label="Leave it as it is" severity="secondary" size="small" :loading="isBusy" :disabled="!why.trim()" />
    </form>
    <Button v-if="account.person" label="It is not this person's" severity="secondary" size="small" :loading="isBusy" @click="act('unlink')" />
    <p v-if="details.data.value?.changedAt" class="soft">Last changed there <WhenText :at="details.data.value.changedAt" /><template v-if="details.data.value.changedBy"> by {{ details.data.value.changedBy }}</template></p>
    <details>
      <summary>All that it holds there now</summary>
      <StateView :data="details.data.value" :trouble="details.trouble.value" :is-loading="details.isLoading.value" @retry="details.reload">
        <template v-if="details.data.value" #default>
          <dl><template v-for="(values, key) in details.data.value.values" :key="key"><dt>{{ key }}</dt><dd><bdi>{{ values.join('; ') }}</bdi></dd></template></dl>
        </template>
      </StateView>
    </details>
  </section>
</template>

<style scoped>
.decide { padding: 0.6rem 0 0.8rem 1rem; border-left: 3px solid var(--water); }
h3 { margin: 0 0 0.3rem; font-size: 1rem; }
.candidates li { display: flex; flex-wrap: wrap; gap: 0.3rem 1rem; align-items: center; margin: 0.3rem 0; }
form { display: flex; flex-wrap: wrap; gap: 0.5rem; align-items: center; margin: 0.6rem 0; }
input { flex: 1; min-width: 14rem; }
summary { cursor: pointer; margin-top: 0.6rem; }
</style>
