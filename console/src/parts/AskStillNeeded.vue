<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { reactive } from 'vue'
import { api, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import { useClock } from '../clock'
import { useAct } from '../use/act'
import { count, day } from '../use/words'

/** Asks whether accounts are still needed; what happens without an answer is said beforehand. */
const props = defineProps<{ name: string; accounts: number[] }>()
const emit = defineEmits<{ close: []; asked: [words: string] }>()
const WEEKS_2 = 14 * 24 * 3_600_000
const { isBusy, trouble, run } = useAct()
const form = reactive({ until: new Date(useClock().now.getTime() + WEEKS_2).toISOString().slice(0, 10), ofManager: false })

async function ask(): Promise<void> {
  await run(async () => {
    const result = await api<Schemas['StillNeededView']>(`/api/v1/applications/${encodeURIComponent(props.name)}/dormant/asks`, { method: 'POST', body: { ...form, accounts: props.accounts } })
    const left = result.notAsked.map((one) => `${one.name}: ${one.why}`)
    emit('asked', `${count(result.asked, 'letter goes', 'letters go')} out. What is not answered by ${day(form.until)} is suspended on the day after.${left.length ? ` Not asked about: ${left.join('; ')}.` : ''}`)
    emit('close')
  })
}
</script>

<template>
  <Dialog visible modal :draggable="false" header="Ask whether they are still needed" @update:visible="emit('close')">
    <form class="fields narrow" @submit.prevent="ask">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <p>One letter goes out for each owner of {{ count(accounts.length, 'account', 'accounts') }} in {{ name }}, with a page that takes one answer.</p>
      <fieldset>
        <legend>Ask</legend>
        <label class="tick"><input v-model="form.ofManager" type="radio" :value="false" /> the owners themselves</label>
        <label class="tick"><input v-model="form.ofManager" type="radio" :value="true" /> their managers</label>
      </fieldset>
      <label for="a-until">Answer by<span class="hint">on the day after, what nobody answered for is suspended by itself; nothing in it is lost</span><input id="a-until" v-model="form.until" type="date" required /></label>
      <div class="acts"><Button type="submit" :label="`Ask about ${count(accounts.length, 'account', 'accounts')}`" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.narrow { max-width: 30rem; }
fieldset { border: 0; padding: 0; margin: 0; }
legend { font-weight: 600; font-size: 0.9rem; }
</style>
