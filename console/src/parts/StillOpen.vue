<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import WhenText from './WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { count } from '../use/words'

/** What is still open to somebody's suspended accounts: each way in is shut, or waived by name and reason. */
const props = defineProps<{ person: number }>()
const session = useSession()
const path = computed(() => `/api/v1/people/${props.person}/ways-in`)
const ways = useResource(async (signal) => (await api<Page<Schemas['OffAccountView']>>(path.value, { signal })).items, [path])
const { isBusy, trouble, run } = useAct()
const waiving = ref<{ account: number; way: string } | null>(null)
const reason = ref('')
/** Shutting it would stop what depends on it. */
const isAnAccount = (way: Schemas['WayView']): boolean => way.id.startsWith('account:')
const canBeShut = (one: Schemas['OffAccountView']): boolean => one.standing === 'still open' && (one.sessions > 0 || one.ways.some((way) => !way.waivedBy && !isAnAccount(way)))
const words = (one: Schemas['OffAccountView']): string =>
  one.standing === 'not known' ? 'not known: look there by hand' : one.standing === 'being asked' ? 'being asked' : one.standing === 'off' ? 'nothing is open' : ''

async function act(what: 'shut' | 'waivers', account: number, way: string | null): Promise<void> {
  const done = await run(async () => {
    await api(`${path.value}/${what}`, { method: 'POST', body: { account, way, reason: reason.value || null } })
    return true
  })
  if (!done) return
  waiving.value = null
  reason.value = ''
  await ways.reload()
}
</script>

<template>
  <section v-if="ways.data.value?.length" aria-label="What is still open">
    <h2>What is still open to accounts that are off</h2>
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <table>
      <thead><tr><th>Application</th><th>Still open</th><th><span class="unseen">Acts</span></th></tr></thead>
      <tbody>
        <tr v-for="one in ways.data.value" :key="one.account">
          <td>{{ one.application }} <span class="soft small"><bdi>{{ one.name }}</bdi></span></td>
          <td>
            <span v-if="words(one)" :class="one.standing === 'not known' ? 'signal' : 'soft'">{{ words(one) }}</span>
            <p v-if="one.problem" class="small signal">{{ one.problem.what }} {{ one.problem.remedy }}</p>
            <p v-if="one.sessions" class="signal">{{ count(one.sessions, 'session is', 'sessions are') }} open</p>
            <ul class="plain">
              <li v-for="way in one.ways" :key="way.id">
                <span :class="way.waivedBy ? 'soft' : 'signal'">{{ way.kind }}: <RouterLink v-if="way.person" :to="`/who/${way.person}`"><bdi>{{ way.what }}</bdi></RouterLink><bdi v-else>{{ way.what }}</bdi></span>
                <span v-if="way.waivedBy" class="soft small"> may stay open, says {{ way.waivedBy }}: {{ way.reason }}</span>
                <form v-if="waiving?.account === one.account && waiving.way === way.id" class="acts" @submit.prevent="act('waivers', one.account, way.id)">
                  <label :for="`o-${way.id}`" class="unseen">Why it may stay open</label><InputText :id="`o-${way.id}`" v-model="reason" placeholder="Why, for the journal" autofocus />
                  <Button type="submit" size="small" severity="warn" label="Let it stay open" :disabled="!reason.trim()" :loading="isBusy" /><Button type="button" size="small" severity="secondary" label="Leave it" @click="waiving = null" />
                </form>
                <template v-else-if="!way.waivedBy">
                  <span v-if="isAnAccount(way)" class="soft small"> in use: <template v-if="way.person">give it to somebody else, or suspend it</template><RouterLink v-else :to="`/where/${one.application}`">say whose it is</RouterLink></span>
                  <Button v-else-if="session.may('reset')" size="small" text label="Shut it" :aria-label="`Shut ${way.kind} ${way.what}`" :loading="isBusy" @click="act('shut', one.account, way.id)" />
                  <Button v-if="session.may('departures')" size="small" text severity="secondary" label="Let it stay open …" :aria-label="`Let ${way.kind} ${way.what} stay open`" @click="waiving = { account: one.account, way: way.id }" />
                </template>
              </li>
            </ul>
            <span v-if="one.askedAt" class="soft small">asked <WhenText :at="one.askedAt" /></span>
          </td>
          <td><Button v-if="canBeShut(one) && session.may('reset')" size="small" severity="warn" label="Shut all" :aria-label="`Shut all that is open in ${one.application}`" :loading="isBusy" @click="act('shut', one.account, null)" /></td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section { border-left: 0.35rem solid var(--line-strong); padding: 0.2rem 0 0.6rem 1rem; margin-bottom: 1rem; max-width: 62rem; }
h2 { margin-top: 0.2rem; }
p { margin: 0; }
</style>
