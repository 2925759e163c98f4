<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, reactive, watch } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { useShownSet } from '../use/set'
import { count } from '../use/words'

/** Keeps people out of applications for a time; what it does to each is seen before. */
const props = defineProps<{ people?: number[]; filter?: string; found?: number; only?: string; why?: string }>()
const emit = defineEmits<{ close: []; shown: [] }>()
const REASONS = [
  { value: 'leave', words: 'Leave, or a sabbatical' },
  { value: 'season', words: 'The season is over; they come back' },
  { value: 'dormant', words: 'Nobody signs in any more' },
  { value: 'inquiry', words: 'An inquiry' },
  { value: 'other', words: 'Something else' }
]
const MOST = 100
const { isBusy, trouble, run } = useAct()
const carryOut = useShownSet()
const form = reactive({ reason: props.why ?? 'leave', note: '', until: '', review: '', discreet: false, notices: false, left: [] as string[] })
const whom = computed(() => (props.filter ? { filter: props.filter, expected: props.found } : { people: props.people }))
/** Of everybody in everything: from it follows what can be chosen. */
const all = useResource(async (signal) => (await api<Page<Schemas['AffectedView']>>('/api/v1/suspensions/check', { method: 'POST', body: { ...whom.value, reason: 'leave', discreet: false, notices: form.notices }, signal })).items, [whom, () => form.notices], false)
const offered = computed(() => [...new Set(all.data.value?.flatMap((one) => one.applications))].sort())
// Where it is about one application, the others are left out unless somebody adds them.
watch(() => offered.value.join(), () => props.only && (form.left = offered.value.filter((one) => one !== props.only)))
const applications = computed(() => (form.left.length ? offered.value.filter((one) => !form.left.includes(one)) : []))
const affected = computed(() =>
  all.data.value?.map((one) => {
    const off = one.applications.filter((name) => !form.left.includes(name))
    return one.outcome === 'changes' && !off.length ? { ...one, applications: off, outcome: 'already so', why: 'Nothing of theirs is in use there.' } : { ...one, applications: off }
  })
)
const changing = computed(() => affected.value?.filter((one) => one.outcome === 'changes') ?? [])
const others = computed(() => affected.value?.filter((one) => one.outcome !== 'changes') ?? [])
const button = computed(() => (changing.value.length === 1 ? `Suspend ${changing.value[0]?.displayName}` : `Suspend ${count(changing.value.length, 'person', 'people')}`))

async function suspend(): Promise<void> {
  await run(async () => {
    await carryOut('/api/v1/suspensions', { ...whom.value, reason: form.reason, note: form.note || null, until: form.until || null, review: form.review || null, applications: applications.value, discreet: form.discreet, notices: form.notices })
    emit('shown')
    emit('close')
  })
}
function leave(name: string, out: boolean): void {
  form.left = out ? [...form.left, name] : form.left.filter((one) => one !== name)
}
</script>

<template>
  <Dialog visible modal :draggable="false" header="Suspend: nothing they hold is lost" @update:visible="emit('close')">
    <form class="halves" @submit.prevent="suspend">
      <div class="fields">
        <ProblemNote v-if="trouble" :problems="trouble.problems" />
        <label for="s-reason">Why<Select id="s-reason" v-model="form.reason" :options="REASONS" option-label="words" option-value="value" aria-label="Why" /></label>
        <label for="s-note">Note<span v-if="form.reason === 'other'" class="hint">what the reason is</span><InputText id="s-note" v-model="form.note" :required="form.reason === 'other'" autocomplete="off" /></label>
        <label for="s-until">Last day<span class="hint">then they are back by themselves; empty: until somebody brings them back</span><input id="s-until" v-model="form.until" type="date" /></label>
        <label for="s-review">Look again on<span class="hint">it stands in Now on that day; their seats cost meanwhile</span><input id="s-review" v-model="form.review" type="date" /></label>
        <fieldset v-if="offered.length > 1"><legend>In</legend><label v-for="name in offered" :key="name" class="tick"><input type="checkbox" :checked="!form.left.includes(name)" @change="leave(name, !($event.target as HTMLInputElement).checked)" /> {{ name }}</label></fieldset>
        <label class="tick"><input v-model="form.discreet" type="checkbox" /> Discreet: why is seen only by operators with that right</label>
        <label class="tick"><input v-model="form.notices" type="checkbox" /> What Ebb writes to them goes on, to their private address; else their manager gets it</label>
      </div>
      <div>
        <StateView :data="affected ?? null" :trouble="all.trouble.value" :is-loading="all.isLoading.value" @retry="all.reload">
          <p><strong>{{ count(changing.length, 'person is', 'people are') }} switched off</strong><template v-if="others.length">; {{ count(others.length, 'other is', 'others are') }} not changed</template>.</p>
          <div class="roll">
            <table>
              <thead><tr><th>Person</th><th>Switched off in</th></tr></thead>
              <tbody>
                <tr v-for="one in [...others, ...changing].slice(0, MOST)" :key="one.person"><td><bdi>{{ one.displayName }}</bdi></td><td><span v-if="one.outcome === 'changes'">{{ one.applications.join(', ') }}<span v-if="one.why" class="soft">: {{ one.why }}</span></span><span v-else :class="one.outcome === 'not allowed' ? 'signal' : 'soft'">{{ one.outcome }}: {{ one.why }}</span></td></tr>
              </tbody>
            </table>
            <p v-if="(affected?.length ?? 0) > MOST" class="soft small">The first {{ MOST }} are shown; on the next page are all.</p>
          </div>
        </StateView>
      </div>
      <div class="acts"><Button type="submit" severity="warn" :label="button" :disabled="!affected || affected.every((one) => one.outcome === 'not allowed')" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.halves { display: grid; grid-template-columns: 21rem minmax(22rem, 34rem); gap: 1rem 2rem; }
.halves > .acts { grid-column: 1 / -1; }
.roll { max-height: 24rem; overflow: auto; }
fieldset { border: 0; padding: 0; margin: 0; }
legend { font-weight: 600; font-size: 0.9rem; }
@media (max-width: 60rem) { .halves { grid-template-columns: 1fr; } }
</style>
