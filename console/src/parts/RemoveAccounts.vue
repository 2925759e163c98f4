<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, reactive } from 'vue'
import { api, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import { useAct } from '../use/act'
import { count } from '../use/words'

/** Begins the removal of accounts that are off: a part of them first, if somebody wants to look. */
const props = defineProps<{ name: string; accounts: number[] }>()
const emit = defineEmits<{ close: []; begun: [result: Schemas['RemovalView']] }>()
const { isBusy, trouble, run } = useAct()
const form = reactive({ reason: '', first: '' })
const number = computed(() => (form.first ? Math.min(Number(form.first) || 0, props.accounts.length) : props.accounts.length))

async function remove(): Promise<void> {
  await run(async () => {
    emit('begun', await api<Schemas['RemovalView']>(`/api/v1/applications/${encodeURIComponent(props.name)}/removals`, { method: 'POST', body: { accounts: props.accounts, first: form.first ? Number(form.first) : null, reason: form.reason } }))
    emit('close')
  })
}
</script>

<template>
  <Dialog visible modal :draggable="false" header="Remove accounts that are off" @update:visible="emit('close')">
    <form class="fields narrow" @submit.prevent="remove">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <p>Each of them goes the way of a departure: what it owns is asked and handed over, nothing may refer to it any more, and only then is it deleted. Until then it can be turned back: bring its owner back, and it stays.</p>
      <label for="r-reason">Why<span class="hint">it stands in the journal</span><InputText id="r-reason" v-model="form.reason" required autocomplete="off" /></label>
      <label for="r-first">Only the first<span class="hint">a part to look at before the rest; empty: all {{ accounts.length }}</span><input id="r-first" v-model="form.first" inputmode="numeric" size="4" /></label>
      <div class="acts"><Button type="submit" severity="warn" :label="`Remove ${count(number, 'account', 'accounts')}`" :disabled="number < 1" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.narrow { max-width: 32rem; }
</style>
