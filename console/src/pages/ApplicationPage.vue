<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import AccountActs from '../parts/AccountActs.vue'
import AppGroups from '../parts/AppGroups.vue'
import BrakeAct from '../parts/BrakeAct.vue'
import FindingKinds from '../parts/FindingKinds.vue'
import InspectionNote from '../parts/InspectionNote.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import SyncHistory from '../parts/SyncHistory.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { count, money, number } from '../use/words'

const props = defineProps<{ name: string }>()
const name = toRef(props, 'name')
const session = useSession()
const path = computed(() => `/api/v1/applications/${encodeURIComponent(name.value)}`)
const { data: application, trouble, isLoading, reload } = useResource((signal) => api<Schemas['ApplicationView']>(path.value, { signal }), [name])
const seats = useResource((signal) => api<Page<Schemas['SeatView']>>(`${path.value}/seats`, { signal }), [name])
const accounts = usePages<Schemas['AccountView']>((cursor, signal) => api<Page<Schemas['AccountView']>>(`${path.value}/accounts${query({ cursor })}`, { signal }), [name])
const { isBusy, trouble: refused, run } = useAct()
const found = ref<Schemas['SyncView'] | null>(null)
const LEVELS = ['active', 'prepared', 'suspended', 'deleted', 'gone']

const looked = ref<Schemas['InspectionView'] | null>(null)
const looking = useAct()

async function look(): Promise<void> {
  looked.value = (await looking.run(() => api<Schemas['InspectionView']>(`${path.value}/inspect`, { method: 'POST' }))) ?? null
}

const opened = ref<number | null>(null)
const drift = ref<number | null>(null)
function decided(linked: Schemas['LinkedView']): void {
  opened.value = null
  drift.value = linked.changeSet ?? null
  void Promise.all([reload(), accounts.reload()])
}

async function sync(everything: boolean): Promise<void> {
  found.value = (await run(() => api<Schemas['SyncView']>(`${path.value}/sync${query({ everything })}`, { method: 'POST' }))) ?? null
  await Promise.all([reload(), accounts.reload()])
}
</script>

