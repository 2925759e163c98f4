<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { api, download, query, type Page, type Schemas } from '../api/client'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { bytes } from '../use/words'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'

/** What an account of a departure owned, item by item; contents are opened with a reason only. */
const props = defineProps<{ departure: number; account: Schemas['DepartureAccountView']; runs: boolean }>()
const emit = defineEmits<{ changed: [Schemas['DepartureView']] }>()
const session = useSession()
const state = ref('')
const STATES = [['', 'All'], ['owned', 'Still here'], ['arrived', 'Arrived'], ['failed', 'Failed'], ['left-out', 'Left out'], ['gone', 'Gone']] as const
const path = computed(() => `/api/v1/departures/${props.departure}`)
const list = usePages<Schemas['PieceView']>((cursor, signal) => api<Page<Schemas['PieceView']>>(`${path.value}/accounts/${props.account.id}/items${query({ state: state.value || undefined, cursor })}`, { signal }), [state])
const { isBusy, trouble, run } = useAct()
const opening = ref<string | null>(null)
async function open(piece: Schemas['PieceView']): Promise<void> {
  const done = await run(async () => {
    await download(`${path.value}/accounts/${props.account.id}/opened`, { method: 'POST', body: { item: piece.id, reason: reason.value } }, piece.name)
    return true
  })
  if (!done) return
  opening.value = null
  reason.value = ''
}
const leaving = ref<string | null>(null)
const reason = ref('')
async function leaveOut(): Promise<void> {
  const next = await run(() => api<Schemas['DepartureView']>(`${path.value}/left-out`, { method: 'POST', body: { account: props.account.id, item: leaving.value, reason: reason.value } }))
  if (!next) return
  leaving.value = null
  reason.value = ''
  emit('changed', next)
  void list.reload()
}
</script>

<template>
  <div class="switch" role="group" :aria-label="`Which items in ${account.application}`"><button v-for="[value, words] in STATES" :key="value" type="button" :aria-pressed="state === value" @click="state = value">{{ words }}</button></div>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" @retry="list.reload">
    <template #empty>Nothing is so.</template>
    <ul class="plain items">
      <li v-for="piece in list.items.value" :key="piece.id">
        <div><bdi>{{ piece.name }}</bdi> <span class="soft small">{{ bytes(piece.bytes) }}, {{ piece.state === 'owned' ? 'still here' : piece.state }}</span></div>
        <p v-if="piece.problem" class="small signal">{{ piece.problem.what }} {{ piece.problem.remedy }}</p>
        <p v-else-if="piece.leftOut" class="small">By {{ piece.leftOut }}</p>
        <p v-else-if="piece.place" class="small soft"><template v-if="piece.recipient">With <bdi>{{ piece.recipient }}</bdi>, in </template><template v-else>In </template><bdi>{{ piece.place }}</bdi><template v-if="piece.sha256">, checksum {{ piece.sha256.slice(0, 12) }}…</template></p>
        <form v-if="leaving === piece.id" class="acts" @submit.prevent="leaveOut">
          <label :for="`l-${account.id}`" class="unseen">Reason for leaving it out</label><InputText :id="`l-${account.id}`" v-model="reason" placeholder="Reason, for the sheet" autofocus />
          <Button type="submit" size="small" severity="warn" label="Leave it out: it goes with the account" :disabled="!reason.trim()" :loading="isBusy" /><Button type="button" size="small" severity="secondary" label="Keep it in" @click="leaving = null" />
        </form>
        <form v-else-if="opening === piece.id" class="acts" @submit.prevent="open(piece)">
          <label :for="`o-${account.id}`" class="unseen">Reason for opening it</label><InputText :id="`o-${account.id}`" v-model="reason" placeholder="Reason, for the journal" autofocus />
          <Button type="submit" size="small" label="Open it: that goes into the journal" :disabled="!reason.trim()" :loading="isBusy" /><Button type="button" size="small" severity="secondary" label="Keep it closed" @click="opening = null" />
        </form>
        <template v-else>
        <Button v-if="piece.carried && piece.state !== 'gone' && session.may('open-contents')" size="small" text severity="secondary" label="Open" :aria-label="`Open ${piece.name}`" @click="opening = piece.id" />
        <Button v-if="runs && piece.carried && (piece.state === 'owned' || piece.state === 'failed') && session.may('departures')" size="small" text label="Leave it out" :aria-label="`Leave ${piece.name} out`" @click="leaving = piece.id" />
        </template>
      </li>
    </ul>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
</template>

<style scoped>
.items li { padding: 0.3rem 0; border-bottom: 1px solid var(--line); }
.items p { margin: 0; }
</style>
