<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import AskStillNeeded from '../parts/AskStillNeeded.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import SuspendPeople from '../parts/SuspendPeople.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { count, number } from '../use/words'

/** Accounts that nobody signs in to, the longest first, with what they take all the while. */
type Dormant = Schemas['DormantView']
const props = defineProps<{ name: string }>()
const name = toRef(props, 'name')
const route = useRoute()
const router = useRouter()
const session = useSession()
const path = computed(() => `/api/v1/applications/${encodeURIComponent(name.value)}/dormant`)
const days = computed(() => String(route.query.days ?? ''))
const typed = ref(days.value)
const list = usePages<Dormant>((cursor, signal) => api<Page<Dormant>>(`${path.value}${query({ days: days.value || undefined, cursor, limit: 100 })}`, { signal }), [path, days])
const { isBusy, trouble, run } = useAct()
const asked = ref(false)
const chosen = ref(new Set<number>())
const suspending = ref<number[] | null>(null)
const asking = ref(false)
const said = ref('')
const free = computed(() => (list.items.value ?? []).filter((one) => one.person && !one.exempt))
/** Of the chosen accounts. */
const people = computed(() => [...new Set(free.value.filter((one) => chosen.value.has(one.account)).map((one) => one.person ?? 0))])
function choose(accounts: number[], on: boolean): void {
  const next = new Set(chosen.value)
  accounts.forEach((account) => (on ? next.add(account) : next.delete(account)))
  chosen.value = next
}
function toldSo(words: string): void {
  said.value = words
  chosen.value = new Set()
  list.reload()
}
async function look(): Promise<void> {
  asked.value = (await run(async () => (await api(`${path.value}/look`, { method: 'POST' }), true))) ?? false
}
</script>

<template>
  <PageHead title="Nobody signs in any more" :place="name" :to="`/where/${encodeURIComponent(name)}`">
    <template #facts><span v-if="list.total.value !== null">{{ count(list.total.value, 'account in use', 'accounts in use') }} without a sign-in by the owner</span></template>
    <Button v-if="session.may('edit-people')" label="Ask the application anew" severity="secondary" :loading="isBusy" @click="look" />
  </PageHead>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <p v-if="asked" role="status">It is being asked, account by account; this page follows.</p>
  <form class="acts" @submit.prevent="router.replace({ query: { days: typed || undefined } })">
    <label for="q-days">Not for <input id="q-days" v-model="typed" inputmode="numeric" size="4" placeholder="90" /> days or longer</label><Button type="submit" size="small" severity="secondary" label="Show" />
  </form>
  <p v-if="said" role="status">{{ said }}</p>
  <div v-if="chosen.size" class="acts chosen"><strong>{{ count(chosen.size, 'account', 'accounts') }} chosen</strong><Button :label="`Ask whether ${chosen.size === 1 ? 'it is' : 'they are'} still needed …`" @click="asking = true" /><Button severity="warn" :label="`Suspend ${count(people.length, 'person', 'people')} here …`" @click="suspending = people" /><Button severity="secondary" label="Choose nobody" @click="chosen = new Set()" /></div>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" @retry="list.reload">
    <template #empty>Of no account is it known that nobody has signed in for so long. Where nobody ever did, days count from when {{ name }} was first asked; it is asked once a day, if its setting dormantAfter says after how many days an account is dormant.</template>
    <table>
      <thead><tr><th v-if="session.may('edit-people')"><input type="checkbox" aria-label="Choose all that may be" :checked="free.length > 0 && free.every((one) => chosen.has(one.account))" @change="choose(free.map((one) => one.account), ($event.target as HTMLInputElement).checked)" /></th><th>Account</th><th>Whose</th><th>Unit</th><th>Last sign-in of its owner</th><th class="number">Days</th><th>Used otherwise</th><th>Seats taken</th><th>Stays, or is asked about</th></tr></thead>
      <tbody>
        <tr v-for="one in list.items.value ?? []" :key="one.account">
          <td v-if="session.may('edit-people')"><input v-if="one.person && !one.exempt" type="checkbox" :checked="chosen.has(one.account)" :aria-label="`Choose ${one.displayName}`" @change="choose([one.account], ($event.target as HTMLInputElement).checked)" /></td>
          <td class="whole"><bdi>{{ one.name }}</bdi></td>
          <td><RouterLink v-if="one.person" :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink><span v-else class="signal">nobody known</span></td>
          <td>{{ one.department ?? '' }}</td>
          <td><WhenText v-if="one.signedInAt" :at="one.signedInAt" /><span v-else>never</span></td>
          <td class="number">{{ one.signedInAt ? '' : 'at least ' }}{{ number(one.days) }}</td>
          <td><WhenText :at="one.usedAt" /></td>
          <td>{{ one.seats.join(', ') }}</td>
          <td class="soft">{{ one.exempt ?? one.stillNeeded ?? '' }}</td>
        </tr>
      </tbody>
    </table>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
  <AskStillNeeded v-if="asking" :name="name" :accounts="[...chosen]" @close="asking = false" @asked="toldSo" />
  <SuspendPeople v-if="suspending" :people="suspending" :only="name" why="dormant" @close="suspending = null" @shown="chosen = new Set()" />
</template>

<style scoped>
.acts { align-items: center; margin-bottom: 0.6rem; }
.whole { white-space: nowrap; }
.chosen { padding: 0.5rem 0.8rem; background: var(--water-soft); }
</style>
