<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import { reactive, ref, watch } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'

/** How logins are made: tried on the people who came last before it holds for those who come. */
const PATH = '/api/v1/login-schemes'
const EXAMPLES = [
  { words: 'given.family', expressions: '' },
  { words: 'first letter and family', expressions: 'fold(person.name.givenName).substring(0, 1) + fold(person.name.familyName)' },
  { words: 'family, point, given', expressions: "fold(person.name.familyName) + '.' + fold(person.name.givenName)" },
  { words: 'initials and number', expressions: 'initials(person.displayName) + person.employeeNumber' },
  { words: 'the number alone', expressions: 'person.employeeNumber' }
]
const session = useSession()
const scheme = useResource(async (signal) => (await api<Page<Schemas['LoginSchemeView']>>(PATH, { signal })).items[0]!)
const { isBusy, trouble, run } = useAct()
const form = reactive({ expressions: '', longest: '', reserved: '', rest: '', reason: '' })
const tried = ref<Schemas['LoginTrialView'][] | null>(null)

watch(scheme.data, (now) => {
  if (now) Object.assign(form, { expressions: now.expressions.join('\n'), longest: String(now.longest), reserved: now.reserved.join(', '), rest: String(now.restDays) })
})
watch([() => form.expressions, () => form.longest, () => form.reserved, () => form.rest], () => (tried.value = null))

const lines = (text: string, sign: string): string[] => text.split(sign).map((one) => one.trim()).filter(Boolean)
const body = (): Schemas['LoginSchemeEdit'] => ({
  expressions: lines(form.expressions, '\n'),
  longest: form.longest.trim() ? Number(form.longest) : undefined,
  reserved: lines(form.reserved, ','),
  restDays: form.rest.trim() ? Number(form.rest) : undefined,
  reason: form.reason.trim() || undefined
})
async function tryOut(): Promise<void> {
  const done = await run(() => api<Page<Schemas['LoginTrialView']>>(`${PATH}/login/try`, { method: 'POST', body: body() }))
  tried.value = done?.items ?? null
}
async function keep(): Promise<void> {
  const done = await run(() => api(`${PATH}/login`, { method: 'PUT', body: body() }))
  if (done === undefined) return
  tried.value = null
  form.reason = ''
  await scheme.reload()
}
</script>

<template>
  <PageHead title="Logins" place="Why" to="/why"><template #facts>How the names are made by which people sign in; whoever has one keeps it until they are renamed</template></PageHead>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <StateView :data="scheme.data.value" :trouble="scheme.trouble.value" :is-loading="scheme.isLoading.value" @retry="scheme.reload">
    <p v-if="scheme.data.value">
      Now: <template v-if="scheme.data.value.expressions.length"><span v-for="(one, at) in scheme.data.value.expressions" :key="one"><template v-if="at">, else </template><code>{{ one }}</code></span></template><strong v-else>given.family</strong>,
      {{ scheme.data.value.longest }} characters at most; where all are taken, a number follows. The names of people who were forgotten rest for {{ scheme.data.value.restDays }} days.
      <span v-if="scheme.data.value.setBy" class="soft">Set by {{ scheme.data.value.setBy }}, <WhenText :at="scheme.data.value.setAt!" />.</span>
    </p>
  </StateView>
  <div v-if="session.may('edit-settings') && scheme.data.value" class="beside">
    <form class="fields" @submit.prevent="tryOut">
      <label>Begin with<span class="hint">a common way, to be changed below</span><Select :options="EXAMPLES" option-label="words" placeholder="Choose one" aria-label="Begin with" @update:model-value="(one: { expressions: string }) => (form.expressions = one.expressions)" /></label>
      <label for="expressions">Made of<span class="hint">CEL over person, a line each: the first that gives a free name is taken; empty for given.family</span><Textarea id="expressions" v-model="form.expressions" rows="3" spellcheck="false" class="cel" /></label>
      <label for="longest">Longest<span class="hint">characters, 4 to 64</span><InputText id="longest" v-model="form.longest" inputmode="numeric" autocomplete="off" /></label>
      <label for="reserved">Given to nobody<span class="hint">with commas between; mailboxes such as postmaster never are</span><InputText id="reserved" v-model="form.reserved" autocomplete="off" /></label>
      <label for="rest">Rest<span class="hint">days for which the names of whoever was forgotten go to nobody else</span><InputText id="rest" v-model="form.rest" inputmode="numeric" autocomplete="off" /></label>
      <div class="acts"><Button type="submit" label="Try it on who came last" :loading="isBusy" /></div>
    </form>
    <section v-if="tried" aria-label="What they would be called">
      <table>
        <thead><tr><th>Who came last</th><th>Signs in as</th><th>Would be called</th></tr></thead>
        <tbody>
          <tr v-for="one in tried" :key="one.person">
            <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
            <td class="soft">{{ one.login ?? '' }}</td>
            <td><strong v-if="one.wouldBe !== one.login">{{ one.wouldBe }}</strong><span v-else class="soft">the same</span></td>
          </tr>
        </tbody>
      </table>
      <p v-if="!tried.length" class="soft">Nobody is known yet.</p>
      <form class="acts" @submit.prevent="keep">
        <label for="reason" class="unseen">Reason, for the journal</label><InputText id="reason" v-model="form.reason" placeholder="Why, for the journal" autocomplete="off" />
        <Button type="submit" label="Call so whoever comes from now on" :loading="isBusy" />
      </form>
    </section>
  </div>
</template>

<style scoped>
.beside { display: flex; flex-wrap: wrap; gap: 1rem 3rem; align-items: flex-start; }
.beside section { flex: 1 1 26rem; }
.cel { font-family: ui-monospace, monospace; }
section .acts { margin-top: 0.8rem; }
</style>