<template>
  <PageHead :title="name" place="Where" to="/where">
    <template v-if="application" #facts>
      <span>{{ application.kind.toUpperCase() }}</span>
      <span v-if="!application.problem">well <WhenText :at="application.checkedAt" /></span><span v-else class="signal">not well</span>
      <span>last sync <WhenText v-if="application.syncedAt" :at="application.syncedAt" /><template v-else>never</template></span>
    </template>
    <Button v-if="session.may('import')" label="Sync: read and compare" :loading="isBusy" @click="sync(false)" />
    <Button v-if="session.may('import')" label="Read it all" severity="secondary" :loading="isBusy" @click="sync(true)" />
  </PageHead>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="application" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="application" #default>
      <ProblemNote v-if="application.problem" :problems="[application.problem]" />
      <BrakeAct :stopped="application.paused" :stop-path="`${path}/pause`" :go-on-path="`${path}/go-on`" :what="`all work on ${application.name}`" @done="reload" />
      <p v-if="found" role="status">
        Read {{ count(found.read, 'account', 'accounts') }}<template v-if="!found.everything"> that changed</template>: <template v-if="found.inStep !== null && found.inStep !== undefined">{{ number(found.inStep) }} in step, </template>{{ number(found.drifted) }} drifted, {{ number(found.missing) }} gone, {{ number(found.unmatched) }} of nobody known.
      </p>
      <p v-if="drift" role="status">That is kept. <RouterLink class="signal" :to="`/now/change-sets/${drift}`">See what follows</RouterLink>; nothing is written before you release it.</p>
      <ul class="plain levels"><li v-for="level in LEVELS" v-show="application.accounts[level]" :key="level"><LevelMark :level="level" /> <strong>{{ number(application.accounts[level] ?? 0) }}</strong></li></ul>
      <h2>Where it and Ebb do not agree</h2>
      <FindingKinds :name="application.name" />
      <p v-if="application.drift" class="soft">All that differs is shown as one set, too: <RouterLink :to="`/now/change-sets/${application.drift}`">look and put it right</RouterLink>.</p>
      <p><RouterLink :to="`/where/${encodeURIComponent(application.name)}/dormant`">Accounts that nobody signs in to any more</RouterLink></p>
      <p><RouterLink :to="`/where/${encodeURIComponent(application.name)}/off`">Accounts that are off, and their removal</RouterLink></p>
      <p><RouterLink :to="`/where/compare?left=${encodeURIComponent(application.name)}`">Compare it with another application, or with what a source says</RouterLink></p>
      <h2>When it was read</h2>
      <SyncHistory :path="path" />
      <h2>What it can do</h2>
      <Button label="Look at it anew, writing nothing" severity="secondary" :loading="looking.isBusy.value" @click="look" />
      <ProblemNote v-if="looking.trouble.value" :problems="looking.trouble.value.problems" />
      <InspectionNote v-if="looked" :found="looked" />
      <template v-if="seats.data.value?.items.length">
        <h2>Seats</h2>
        <table class="seats">
          <thead><tr><th>Seat</th><th class="number">Taken</th><th class="number">There are</th><th class="number">Left</th><th class="number">Taken by suspended</th><th class="number">All, a month</th><th class="number">Suspended, a month</th></tr></thead>
          <tbody><tr v-for="one in seats.data.value.items" :key="one.id"><td>{{ one.name }}</td><td class="number">{{ number(one.taken) }}</td><td class="number">{{ one.total === null || one.total === undefined ? 'no limit' : number(one.total) }}</td><td class="number" :class="{ signal: one.total === one.taken }">{{ one.total === null || one.total === undefined ? '' : number(one.total - one.taken) }}</td><td class="number">{{ number(one.off) }}</td><td class="number">{{ one.price ? money(one.price, one.taken) : '' }}</td><td class="number">{{ one.price && one.off ? money(one.price, one.off) : '' }}</td></tr></tbody>
        </table>
      </template>
      <h2>Accounts</h2>
      <StateView :data="accounts.items.value" :trouble="accounts.trouble.value" :is-loading="accounts.isLoading.value" :is-empty="!accounts.items.value?.length" @retry="accounts.reload">
        <template #empty>No account is known here yet. They come with a release, or with a sync.</template>
        <table>
          <thead><tr><th>Account</th><th>Level</th><th>Whose</th><th>Groups</th><th>Seen</th></tr></thead>
          <tbody>
            <template v-for="one in accounts.items.value ?? []" :key="one.id">
            <tr>
              <td><button v-if="session.may('edit-people')" type="button" class="open" :aria-expanded="opened === one.id" @click="opened = opened === one.id ? null : one.id"><bdi>{{ one.name }}</bdi></button><bdi v-else>{{ one.name }}</bdi></td><td><LevelMark :level="one.level" /><span v-if="one.closing" class="soft small"> closing</span></td>
              <td><RouterLink v-if="one.person" :to="`/who/${one.person}`"><bdi>{{ one.displayName ?? `person ${one.person}` }}</bdi></RouterLink><span v-else-if="one.leftAlone" class="soft">nobody's, and left as it is</span><span v-else class="signal">nobody known</span><span v-if="one.person && one.leftAlone" class="soft small"> may differ</span></td>
              <td>{{ one.groups.join(', ') }}</td><td><WhenText :at="one.seenAt" /></td>
            </tr>
            <tr v-if="opened === one.id"><td colspan="5"><AccountActs :account="one" @done="decided" /></td></tr>
            </template>
          </tbody>
        </table>
        <Button v-if="accounts.hasMore.value" label="Show more" severity="secondary" @click="accounts.more" />
      </StateView>
      <h2>Groups</h2>
      <AppGroups :path="path" />
      <details><summary>How it is connected</summary><dl><template v-for="key in application.secrets" :key="key"><dt>{{ key }}</dt><dd class="soft">kept secret</dd></template><template v-for="(value, key) in application.settings" :key="key"><dt>{{ key }}</dt><dd>{{ value }}</dd></template></dl></details>
    </template>
  </StateView>
</template>

<style scoped>
.levels li { display: flex; gap: 0.5rem; align-items: center; }
.levels { display: flex; flex-wrap: wrap; gap: 0.3rem 2rem; margin: 0.8rem 0; }
details { margin-top: 1.5rem; }
summary { cursor: pointer; }
.seats { max-width: 36rem; }
.open { font: inherit; color: var(--water); background: none; border: 0; padding: 0; cursor: pointer; text-decoration: underline; text-align: left; }
</style>
